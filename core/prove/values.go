package prove

import (
	_ "embed"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"draxel/core/network"
)

// Value is something that a unit can be asked for by an identifier of its own: what it says is number times scale
// plus offset. Units differ; the list comes with the unit's papers.
type Value struct {
	ID     string  `json:"id"`   // four hexadecimal digits
	Name   string  `json:"name"` // what it is, in words
	Unit   string  `json:"unit,omitempty"`
	Scale  float64 `json:"scale"`
	Offset float64 `json:"offset,omitempty"`
	Bytes  int     `json:"bytes"`            // 1 to 4
	Drives string  `json:"drives,omitempty"` // the cavity of the output that input-output control by this identifier works
}

var identifier = regexp.MustCompile(`^[0-9A-F]{4}$`)

// Check says why a value cannot be.
func (v *Value) Check() error {
	switch {
	case !identifier.MatchString(v.ID):
		return fmt.Errorf("an identifier is four hexadecimal digits, A001, and %.20q is none", v.ID)
	case strings.TrimSpace(v.Name) == "" || len(v.Name) > 80 || len(v.Unit) > 12 || len(v.Drives) > 80:
		return fmt.Errorf("%s has a name of at most 80 letters, and a unit of at most 12", v.ID)
	case v.Bytes < 1 || v.Bytes > 4:
		return fmt.Errorf("%s has 1 to 4 bytes, and not %d", v.ID, v.Bytes)
	case v.Scale == 0 || math.IsNaN(v.Scale) || math.Abs(v.Scale) > 1e9 || math.IsNaN(v.Offset) ||
		math.Abs(v.Offset) > 1e9:
		return fmt.Errorf("%s has a scale that is not 0, and an offset", v.ID)
	}
	return nil
}

// Values is what a unit can be asked for.
type Values []Value

// Check says why a list of values cannot be.
func (all Values) Check() error {
	if len(all) > MostValues {
		return fmt.Errorf("at most %d values", MostValues)
	}
	seen := map[string]bool{}
	for i := range all {
		if err := all[i].Check(); err != nil {
			return err
		}
		if seen[all[i].ID] {
			return fmt.Errorf("%s is there twice", all[i].ID)
		}
		seen[all[i].ID] = true
	}
	return nil
}

// Number gives the identifier as a number.
func (v *Value) Number() uint16 {
	n, _ := strconv.ParseUint(v.ID, 16, 16)
	return uint16(n)
}

// Of reads a value out of the bytes of an answer, the highest first.
func (v *Value) Of(raw []byte) (float64, error) {
	if len(raw) != v.Bytes {
		return 0, fmt.Errorf("%s says %d bytes where the list has %d", v.ID, len(raw), v.Bytes)
	}
	n := uint64(0)
	for _, b := range raw {
		n = n<<8 | uint64(b)
	}
	return float64(n)*v.Scale + v.Offset, nil
}

// Raw gives the bytes that say a number: the nearest there is.
func (v *Value) Raw(x float64) []byte {
	most := math.Pow(2, float64(8*v.Bytes)) - 1
	n := uint64(min(max(math.Round((x-v.Offset)/v.Scale), 0), most))
	out := make([]byte, v.Bytes)
	for i := range out {
		out[len(out)-1-i] = byte(n >> (8 * i))
	}
	return out
}

// MostValues bounds a list of values.
const MostValues = 400

// ReadValues reads a list of values, one a line: identifier; name; unit; scale; offset; bytes; drives. Tabs and
// semicolons part, and a comma does where there is neither; then numbers have a point. A first line of headings is
// passed over.
func ReadValues(text string) (Values, error) {
	out := Values{}
	for n, line := range strings.Split(strings.TrimPrefix(text, "\ufeff"), "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		by := ","
		for _, x := range []string{"\t", ";"} {
			if strings.Contains(line, x) {
				by = x
				break
			}
		}
		cells := strings.Split(line, by)
		for i := range cells {
			cells[i] = strings.Trim(strings.TrimSpace(cells[i]), `"`)
		}
		cells = append(cells, make([]string, 7)...)
		id := strings.ToUpper(strings.TrimPrefix(strings.TrimPrefix(cells[0], "0x"), "0X"))
		if len(out) == 0 && !identifier.MatchString(id) && n == 0 {
			continue
		}
		number := func(s string, empty float64) float64 {
			if s == "" {
				return empty
			}
			x, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
			if err != nil {
				return math.NaN()
			}
			return x
		}
		v := Value{ID: id, Name: cells[1], Unit: cells[2], Scale: number(cells[3], 1), Offset: number(cells[4], 0),
			Bytes: int(number(cells[5], 1)), Drives: cells[6]}
		if err := v.Check(); err != nil {
			return nil, fmt.Errorf("line %d: %w", n+1, err)
		}
		out = append(out, v)
	}
	return out, out.Check()
}

