// Package pack lays the round wires of a bundle into a ring as small as it finds: how thick a bundle is at least, and
// what its cross-section looks like.
package pack
