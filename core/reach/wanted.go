package reach

import "draxel/core/harness"

// Wanted gives the harness with every wire lengthened or replaced, made from the verdicts alone and not from the steps.
// Base is the harness as it would be if every wire reached.
func (r *Result) Wanted(base harness.Harness) harness.Harness {
	ended := map[string][2]harness.Tip{}
	var gone []string
	shared := map[harness.TerminalID]int{}
	for _, w := range base.Wires() {
		tips, _ := base.Tips(w)
		for _, t := range tips {
			shared[t.Terminal]++
		}
	}
	at := func(name string) harness.Tip { return harness.Tip{State: harness.Joined, Joint: name} }
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
			first, second := at(JointName(l.Wire, 1)), at(JointName(l.Wire, 2))
			tips[end] = first
			if ended[l.Wire] = tips; l.Joints == 1 {
				ended[piece(l.Wire)] = [2]harness.Tip{first, held}
			} else {
				ended[piece(l.Wire)] = [2]harness.Tip{first, second}
				ended[harness.Stub(l.Wire, end)] = [2]harness.Tip{held, second}
			}
		case Replace:
			gone = append(gone, l.Wire)
			both := tips
			for end, held := range tips {
				if held.State == harness.Crimped && shared[held.Terminal] == 1 {
					continue
				}
				both[end] = at(JointName(l.Wire, end+1))
				ended[harness.Stub(l.Wire, end)] = [2]harness.Tip{held, both[end]}
			}
			ended[instead(l.Wire)] = both
		default:
		}
	}
	return base.Rewired(ended, gone)
}
