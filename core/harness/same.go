package harness

import "maps"

// Same says whether two harnesses are the same in everything: connectors, terminals, plugs and copper.
func (h Harness) Same(o Harness) bool {
	return h.loose == o.loose && h.cavities.same(o.cavities) && maps.Equal(h.at, o.at) &&
		maps.Equal(h.terminals, o.terminals) && maps.Equal(h.plugs, o.plugs) && maps.Equal(h.stumps, o.stumps) &&
		maps.Equal(h.crimps, o.crimps) && h.metal.same(o.metal)
}

func (c *cavities) same(o *cavities) bool {
	return c == o || c != nil && o != nil && maps.Equal(c.has, o.has)
}

func (c *copper) same(o *copper) bool {
	return c == o || c != nil && o != nil && maps.Equal(c.wires, o.wires) && maps.Equal(c.free, o.free) &&
		maps.Equal(c.out, o.out)
}
