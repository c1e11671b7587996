// Package part keeps the parts of a computation: each has a name, what it reads, and a pure function of that.
//
// A part is computed when it is asked for, and what it gave is kept with what it read. Asked for again, it is computed
// only if what it reads has become something else. So whatever changes, exactly that is computed again which follows
// from it, and nobody has to say what that is: the types of what is read say it.
package part

import (
	"reflect"
	"sync"
)

// Memory keeps of each part what it read and gave last. Its zero value remembers nothing yet; a nil Memory never
// remembers anything. It can be used by many at once.
type Memory struct {
	// Watch, where it is set, is told of each part as it is asked for and whether it is kept; what it gives is called when
	// the part is there.
	Watch func(name string, kept bool) (done func())

	mu   sync.Mutex
	last map[string]any
}

type given[R, G any] struct {
	read R
	gave *G
}

// Of gives what a part comes to. R is a struct whose fields, all exported, are all that compute looks at. What is read
// through a pointer is the same where it is the very same thing, as other parts give it; what has a method
// Same(T) bool says itself when it is; anything else is the same where it is deeply equal. What is given is shared, and
// changed by nobody.
func Of[R, G any](m *Memory, name string, read R, compute func(R) *G) *G {
	if m == nil {
		return compute(read)
	}
	m.mu.Lock()
	last, known := m.last[name].(given[R, G])
	m.mu.Unlock()
	kept := known && same(reflect.ValueOf(last.read), reflect.ValueOf(read))
	if m.Watch != nil {
		defer m.Watch(name, kept)()
	}
	if kept {
		return last.gave
	}
	m.mu.Lock()
	delete(m.last, name) // what it gave before is let go of while it is computed anew
	m.mu.Unlock()
	last = given[R, G]{}
	gave := compute(read)
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.last == nil {
		m.last = map[string]any{}
	}
	m.last[name] = given[R, G]{read, gave}
	return gave
}

// same says whether two values of one struct type read the same.
func same(a, b reflect.Value) bool {
	for i := range a.NumField() {
		x, y := a.Field(i), b.Field(i)
		method := x.MethodByName("Same")
		switch {
		case x.Kind() == reflect.Pointer:
			if x.Pointer() != y.Pointer() {
				return false
			}
		case method.IsValid():
			if !method.Call([]reflect.Value{y})[0].Bool() {
				return false
			}
		case !reflect.DeepEqual(x.Interface(), y.Interface()):
			return false
		}
	}
	return true
}

// Lazy gives a part that is computed when it is first asked for, and then only once.
func Lazy[R, G any](m *Memory, name string, read func() R, compute func(R) *G) func() *G {
	return sync.OnceValue(func() *G { return Of(m, name, read(), compute) })
}
