package exchange

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"slices"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/stored"
)

// Format is the version of the job file that this Draxel writes. Older ones are read, newer ones refused. Format 2
// added the structure of the harness, readings, traces, photographs, and what Thin decides and has done; format 3 the
// faces of connectors and what Pin's work notes; format 4 stations, paths and what Reach decides and measures; format
// 5 how connectors are met, ways, origins of new wires, steps of one's own and answers to findings; format 6 further
// pinouts, what connectors come from, lines struck out, tables side by side, and the lists that Feed goes by; format
// 7 a fuse block of one's own, fuses that are changed, and ways to feed a job; format 8 what is wanted and stated of
// functions, rules of outputs, the parts that functions ask for, and what was measured, passed and mended in Prove;
// format 9 what was written into the unit, notes, what the unit can be asked for, and rounds of the trainer; format 10
// time that was noted, what is said of the order list, what hours are reckoned with, and jobs that are put away; format
// 11 how certain a match was when it was decided, the size that a new wire is said to have, and bare ends.
const Format = 11

// JobFile is a whole job in one file: backup, sharing, bug report and test fixture at once.
type JobFile struct {
	Format   int                `json:"format"`
	Job      stored.Job         `json:"job"`
	Pictures map[string]Picture `json:"pictures,omitempty"` // by photograph, as base64
}

// Limits of a job file that is read: of the job itself, and of its photographs. What Draxel writes it reads.
const (
	MaxJobBytes  = 4 * MaxBytes // of the job without its pictures
	MaxPictures  = 2000
	MaxFileBytes = 2 << 30 // of all of it
)

// WriteJob writes the job file with pictures that are at hand.
func WriteJob(w io.Writer, j stored.Job, pictures map[string]Picture) error {
	return StreamJob(
		w,
		j,
		slices.Sorted(maps.Keys(pictures)),
		func(id string) (Picture, error) { return pictures[id], nil },
	)
}

// StreamJob writes the job file, one picture after the other, so that no more than one is in memory. One that is not
// there any more (ErrNoPicture) is left out.
func StreamJob(w io.Writer, j stored.Job, ids []string, picture func(id string) (Picture, error)) error {
	out := bufio.NewWriter(w)
	body, err := json.MarshalIndent(j, "  ", "  ")
	if err != nil {
		return fmt.Errorf("write job file: %w", err)
	}
	fmt.Fprintf(out, "{\n  \"format\": %d,\n  \"job\": %s", Format, body)
	written := 0
	for _, id := range ids {
		p, err := picture(id)
		if errors.Is(err, ErrNoPicture) {
			continue
		}
		var name, value []byte
		if err == nil {
			name, err = json.Marshal(id)
		}
		if err == nil {
			value, err = json.Marshal(p)
		}
		if err != nil {
			return fmt.Errorf("write job file: photograph %s: %w", id, err)
		}
		before := ",\n"
		if written++; written == 1 {
			before = ",\n  \"pictures\": {\n"
		}
		fmt.Fprintf(out, "%s    %s: %s", before, name, value)
	}
	if written > 0 {
		fmt.Fprint(out, "\n  }")
	}
	fmt.Fprint(out, "\n}\n")
	if err := out.Flush(); err != nil {
		return fmt.Errorf("write job file: %w", err)
	}
	return nil
}

// ErrNoPicture says that a photograph is not there any more.
var ErrNoPicture = errors.New("there is no such photograph")

// ReadJob reads a job file that is at hand.
func ReadJob(data []byte) (stored.Job, map[string]Picture, error) {
	pictures := map[string]Picture{}
	j, err := ReadJobFrom(bytes.NewReader(data), func(id string, p Picture) error {
		pictures[id] = p
		return nil
	})
	if err != nil {
		return stored.Job{}, nil, err
	}
	return j, pictures, nil
}

// budget fails a reader that has given more than it may before it is told anew how much that is.
type budget struct {
	r    io.Reader
	left int64
	all  int64 // of the whole file
}

var (
	errTooMuch  = errors.New("too much in one value")
	errTooLarge = errors.New("too much in the file")
)

func (b *budget) Read(p []byte) (int, error) {
	if b.left <= 0 {
		return 0, errTooMuch
	}
	if b.all <= 0 {
		return 0, errTooLarge
	}
	n, err := b.r.Read(p[:min(int64(len(p)), b.left, b.all)])
	b.left -= int64(n)
	b.all -= int64(n)
	return n, err
}

// jobReader reads a job file as it comes.
type jobReader struct {
	*json.Decoder
	budget *budget
	keep   func(id string, p Picture) error
	format int
	job    json.RawMessage
	seen   map[string]bool
}

