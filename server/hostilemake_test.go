package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"mime/multipart"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/plan"
	"draxel/core/stored"
)

// wordsOf gives names that stand in a job: connectors, cavities, wires, devices, steps.
func wordsOf(j *stored.Job) []string {
	f, err := fact.Of(*j)
	if err != nil {
		return nil
	}
	p := plan.Compute(f, j.Chosen())
	var out []string
	for i := range f.Laid.Loom.Connectors {
		out = append(out, f.Laid.Loom.Connectors[i].ID)
	}
	for i := range f.Laid.Loom.Devices {
		out = append(out, f.Laid.Loom.Devices[i].ID)
	}
	for i := range f.Laid.Loom.Wires {
		out = append(out, string(f.Laid.Loom.Wires[i].ID))
	}
	for i := range p.Work.Steps {
		out = append(out, p.Work.Steps[i].ID)
	}
	return append(
		out,
		"1",
		"2",
		"3",
		"12",
		"from",
		"to",
		"wires",
		"thin",
		"pin",
		"run",
		"crank",
		"running",
		"starter",
		"tach",
	)
}

func (a *attack) word() string {
	if a.r.IntN(3) > 0 {
		return a.words[a.r.IntN(len(a.words))]
	}
	return []string{"", " ", strings.Repeat("W", 5000), strings.Repeat("wire ", 9000), "Pack🚒horse", "חבילה",
		"a\x00b", "=1+1", "＝1", "../../etc",
		"__proto__", "1e999", "-1", "999999999999", "NaN", "<script>alert(1)</script>", "a\nb", "A" +
			strings.Repeat("̈", 400), "%s%s%n",
		"splice S1", "joint 1", "battery +", strings.Repeat("((",
			3000), "0", "20000000", "A (20000000-way)", "24/7"}[a.r.IntN(28-1)]
}

func (a *attack) number() any {
	return []any{0, 1, -1, 2, 7, 400, 1e308, -1e308, 1e-300, 3.7, math.MaxInt32, int64(1) << 53,
		int64(math.MaxInt64), 20_000_000,
		json.Number("1e999"), "7", nil}[a.r.IntN(17)]
}

// make makes a value of a schema, most of it as it should be.
func (a *attack) make(schema map[string]any, depth int) any {
	if ref, is := schema["$ref"].(string); is {
		name := ref[strings.LastIndex(ref, "/")+1:]
		d, _ := a.schema[name].(map[string]any)
		return a.make(d, depth+1)
	}
	if a.r.IntN(40) == 0 {
		return []any{nil, "x", 1, []any{}, map[string]any{}, true}[a.r.IntN(6)]
	}
	if list, is := schema["enum"].([]any); is && a.r.IntN(12) > 0 {
		return list[a.r.IntN(len(list))]
	}
	switch schema["type"] {
	case "object":
		return a.object(schema, depth)
	case "array":
		items, _ := schema["items"].(map[string]any)
		n := a.r.IntN(4)
		if a.r.IntN(60) == 0 && depth < 3 {
			n = 3000
		}
		out := []any{}
		for range n {
			if depth > 9 {
				break
			}
			out = append(out, a.make(items, depth+1))
		}
		return out
	case "string":
		return a.word()
	case "integer", "number":
		return a.number()
	case "boolean":
		return a.r.IntN(2) == 0
	}
	return a.word()
}

