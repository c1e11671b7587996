package thin

// sides gives on how many sides of a branch its connectors hang: on both only where it breaks out of a trunk.
func (l *layer) sides(branch string, guard int) int {
	if guard == deepest && len(l.plugs[branch]) > oneSided {
		return 2
	}
	return 1
}

// rows gives how many rows a branch and what hangs on it take.
func (l *layer) rows(branch string, guard int) int {
	sides := l.sides(branch, guard)
	n := (len(l.plugs[branch])+sides-1)/sides + len(l.splices[branch])
	for _, c := range l.children[branch] {
		if guard > 0 {
			n += 1 + l.rows(c.ID, guard-1)
		}
	}
	return max(n, 1)
}

// wide gives how much of the trunk a branch needs, to the left and to the right of where it breaks out.
func (l *layer) wide(branch string, guard int) (left, right float64) {
	left, right = 12, column
	if l.sides(branch, guard) == 2 {
		left = column
	}
	for _, c := range l.children[branch] {
		if guard > 0 {
			_, r := l.wide(c.ID, guard-1)
			right = max(right, r+indent)
		}
	}
	return left, right
}

// hang hangs the splices, connectors and branches of a branch along it and gives the next free row.
func (l *layer) hang(id string, x, y, away float64, row, guard int) int {
	for _, s := range l.splices[id] {
		l.spliceSpot(s, id, x, y+away*rowHeight*float64(row))
		row++
	}
	sides := l.sides(id, guard)
	for i, h := range l.plugs[id] {
		at := y + away*rowHeight*float64(row+i/sides)
		if i%sides == 1 {
			l.plug(h, id, x, at, x-indent, at)
		} else {
			l.plug(h, id, x, at, x+indent, at)
		}
	}
	row += (len(l.plugs[id]) + sides - 1) / sides
	for _, c := range l.children[id] {
		if guard == 0 {
			break
		}
		at := y + away*rowHeight*float64(row)
		last := row + l.rows(c.ID, guard-1)
		l.add(Limb{ID: c.ID, Parent: id, X1: x, Y1: at, X2: x + indent, Y2: y + away*rowHeight*(float64(last)+0.5),
			Length: c.Length})
		row = l.hang(c.ID, x+indent, y, away, row+1, guard-1)
	}
	return row
}
