package stored

import (
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"draxel/core/harness"
)

// A job is kept as subjects, each a value under a name of its own, so that two people who change different things do
// not meet. What is a subject stands at the fields of Job: `kept:"map"` is one subject; `kept:"looked/*"` is one for
// each key of a map; `kept:"place/Thing.Kind/Thing.ID"` is one for each entry of a list, named by its fields, and
// `kept:"aside/#"` by its number. `said` puts the parts of the name into words for people, "cavity" stands for the
// cavity that it ends in; nothing is said where the name is a number of ours. `along` says that it comes along into the
// next job of its kind: "yes", or what is asked about it there. `word` is what a change of it is called.
// `grain:"fields"` says that its fields are each for themselves: two people may change different ones at once; else it
// is changed whole.
//
// SubjectJob is what the head of the job is kept as; the others are named where a value alone does not say it.
const (
	SubjectJob      = "job" // title, kind, donor, chassis
	SubjectVehicle  = "vehicle"
	SubjectItems    = "items"
	SubjectHave     = "have"
	SubjectArchived = "archived"
)

// ErrUnknown is the error of a subject that this Draxel does not know.
var ErrUnknown = errors.New("made by a newer Draxel")

// Head is what a job is called and what it is: one subject.
type Head struct {
	Title     string `json:"title"`
	Kind      Kind   `json:"kind"`
	Donor     string `json:"donor"`
	Chassis   string `json:"chassis"`
	OneScheme bool   `json:"oneScheme,omitempty"`
}

// subject is how a field of a job is kept.
type subject struct {
	field []int  // its index, through the record of its stage
	name  string // the whole name of one subject, the beginning of many
	many  bool
	path  [][]string // of a list: the fields that name an entry
	said  string
	apart bool         // its fields are each for themselves
	of    reflect.Type // what one subject holds
}

// Fields gives the fields of a job in the order of its file, those of the stages' records among its own.
func Fields() []reflect.StructField {
	return slices.DeleteFunc(reflect.VisibleFields(reflect.TypeFor[Job]()),
		func(f reflect.StructField) bool { return f.Anonymous })
}

var (
	kept   []subject
	byName = map[string]*subject{}
	byType = map[reflect.Type]*subject{} // nil where two hold the same type
)

func init() {
	for _, f := range Fields() {
		tag := f.Tag.Get("kept")
		if tag == "" {
			continue // the head
		}
		name, keys, many := strings.Cut(tag, "/")
		s := subject{field: f.Index, name: tag, many: many && keys != "from" && keys != "to", said: f.Tag.Get("said"),
			apart: f.Tag.Get("grain") == "fields", of: f.Type}
		if s.many {
			s.name, s.of = name+"/", f.Type.Elem()
			for key := range strings.SplitSeq(keys, "/") {
				s.path = append(s.path, strings.Split(key, "."))
			}
		}
		if s.of.Kind() == reflect.Pointer {
			s.of = s.of.Elem()
		}
		kept = append(kept, s)
	}
	for i := range kept {
		s := &kept[i]
		byName[s.name] = s
		if _, twice := byType[s.of]; twice {
			s = nil
		}
		byType[kept[i].of] = s
	}
}

// Apart says whether the fields of the subject of a name are each for themselves.
func Apart(name string) bool {
	if name == SubjectJob {
		return true
	}
	s, _ := subjectNamed(name)
	return s != nil && s.apart
}

// Settled gives the body of the subject of a name as it is stored, of one that was put together. It fails where that
// can be no such thing.
func Settled(name string, body json.RawMessage) (json.RawMessage, error) {
	of := reflect.TypeFor[Head]()
	if name != SubjectJob {
		s, _ := subjectNamed(name)
		if s == nil {
			return nil, ErrUnknown
		}
		of = s.of
	}
	v := reflect.New(of)
	if err := json.Unmarshal(body, v.Interface()); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	if err := Sound(v.Elem().Interface()); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	return json.Marshal(v.Elem().Interface())
}

// subjectNamed gives how the subject of a name is kept, and what of the name is its own.
func subjectNamed(name string) (*subject, string) {
	if s := byName[name]; s != nil {
		return s, ""
	}
	kind, rest, _ := strings.Cut(name, "/")
	return byName[kind+"/"], rest
}

// SubjectOf names the subject that a value is kept as; of an entry of a list the fields that name it are enough.
func SubjectOf[T Entry | Single](x T) string {
	s := byType[reflect.TypeFor[T]()]
	if !s.many {
		return s.name
	}
	return s.name + s.key(reflect.ValueOf(x), 0)
}

// SubjectAt names the subject of what is kept by a key: SubjectAt[gather.Looked]("C101").
func SubjectAt[T Keyed](key string) string { return byType[reflect.TypeFor[T]()].name + key }

// SubjectTable names the table of a side, "from" or "to", or a further one by its key.
func SubjectTable[S ~string](key S) string { return "table/" + string(key) }

