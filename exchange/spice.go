package exchange

import (
	"bufio"
	"fmt"
	"io"
	"strings"

	"draxel/core/network"
)

// SpiceNodes gives the names that a netlist calls the nodes of a network by: what people call them, with an underscore
// in the place of what a netlist cannot say, and counted where two would be one. The reference is 0.
func SpiceNodes(n *network.Network) []string {
	out := make([]string, len(n.Names))
	taken := map[string]bool{"0": true}
	for i, name := range n.Names {
		if i == 0 {
			out[i] = "0"
			continue
		}
		plain := plainName(name)
		if plain == "" || plain[0] <= '9' { // a name that begins with a figure is taken for a number
			plain = "n" + plain
		}
		out[i] = unique(plain, taken)
	}
	return out
}

func unique(name string, taken map[string]bool) string {
	free := name
	for k := 2; taken[free]; k++ {
		free = fmt.Sprintf("%s_%d", name, k)
	}
	taken[free] = true
	return free
}

// plainName writes a name in lower-case letters, figures and underscores: a netlist knows no capitals.
func plainName(name string) string {
	name = strings.NewReplacer("+", "plus", "−", "minus", "Ω", "ohm", "µ", "u").Replace(strings.ToLower(name))
	return strings.Trim(strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' {
			return r
		}
		return '_'
	}, name), "_")
}

// WriteSpice writes a network in the state that it is in as a SPICE netlist of its operating point, which ngspice runs
// as it is. What a key, a switch or a relay holds open is there as a comment; lamps and diodes are there as what they
// are, so that another program finds their state by itself.
func WriteSpice(w io.Writer, s *network.State, title string) error {
	b := bufio.NewWriter(w)
	n, nodes := s.Network, SpiceNodes(s.Network)
	taken := map[string]bool{}
	c := s.Condition
	fmt.Fprintf(b, "* %s: key %s, engine %s\n", strings.ReplaceAll(title, "\n", " "), c.Key, running(c.Running))
	fmt.Fprintf(b, "* Volts are counted from the battery's negative terminal. %s\n", relayLine(s))
	heads := n.Heads()
	for i := range n.Elements {
		e := &n.Elements[i]
		name := unique(plainName(e.Name), taken)
		a, z := nodes[heads[e.A]], nodes[heads[e.B]]
		if !s.Gated(int32(i)) {
			fmt.Fprintf(b, "* %s %s %s: open\n", name, a, z)
			continue
		}
		if a == z {
			fmt.Fprintf(b, "* %s %s %s: both ends at one place\n", name, a, z)
			continue
		}
		ohms := s.Ohms(int32(i))
		switch e.Kind {
		case network.Source:
			volts := s.EMF(int32(i))
			if e.Limit > 0 {
				fmt.Fprintf(b, "B%s %s %s I=max(%.15g,(V(%s,%s)-%.15g)/%.15g)\n", name, a, z, -e.Limit, a, z,
					volts, ohms)
				continue
			}
			fmt.Fprintf(b, "V%s %s_emf %s %.15g\nR%s %s_emf %s %.15g\n", name, name, z, volts, name, name, a, ohms)
		case network.Diode:
			fmt.Fprintf(b, "B%s %s %s I=max(0,(V(%s,%s)-%.15g)/%.15g)\n", name, a, z, a, z, e.Volts, ohms)
		case network.Lamp:
			if more := ohms - e.Ohms; more > 0 {
				fmt.Fprintf(b, "R%s %s %s_behind %.15g\n", name, a, name, more)
				a = name + "_behind"
			}
			cold := e.Volts * network.LampKnee
			v := fmt.Sprintf("V(%s,%s)", a, z)
			fmt.Fprintf(b, "B%s %s %s I=(abs(%s)<%.15g) ? (%s/%.15g) : (sgn(%s)*%.15g*pow(abs(%s)/%.15g,%.15g))\n",
				name, a, z, v,
				cold, v, e.Ohms*network.LampCold, v, e.Volts/e.Ohms, v, e.Volts, network.LampPower)
		default:
			fmt.Fprintf(b, "R%s %s %s %.15g\n", name, a, z, ohms)
		}
	}
	for i, f := range c.Faults {
		if f.Do == network.Short {
			x, _ := n.Find(f.A)
			y, _ := n.Find(f.B)
			fmt.Fprintf(b, "Rtouch_%d %s %s %.15g\n", i+1, nodes[heads[x]], nodes[heads[y]], max(f.Ohms,
				network.HardShort))
		}
	}
	fmt.Fprint(b,
		".options rshunt=1e13 reltol=1e-9 abstol=1e-13 vntol=1e-9 gmin=1e-15\n.control\nset numdgt=12\nop\nprint all\nquit\n"+
			".endc\n.end\n")
	return b.Flush()
}

func running(on bool) string {
	if on {
		return "running"
	}
	return "standing"
}

func relayLine(s *network.State) string {
	var pulled []string
	for i, on := range s.Pulled {
		if on {
			pulled = append(pulled, s.Network.Relays[i].Name)
		}
	}
	if len(pulled) == 0 {
		return "No relay has pulled."
	}
	return "Pulled: " + strings.Join(pulled, ", ") + "."
}
