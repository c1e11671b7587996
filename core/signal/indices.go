package signal

import (
	"strconv"
	"strings"
)

var places = map[string]string{"left": "left", "right": "right", "front": "front", "rear": "rear", "intake": "intake",
	"exhaust": "exhaust",
	"fl":      "front left", "lf": "front left", "fr": "front right", "rf": "front right", "rl": "rear left",
	"lr": "rear left", "rr": "rear right"}

// indices reads the numbers, letters and places that tell one of several devices apart.
func (p *passage) indices(r *Reading) {
	var numbers []int
	for i, w := range p.words {
		if p.used[i] {
			if side := places[w]; (side == "left" || side == "right") && r.Place == "" && !strings.HasSuffix(r.Device, side) {
				r.Place = side // a phrase that has it for telling a lamp from its switch
			}
			continue
		}
		next, _ := p.number(i + 1)
		switch {
		case w == "cylinder" && next > 0:
			r.Cylinder = next
			p.use(i, i+1)
		case w == "terminal" && next > 0:
			p.use(i, i+1)
		case w == "bank" && next > 0:
			r.Bank = next
			p.use(i, i+1)
		case w == "sensor" && next > 0 && r.Index == ByBankPlace:
			r.Position = next
			p.use(i, i+1)
		case r.Index == ByBankPlace && positions[w] > 0:
			r.Position = positions[w]
			p.use(i)
		case (w == "intake" || w == "exhaust") && r.Index != ByBank: // of cams only
		case places[w] != "":
			p.place(i, r)
		case r.Device == "fan" && (w == "low" || w == "high") && r.Channel == 0:
			r.Channel = map[string]int{"low": 1, "high": 2}[w]
			p.use(i)
		}
	}
	letter := 0
	for i, w := range p.words {
		if p.used[i] {
			continue
		}
		if n, ok := p.number(i); ok {
			numbers = append(numbers, n)
			p.use(i)
		} else if len(w) == 1 && w[0] >= 'a' && w[0] <= 'f' && letter == 0 {
			letter = int(w[0]-'a') + 1
			p.use(i)
		}
	}
	r.number(numbers, letter)
}

// positions are the words for where an oxygen sensor sits: before the catalyst or after it.
var positions = map[string]int{"upstream": 1, "up": 1, "pre": 1, "front": 1, "downstream": 2, "down": 2, "post": 2,
	"rear": 2}

func (p *passage) use(at ...int) {
	for _, i := range at {
		p.used[i] = true
	}
	p.said += 0.2
}

func (p *passage) number(i int) (int, bool) {
	if i >= len(p.words) || p.used[i] {
		return 0, false
	}
	n, err := strconv.Atoi(p.words[i])
	return n, err == nil && n > 0 && n < 100
}

// place notes a side; two of them together are a corner.
func (p *passage) place(i int, r *Reading) {
	here := places[p.words[i]]
	switch {
	case r.Place == "" || r.Place == here:
		r.Place = here
	case here == "front" || here == "rear":
		r.Place = here + " " + r.Place
	default:
		r.Place += " " + here
	}
	p.use(i)
}

// number gives left-over numbers the meaning that the device's index has; a letter counts as its place in the alphabet.
func (r *Reading) number(numbers []int, letter int) {
	take := func(slot *int) {
		if *slot == 0 && len(numbers) > 0 {
			*slot = numbers[0]
			numbers = numbers[1:]
		}
	}
	switch r.Index {
	case ByCylinder:
		take(&r.Cylinder)
		if r.Cylinder == 0 {
			r.Cylinder = letter
		}
		if r.Device == "coil" && len(numbers) > 0 && numbers[0] != r.Cylinder { // coil 1 and 4
			r.Also = max(r.Cylinder, numbers[0])
			r.Cylinder = min(r.Cylinder, numbers[0])
		}
	case ByBankPlace:
		switch {
		case len(numbers) == 1 && r.Position > 0 && numbers[0] == r.Position: // "sensor 2 downstream" says it twice
			return
		case len(numbers) == 1 && numbers[0] > 10:
			numbers = []int{numbers[0] / 10, numbers[0] % 10}
			take(&r.Bank)
		case len(numbers) > 1:
			take(&r.Bank)
		}
		take(&r.Position)
		take(&r.Bank)
	case ByBank:
		take(&r.Bank)
	default:
		take(&r.Channel)
		if r.Channel == 0 && r.Index == ByChannel {
			r.Channel = r.Bank
		}
		if r.Channel == 0 && letter > 0 && r.Index == ByChannel {
			r.Channel = letter
		}
	}
}
