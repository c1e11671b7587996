package stored

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
)

// Aside is a stored value that cannot be. It counts for nothing, is kept as it is, and is named; nothing else is
// touched for its sake.
type Aside struct {
	Name  string          `json:"name"` // what it is: "decisions 3", "places 12"
	Value json.RawMessage `json:"value"`
	Why   string          `json:"why"`
}

// Check says why what was set aside cannot be.
func (a *Aside) Check() error {
	if a.Name == "" {
		return fmt.Errorf("what is set aside has a name")
	}
	return nil
}

// Asides are the findings about what was set aside.
func Asides(all []Aside) []finding.Finding {
	var out []finding.Finding
	for _, a := range all {
		out = append(out, finding.Finding{
			Code: "set-aside", Severity: finding.Wrong, Stage: "gather", Subject: a.Name,
			Text:   fmt.Sprintf("%s cannot be used and counts for nothing: %s.", a.Name, a.Why),
			Remedy: "Enter or decide it anew where it belongs. What was stored is in the job file, as it was.",
		})
	}
	return out
}

// checker is a value that says why it cannot be.
type checker interface{ Check() error }

// Keep reads one stored value and checks it, as every value is checked wherever it comes from.
func Keep(body []byte, into any) error {
	d := json.NewDecoder(bytes.NewReader(body))
	if err := d.Decode(into); err != nil {
		return fmt.Errorf("it cannot be read (%w)", err)
	}
	return Sound(into)
}

// Sound says why a value that is to be stored cannot be; anything that does not say so of itself can.
func Sound(v any) error {
	if c, ok := v.(checker); ok {
		return c.Check()
	}
	p := reflect.ValueOf(v)
	if p.Kind() != reflect.Pointer && p.IsValid() {
		q := reflect.New(p.Type())
		q.Elem().Set(p)
		if c, ok := q.Interface().(checker); ok {
			return c.Check()
		}
	}
	return nil
}

// Read reads a whole job value by value: of the lists each entry, of the rest each field. What cannot be is set
// aside. It fails only where the whole is no job.
func Read(data []byte) (Job, error) {
	var fields map[string]json.RawMessage
	if err := json.Unmarshal(data, &fields); err != nil {
		return Job{}, fmt.Errorf("it is no job: %w", err)
	}
	var j Job
	v := reflect.ValueOf(&j).Elem()
	byName := map[string][]int{}
	for _, f := range Fields() {
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		byName[name] = f.Index
	}
	names := make([]string, 0, len(fields))
	for name := range fields {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		i, known := byName[name]
		if !known {
			j.Aside = append(j.Aside, Aside{name, fields[name], "nothing of that name is part of a job"})
			continue
		}
		j.Aside = append(j.Aside, readField(name, fields[name], v.FieldByIndex(i))...)
	}
	return j, nil
}

// readField reads a field of a job, a list or a table entry by entry, and gives what cannot be.
func readField(name string, body json.RawMessage, into reflect.Value) []Aside {
	var out []Aside
	aside := func(what string, value json.RawMessage, err error) {
		out = append(out, Aside{what, value, err.Error()})
	}
	one := func(what string, value json.RawMessage, of reflect.Type) (reflect.Value, bool) {
		p := reflect.New(of)
		target := p.Interface()
		if of.Kind() == reflect.Pointer {
			p.Elem().Set(reflect.New(of.Elem()))
			target = p.Elem().Interface()
		}
		if err := Keep(value, target); err != nil {
			aside(what, value, err)
			return p, false
		}
		return p.Elem(), true
	}
	if string(bytes.TrimSpace(body)) == "null" {
		return out // nothing is said of it
	}
	switch into.Kind() {
	case reflect.Slice:
		var all []json.RawMessage
		if err := json.Unmarshal(body, &all); err != nil {
			aside(name, body, fmt.Errorf("it is no list"))
			return out
		}
		for k, value := range all {
			if x, ok := one(fmt.Sprintf("%s %d", name, k+1), value, into.Type().Elem()); ok {
				into.Set(reflect.Append(into, x))
			}
		}
	case reflect.Map:
		var all map[string]json.RawMessage
		if err := json.Unmarshal(body, &all); err != nil {
			aside(name, body, fmt.Errorf("it is no table"))
			return out
		}
		for key, value := range all {
			if x, ok := one(name+" "+key, value, into.Type().Elem()); ok {
				if into.IsNil() {
					into.Set(reflect.MakeMap(into.Type()))
				}
				into.SetMapIndex(reflect.ValueOf(key).Convert(into.Type().Key()), x)
			}
		}
	case reflect.Pointer:
		if x, ok := one(name, body, into.Type()); ok {
			into.Set(x)
		}
	default:
		if x, ok := one(name, body, into.Type()); ok {
			into.Set(x)
		}
	}
	slices.SortFunc(out, func(a, b Aside) int { return finding.Natural(a.Name, b.Name) })
	return out
}

// Check says why a table cannot be.
func (t *Table) Check() error {
	if !slices.Contains([]harness.Trust{harness.Maker, harness.Copied, harness.Earlier, harness.Measured}, t.Trust) {
		return fmt.Errorf("there is no trust %q", t.Trust)
	}
	if !slices.Contains([]match.Side{"", match.From, match.To}, t.With) {
		return fmt.Errorf("a further pinout belongs to one of the two sides, not %q", t.With)
	}
	_, _, err := t.Read()
	return err
}

// Check says why a photograph cannot be.
func (p *Photo) Check() error {
	if p.ID == "" || p.Connector == "" {
		return fmt.Errorf("a photograph is that of a connector")
	}
	return nil
}