// Code is a generic fault code with what it says.
type Code struct {
	Code string // P0201
	Text string
	// Words that what an output drives has, where the code is about an output.
	Drives []string
}

//go:embed codes.txt
var codesText string

// Codes lists the generic codes that are known, SAE J2012 / ISO 15031-6, from memory.
var Codes = sync.OnceValue(func() []Code {
	var out []Code
	for line := range strings.Lines(codesText) {
		parts := strings.Split(strings.TrimSpace(line), "|")
		if strings.HasPrefix(line, "#") || len(parts) != 3 {
			continue
		}
		out = append(out, Code{strings.TrimSpace(parts[0]), strings.TrimSpace(parts[1]), strings.Fields(parts[2])})
	}
	return out
})

var codeForm = regexp.MustCompile(`^[PCBU][0-3][0-9A-F]{3}$`)

// IsCode says whether a text is a fault code: a letter and four digits.
func IsCode(text string) bool { return codeForm.MatchString(text) }

// CodeOf gives the code of its first two bytes: the letter in the two highest bits, SAE J2012.
func CodeOf(high, low byte) string {
	return fmt.Sprintf("%c%X%X%02X", "PCBU"[high>>6], high>>4&3, high&15, low)
}

// CodeBytes gives the two bytes of a code.
func CodeBytes(code string) (high, low byte) {
	if !IsCode(code) {
		return 0, 0
	}
	n, _ := strconv.ParseUint(code[1:], 16, 16)
	n |= uint64(strings.IndexByte("PCBU", code[0])) << 14
	return byte(n >> 8), byte(n)
}

// CodeText says what a code says, empty where it is none of the generic ones that are known.
func CodeText(code string) string {
	for _, c := range Codes() {
		if c.Code == code {
			return c.Text
		}
	}
	return ""
}

// About says whether a code is about an output that drives what these words say.
func (c *Code) About(drives string) bool {
	if len(c.Drives) == 0 {
		return false
	}
	words := strings.FieldsFunc(
		strings.ToLower(drives),
		func(r rune) bool { return strings.ContainsRune(" ,.()", r) },
	)
	for _, w := range c.Drives {
		if !slices.Contains(words, w) {
			return false
		}
	}
	return true
}

// OutputOf gives the output, and the device there, that a code is about; false where it is about none of this
// vehicle.
func (v *Vehicle) OutputOf(code string) (at, device string, is bool) {
	i := slices.IndexFunc(Codes(), func(c Code) bool { return c.Code == code })
	if i < 0 {
		return "", "", false
	}
	c := Codes()[i]
	for _, at := range v.Outputs() {
		if !c.About(v.Drives[at]) {
			continue
		}
		if device, is := v.DrivenBy(at); is {
			return at, device, true
		}
	}
	return "", "", false
}

// Outputs lists the cavities of the units' outputs.
func (v *Vehicle) Outputs() []string {
	var out []string
	for at := range v.Drives {
		out = append(out, at)
	}
	slices.SortFunc(out, natural)
	return out
}

// DrivenBy gives the device whose load lies at an output.
func (v *Vehicle) DrivenBy(output string) (string, bool) {
	v.ready()
	n, there := v.nodes[network.WireSide(output)]
	if !there {
		return "", false
	}
	head := v.joined(int32(n))
	for _, device := range v.Devices() {
		for _, i := range v.Of[device] {
			e := &v.Net.Elements[i]
			if v.joined(int32(e.A)) == head || v.joined(int32(e.B)) == head {
				return device, true
			}
		}
	}
	return "", false
}
