package reach

import "draxel/core/harness"

// Changes say that every wire is lengthened or replaced, from the verdicts alone and not from the steps. Base is the
// harness as it would be if every wire reached.
func (r *Result) Changes(base harness.Harness) harness.Changes {
	ended := map[harness.WireID][2]harness.Tip{}
	var gone []harness.WireID
	shared := map[harness.TerminalID]int{}
	for _, w := range base.Wires() {
		tips, _ := base.Tips(w)
		for _, t := range tips {
			shared[t.Terminal]++
		}
	}
	at := func(name harness.JointID) harness.Tip { return harness.Tip{State: harness.Joined, Joint: name} }
	for i := range r.Lines {
		l := &r.Lines[i]
		tips, there := base.Tips(l.Wire)
		if !there {
			continue
		}
		switch l.Verdict {
		case Extend:
			end := l.At - 1
			held := tips[end]
			first, second := at(l.Wire.Joint(1)), at(l.Wire.Joint(2))
			tips[end] = first
			if ended[l.Wire] = tips; l.Joints == 1 {
				ended[l.Wire.LetIn()] = [2]harness.Tip{first, held}
			} else {
				ended[l.Wire.LetIn()] = [2]harness.Tip{first, second}
				ended[l.Wire.Stub(end)] = [2]harness.Tip{held, second}
			}
		case Replace:
			gone = append(gone, l.Wire)
			both := tips
			for end, held := range tips {
				if held.State == harness.Crimped && shared[held.Terminal] == 1 || r.in.Wires[i].Joint[end] {
					continue
				}
				both[end] = at(l.Wire.Joint(end + 1))
				ended[l.Wire.Stub(end)] = [2]harness.Tip{held, both[end]}
			}
			ended[l.Wire.Instead()] = both
		default:
		}
	}
	return harness.Changes{Tips: ended, Gone: gone}
}
