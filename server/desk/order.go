package desk

import (
	"maps"
	"slices"
)

// SortedKeys gives the keys of a table in their order.
func SortedKeys[V any](m map[string]V) []string { return slices.Sorted(maps.Keys(m)) }
