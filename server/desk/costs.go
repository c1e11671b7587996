package desk

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"text/tabwriter"
	"time"
)

// costs is what the parts of all plans have cost since the program began.
type costs struct {
	now func() time.Time
	mu  sync.Mutex
	of  map[string]*cost
}

// cost is what a part has cost.
type cost struct {
	kept, computed int
	most, all      time.Duration
}

// watch is told of a part, and of when it is there.
func (c *costs) watch(name string, kept bool) func() {
	began := c.now()
	return func() {
		took := c.now().Sub(began)
		c.mu.Lock()
		defer c.mu.Unlock()
		if c.of == nil {
			c.of = map[string]*cost{}
		}
		x := c.of[name]
		if x == nil {
			x = &cost{}
			c.of[name] = x
		}
		if kept {
			x.kept++
			return
		}
		x.computed++
		x.all, x.most = x.all+took, max(x.most, took)
	}
}

// String gives a table, what cost most first.
func (c *costs) String() string {
	c.mu.Lock()
	defer c.mu.Unlock()
	names := make([]string, 0, len(c.of))
	for name := range c.of {
		names = append(names, name)
	}
	slices.SortFunc(names, func(a, b string) int {
		if d := c.of[b].all - c.of[a].all; d != 0 {
			return int(d)
		}
		return strings.Compare(a, b)
	})
	var out strings.Builder
	w := tabwriter.NewWriter(&out, 0, 0, 2, ' ', tabwriter.AlignRight)
	fmt.Fprintln(w, "part\tcomputed\tkept\tms in all\tms each\tms at most\t")
	ms := func(d time.Duration) string { return fmt.Sprintf("%.1f", float64(d.Microseconds())/1000) }
	for _, name := range names {
		x := c.of[name]
		fmt.Fprintf(w, "%s\t%d\t%d\t%s\t%s\t%s\t\n", name, x.computed, x.kept, ms(x.all),
			ms(x.all/time.Duration(max(x.computed, 1))), ms(x.most))
	}
	_ = w.Flush() // a strings.Builder takes all that is written
	return out.String()
}