// key names an entry of a list: by its fields, by what it calls its key itself, or by its number.
func (s *subject) key(v reflect.Value, n int) string {
	parts := make([]string, len(s.path))
	for i, fields := range s.path {
		x := v
		for _, f := range fields {
			switch at, err := strconv.Atoi(f); {
			case f == "#":
				return fmt.Sprintf("%04d", n)
			case f == "Key()":
				x = x.MethodByName("Key").Call(nil)[0]
			case err == nil:
				x = x.Index(at)
			default:
				x = x.FieldByName(f)
			}
		}
		parts[i] = x.String()
	}
	return strings.Join(parts, "/")
}

// Subjects gives all that is kept of a job, in the order of their names.
func (j *Job) Subjects() ([]Subject, error) {
	var out []Subject
	var failed error
	add := func(name string, value any) {
		body, err := json.Marshal(value)
		if err != nil {
			failed = errors.Join(failed, fmt.Errorf("write %s: %w", name, err))
		}
		out = append(out, Subject{name, body})
	}
	add(SubjectJob, Head{j.Title, j.Kind, j.Donor, j.Chassis, j.OneScheme})
	job := reflect.ValueOf(j).Elem()
	for i := range kept {
		s := &kept[i]
		v := job.FieldByIndex(s.field)
		switch {
		case !there(v):
		case !s.many:
			add(s.name, v.Interface())
		case v.Kind() == reflect.Map:
			for all := v.MapRange(); all.Next(); {
				if x := all.Value(); x.Kind() != reflect.Pointer || !x.IsNil() {
					add(s.name+all.Key().String(), x.Interface())
				}
			}
		default:
			for n := range v.Len() {
				add(s.name+s.key(v.Index(n), n), v.Index(n).Interface())
			}
		}
	}
	slices.SortFunc(out, func(a, b Subject) int { return strings.Compare(a.Name, b.Name) })
	return out, failed
}

// Subject is one thing that is kept of a job.
type Subject struct {
	Name string
	Body []byte // as JSON
}

// Take reads a subject into the job, and checks it. Entries of lists are appended. It fails with ErrUnknown where there
// is no such subject, else says why the value cannot be.
func (j *Job) Take(name string, body []byte) error {
	if name == SubjectJob {
		var h Head
		err := Keep(body, &h)
		j.Title, j.Kind, j.Donor, j.Chassis, j.OneScheme = h.Title, h.Kind, h.Donor, h.Chassis, h.OneScheme
		return err
	}
	s, rest := subjectNamed(name)
	if s == nil {
		return ErrUnknown
	}
	x := reflect.New(s.of)
	if err := Keep(body, x.Interface()); err != nil {
		return err
	}
	s.put(j, rest, x)
	return nil
}

// put puts what was read where it belongs.
func (s *subject) put(j *Job, key string, x reflect.Value) {
	v := reflect.ValueOf(j).Elem().FieldByIndex(s.field)
	as := func(t reflect.Type) reflect.Value {
		if t.Kind() == reflect.Pointer {
			return x
		}
		return x.Elem()
	}
	switch {
	case !s.many:
		v.Set(as(v.Type()))
	case v.Kind() == reflect.Map:
		if v.IsNil() {
			v.Set(reflect.MakeMap(v.Type()))
		}
		v.SetMapIndex(reflect.ValueOf(key).Convert(v.Type().Key()), as(v.Type().Elem()))
	default:
		v.Set(reflect.Append(v, as(v.Type().Elem())))
	}
}

// TakeOver takes a subject over from the job as it was, where that is kept by a pointer: a table, or a list.
func (j *Job) TakeOver(name string, last *Job) {
	s, rest := subjectNamed(name)
	v := reflect.ValueOf(last).Elem().FieldByIndex(s.field)
	if s.many {
		v = v.MapIndex(reflect.ValueOf(rest).Convert(v.Type().Key()))
	}
	s.put(j, rest, v)
}

// SubjectSaid says in words what a subject is about, empty where it is about the job as a whole.
func SubjectSaid(name string) string {
	s, rest := subjectNamed(name)
	if s == nil || !s.many || s.said == "" {
		return ""
	}
	return s.inWords(rest)
}

// inWords puts the parts of a name into what is said of it.
func (s *subject) inWords(rest string) string {
	parts := strings.SplitN(rest, "/", max(1, len(s.path)))
	if s.said == "cavity" {
		if len(parts) < 2 {
			return ""
		}
		return harness.Ref{Connector: parts[len(parts)-2], Cavity: parts[len(parts)-1]}.String()
	}
	words := s.said
	for i, part := range parts {
		words = strings.ReplaceAll(words, fmt.Sprintf("{%d}", i), part)
	}
	return words
}

// WordsOfSubjects adds to the words of changes those of the fields, by the names of their subjects.
func WordsOfSubjects(words map[string]string) map[string]string {
	for _, f := range Fields() {
		if word := f.Tag.Get("word"); word != "" {
			name, _, _ := strings.Cut(f.Tag.Get("kept"), "/")
			words[name] = word
		}
	}
	return words
}