// ReadJobFrom reads a job file as it comes and checks that it hangs together. Each picture is made anew as if it were
// brought by itself, so that a file from elsewhere brings nothing else, and given to keep: no more than one is in
// memory. A byte-order mark before it is passed over. It fails with a *Refusal, and with what keep and the reader fail
// with.
func ReadJobFrom(r io.Reader, keep func(id string, p Picture) error) (stored.Job, error) {
	in := bufio.NewReader(r)
	if mark, err := in.Peek(3); err == nil && bytes.Equal(mark, []byte("\xEF\xBB\xBF")) {
		_, _ = in.Discard(3)
	}
	b := &budget{r: in, left: MaxJobBytes, all: MaxFileBytes}
	x := &jobReader{Decoder: json.NewDecoder(b), budget: b, keep: keep, seen: map[string]bool{}}
	if err := x.read(); err != nil {
		return stored.Job{}, x.refusal(err)
	}
	j, err := stored.Read(x.job)
	if err == nil {
		err = checkJob(j)
	}
	if err != nil {
		return stored.Job{}, refuse("damaged-job", "the job file is damaged: %v", err)
	}
	return j, nil
}

// refusal says in a person's words why the file cannot be read; what the network or the disk failed with stays what
// it is.
func (x *jobReader) refusal(err error) error {
	var r *Refusal
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &r):
		return err
	case errors.Is(err, errTooMuch), errors.Is(err, errTooLarge):
		return refuse(
			"too-large",
			"the job file is too large: at most %d MB of job, %d photographs of %d MB, %d MB in all are read",
			MaxJobBytes>>20,
			MaxPictures,
			MaxPicture>>20,
			MaxFileBytes>>20,
		)
	case errors.As(err, &syntax), errors.As(err, &kind), errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		if x.format == 0 {
			return refuse("not-a-job", "this is not a Draxel job file")
		}
		return refuse("damaged-job", "the job file is damaged: %v", err)
	}
	return err
}

func (x *jobReader) read() error {
	if err := x.delim('{'); err != nil {
		return err
	}
	for x.More() {
		key, err := x.key()
		if err != nil {
			return err
		}
		x.budget.left = MaxJobBytes
		switch key {
		case "format":
			err = x.version()
		case "job":
			err = x.Decode(&x.job)
		case "pictures":
			err = x.pictures()
		default:
			if x.format == 0 {
				return refuse("not-a-job", "this is not a Draxel job file")
			}
			return refuse("damaged-job", "the job file is damaged: %q is no part of one", clip(key))
		}
		if err != nil {
			return err
		}
	}
	if err := x.delim('}'); err != nil {
		return err
	}
	if _, err := x.Token(); !errors.Is(err, io.EOF) {
		return refuse("not-a-job", "there is something behind the end of the job file")
	}
	if x.format == 0 || x.job == nil {
		return refuse("not-a-job", "this is not a Draxel job file")
	}
	return nil
}

// clip shortens what a file says before it is said again.
func clip(text string) string {
	if r := []rune(text); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return text
}

func (x *jobReader) delim(want json.Delim) error {
	t, err := x.Token()
	if err == nil && t != want {
		return refuse("not-a-job", "this is not a Draxel job file")
	}
	return err
}

func (x *jobReader) key() (string, error) {
	t, err := x.Token()
	if err != nil {
		return "", err
	}
	key, is := t.(string)
	if !is || x.seen[key] {
		return "", refuse("damaged-job", "the job file is damaged: %q is in it twice", clip(key))
	}
	x.seen[key] = true
	return key, nil
}

func (x *jobReader) version() error {
	var n *int
	if err := x.Decode(&n); err != nil {
		return refuse("not-a-job", "this is not a Draxel job file")
	}
	switch {
	case n == nil || *n < 1:
		return refuse("not-a-job", "this is not a Draxel job file: there is no such format")
	case *n > Format:
		return refuse(
			"newer-format",
			"the job file was written by a newer Draxel (format %d, this one reads up to %d): update Draxel and "+
				"open it again",
			*n,
			Format,
		)
	}
	x.format = *n
	return nil
}

func (x *jobReader) pictures() error {
	t, err := x.Token()
	if err != nil || t == nil { // null: there are none
		return err
	}
	if t != json.Delim('{') {
		return refuse("damaged-job", "the job file is damaged: its photographs are no photographs")
	}
	seen := map[string]bool{}
	for x.More() {
		t, err := x.Token()
		if err != nil {
			return err
		}
		id, is := t.(string)
		if !is || seen[id] || len(id) > 100 || len(seen) >= MaxPictures {
			return refuse(
				"damaged-job",
				"the job file is damaged: photograph %q is in it twice, or there are more than %d",
				clip(id),
				MaxPictures,
			)
		}
		seen[id] = true
		x.budget.left = 2 * MaxPicture
		var p Picture
		if err := x.Decode(&p); err != nil {
			return err
		}
		again, err := ReadPicture("", p.Data)
		if err != nil {
			return refuse("damaged-job", "the job file is damaged: photograph %s: %v", clip(id), err)
		}
		if err := x.keep(id, again); err != nil {
			return err
		}
	}
	_, err = x.Token() // its end
	return err
}

// checkJob says why there is no job in what could be read; a value that cannot be has been set aside before.
func checkJob(j stored.Job) error {
	if _, ok := j.Kind.Info(); !ok {
		return fmt.Errorf("there is no kind of job %q", j.Kind)
	}
	if j.Title == "" {
		return fmt.Errorf("the job has no title")
	}
	_, err := fact.Of(j)
	return err
}

// Trusts lists the trusts that a table can have.
func Trusts() []harness.Trust {
	return []harness.Trust{harness.Maker, harness.Copied, harness.Earlier, harness.Measured}
}