func (a *attack) object(schema map[string]any, depth int) any {
	out := map[string]any{}
	props, _ := schema["properties"].(map[string]any)
	required, _ := schema["required"].([]any)
	keys := make([]string, 0, len(props))
	for k := range props {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	for _, k := range keys {
		must := slices.Contains(required, any(k))
		if depth > 9 || !must && a.r.IntN(2) == 0 {
			continue
		}
		switch sub, _ := props[k].(map[string]any); k {
		case "id":
			out[k] = a.change()
		case "seen":
			out[k] = int64(1) << 40
		default:
			out[k] = a.make(sub, depth+1)
		}
	}
	if more, is := schema["additionalProperties"].(map[string]any); is {
		for range a.r.IntN(3) {
			out[a.word()] = a.make(more, depth+1)
		}
	}
	return out
}

func (a *attack) fill(path string) string {
	parts := strings.Split(path, "/")
	for i, p := range parts {
		switch {
		case p == ":job":
			parts[i] = a.jobs[a.r.IntN(len(a.jobs))]
		case strings.HasPrefix(p, ":"):
			parts[i] = strings.ReplaceAll(pathEscape(a.word()), "/", "%2F")
			if parts[i] == "" || len(parts[i]) > 3000 {
				parts[i] = "from"
			}
		}
	}
	return strings.Join(parts, "/")
}

func pathEscape(text string) string {
	var b strings.Builder
	for _, c := range []byte(text) {
		if c > 32 && c < 127 && !strings.ContainsRune("/%?#:", rune(c)) {
			b.WriteByte(c)
		} else {
			fmt.Fprintf(&b, "%%%02X", c)
		}
	}
	return b.String()
}

// table is a table that nobody should bring.
func (a *attack) table() string {
	return []string{
		"Connector,Pin,Function\n" + "A (20000000-way),1,Ground\n",
		"Connector,Pin,Function\n" + strings.Repeat("X,999,Ground\n", 50),
		func() string {
			var b strings.Builder
			b.WriteString("Connector,Pin,Function\n")
			for i := range 4000 {
				fmt.Fprintf(&b, "C%d,999,Injector %d\n", i, i)
			}
			return b.String()
		}(),
		"Pin,Function\n1," + strings.Repeat("coolant temperature sensor ", 1500) + "\n",
		"Pin\tFunction\n1\t\"\n2\tx",
		"Branch,Breaks out of\n" + func() string {
			var b strings.Builder
			for i := range 18000 {
				fmt.Fprintf(&b, "b%d,b%d\n", i+1, i)
			}
			return b.String()
		}(),
		"Device,Kind\n" + strings.Repeat("D", 100_000) + ",unit\n",
		"Wire,From,Cavity,To,Cavity\n" + strings.Repeat("W1,A,1,B,2\n", 3000),
		strings.Repeat(",", 300) + "\n", "\xff\xfe\x00", "", "PK\x03\x04rest", a.word() + "," + a.word(),
	}[a.r.IntN(13)]
}

// form is a form with a hostile table and hostile words about it.
func (a *attack) form() (io.Reader, string) {
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	_ = w.WriteField("id", a.change())
	_ = w.WriteField("seen", fmt.Sprint(int64(1)<<40))
	meta, _ := json.Marshal(
		map[string]any{
			"name":      "x",
			"trust":     "copied",
			"connector": a.word(),
			"id":        a.change(),
			"seen":      int64(1) << 40,
		},
	)
	_ = w.WriteField("meta", string(meta))
	f, err := w.CreateFormFile("file", "table.csv")
	if err != nil {
		a.t.Fatal(err)
	}
	_, _ = io.WriteString(f, a.table())
	_ = w.Close()
	return &b, w.FormDataContentType()
}

// mutated is a job file in which a few values are others.
func (a *attack) mutated() string {
	_, data, _ := a.do("GET", "/api/jobs/"+a.jobs[a.r.IntN(2)]+"/file?pictures=no", "", nil)
	var v any
	if json.Unmarshal(data, &v) != nil {
		return "{"
	}
	for range 1 + a.r.IntN(4) {
		a.mutate(v, 0)
	}
	out, _ := json.Marshal(v)
	if a.r.IntN(10) == 0 {
		out = append([]byte("\xef\xbb\xbf"), out...)
	}
	return string(out)
}

func (a *attack) mutate(v any, depth int) {
	other := func() any {
		return []any{nil, a.word(), a.number(), []any{}, map[string]any{}, []any{map[string]any{}}, true}[a.r.IntN(7)]
	}
	switch x := v.(type) {
	case map[string]any:
		keys := make([]string, 0, len(x))
		for k := range x {
			keys = append(keys, k)
		}
		slices.Sort(keys)
		if len(keys) == 0 {
			return
		}
		k := keys[a.r.IntN(len(keys))]
		if depth > 1 && a.r.IntN(3) == 0 {
			x[k] = other()
			return
		}
		a.mutate(x[k], depth+1)
	case []any:
		if len(x) == 0 {
			return
		}
		k := a.r.IntN(len(x))
		if a.r.IntN(4) == 0 {
			x[k] = other()
			return
		}
		a.mutate(x[k], depth+1)
	}
}
