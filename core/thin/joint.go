package thin

import (
	"fmt"

	"draxel/core/circuit"
	"draxel/core/harness"
)

// Joint names the joint that is there afterwards, empty where there is none any more.
func (j *JointVerdict) Joint() harness.JointID {
	switch j.Fate {
	case Leave, Trim:
		return j.ID
	case Through:
		return j.ID.Through()
	case Rejoin:
		return rejoinName(j.ID)
	}
	return ""
}

func word(k circuit.Kind) JointKind {
	switch k {
	case circuit.Splice:
		return AtSplice
	case circuit.Link:
		return InJunction
	case circuit.Contact:
		return InLine
	case circuit.Terminal:
		return InTerminal
	case circuit.Unseen, circuit.Taped:
	}
	return AtEnd
}

// off says whether a connector comes off: it was decided away as a whole. One that carries what is left to qualified
// hands stays.
func (t *thinning) off(h int32) bool { return h >= 0 && t.half[h].choice == Goes && !t.guard.Plugs[h] }

// joints gives each splice its verdict, and every other place where wires meet and something is to be done.
func (t *thinning) joints() {
	n := t.net
	for i := range n.Nodes {
		at := int32(i)
		x := &n.Nodes[i]
		tips := n.Tips(at)
		if !x.Kind.Passes() && (x.Kind != circuit.Terminal || len(tips) < 2) || len(tips) == 0 {
			continue
		}
		if x.Kind == circuit.Contact && !t.off(x.Half) {
			continue
		}
		stays, goes := 0, 0
		for _, x := range tips {
			if t.stays[x.Wire()] {
				stays++
			} else {
				goes++
			}
		}
		taken := x.Kind != circuit.Splice && t.takenAny(x)
		if x.Kind != circuit.Splice && !taken && (goes == 0 || x.Kind == circuit.Terminal || x.Kind == circuit.Contact) {
			continue // ends in connectors are dealt with where they are
		}
		j := JointVerdict{Kind: word(x.Kind), At: x.Cavities, node: at, taken: taken}
		j.Fate, j.Why = t.fate(at, stays, goes, taken)
		if x.Kind == circuit.Splice {
			j.ID = t.spliceID(x, at)
			if x.Splice >= 0 {
				j.Added = t.loom.Splices[x.Splice].Added
			}
		} else {
			j.ID = harness.JointID(x.Cavities[0].String())
		}
		j.Stays, j.Goes = make([]harness.WireID, 0, stays), make([]harness.WireID, 0, goes)
		for _, x := range tips {
			w := x.Wire()
			if t.stays[w] {
				j.Stays = append(j.Stays, t.loom.Wires[w].ID)
				continue
			}
			j.Goes = append(j.Goes, t.loom.Wires[w].ID)
			if j.System == "" {
				j.System = t.result.Wires[w].System
			}
		}
		if j.System == "" && taken {
			j.System = t.systemOfHalf(x.Half)
		}
		t.result.Joints = append(t.result.Joints, j)
	}
}

// takenAny says whether the connector that cavities meet in comes off; an in-line pair only with both its halves.
func (t *thinning) takenAny(x *circuit.Node) bool {
	for _, c := range x.Cavities {
		h, ok := t.net.Half(c.Connector)
		if !ok || !t.off(h) {
			return false
		}
	}
	return len(x.Cavities) > 0
}

func (t *thinning) systemOfHalf(h int32) string {
	if h < 0 || t.net.Plugged[h] < 0 {
		return ""
	}
	return t.loom.Devices[t.net.Plugged[h]].System
}

// spliceID names a splice node; one that only wires speak of has no entry of its own.
func (t *thinning) spliceID(x *circuit.Node, at int32) harness.JointID {
	if x.Splice >= 0 {
		return t.loom.Splices[x.Splice].ID
	}
	return t.net.End(t.net.Tips(at)[0]).Splice
}

func (t *thinning) fate(at int32, stays, goes int, taken bool) (Fate, string) {
	switch x := &t.net.Nodes[at]; {
	case taken && stays >= 2:
		return Rejoin, fmt.Sprintf("%d wires that stay meet in it, and it comes off: they are joined without it.", stays)
	case taken:
		return Dissolve, "It comes off, and no two wires that stay met in it."
	case goes == 0:
		return Leave, "Every leg stays."
	case t.guard.Nodes[at] && x.Kind == circuit.Splice:
		return Trim, fmt.Sprintf("It belongs to a restraint or high-voltage circuit and is left alone; %s cut off it.",
			are(goes))
	case x.Kind != circuit.Splice:
		return Trim, fmt.Sprintf("%d legs leave the junction, %d stay.", goes, stays)
	case stays >= 3:
		return Trim, fmt.Sprintf("%d legs stay, so the splice stays; %s cut off it.", stays, are(goes))
	case stays == 2:
		return Through, fmt.Sprintf("Two legs stay and %s go: the two become one wire.", legs(goes))
	case stays == 1:
		return Dissolve, "One leg stays, and it joins nothing any more: the splice is not needed."
	}
	return Dissolve, "Every leg goes."
}

func legs(n int) string {
	if n == 1 {
		return "the dead one"
	}
	return fmt.Sprintf("%d dead ones", n)
}

func are(n int) string {
	if n == 1 {
		return "the dead leg is"
	}
	return fmt.Sprintf("%d dead legs are", n)
}
