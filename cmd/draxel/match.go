package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"strconv"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/exchange"
)

func matchCommand() *cobra.Command {
	var from, to, format string
	c := &cobra.Command{
		Use:   "match --from a.csv --to b.csv",
		Short: "Crosswalk two pinout tables (CSV, TSV or XLSX); housings of the same name are kept",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			write, ok := writers[format]
			if !ok {
				return fmt.Errorf("--format %q: use table, csv or json", format)
			}
			a, err := readPinout(from)
			if err != nil {
				return err
			}
			b, err := readPinout(to)
			if err != nil {
				return err
			}
			r := match.Crosswalk(a, b, match.SameNames(a, b), nil)
			if err := write(cmd.OutOrStdout(), lines(r)); err != nil {
				return fmt.Errorf("write the crosswalk: %w", err)
			}
			return nil
		},
	}
	c.Flags().StringVar(&from, "from", "", "pinout of the harness whose terminals are moved")
	c.Flags().StringVar(&to, "to", "", "pinout of the cavities to be filled")
	c.Flags().StringVar(&format, "format", "table", "table, csv or json")
	for _, f := range []string{"from", "to"} {
		if err := c.MarkFlagRequired(f); err != nil {
			panic(err)
		}
	}
	return c
}

func readPinout(path string) (harness.Pinout, error) {
	info, err := os.Stat(path)
	if err != nil {
		return harness.Pinout{}, err
	}
	if info.IsDir() || info.Size() > exchange.MaxBytes {
		return harness.Pinout{}, fmt.Errorf("%s: not a file of less than %d MB", path, exchange.MaxBytes>>20)
	}
	data, err := os.ReadFile(path)
	if err != nil {
		return harness.Pinout{}, err
	}
	table, err := exchange.ReadTable(data, "")
	if err != nil {
		return harness.Pinout{}, fmt.Errorf("%s: %w", path, err)
	}
	r, err := gather.Read(table.Cells, gather.Options{})
	if err != nil {
		return harness.Pinout{}, fmt.Errorf("%s: %w", path, err)
	}
	return r.Pinout(path), nil
}

// line is one line of the crosswalk as the shell sees it.
type line struct {
	FromConnector     string  `json:"from_connector"`
	FromCavity        string  `json:"from_cavity"`
	Verdict           string  `json:"verdict"`
	ToConnector       string  `json:"to_connector"`
	ToCavity          string  `json:"to_cavity"`
	Probability       float64 `json:"probability"`
	RunnerUpConnector string  `json:"runner_up_connector"`
	RunnerUpCavity    string  `json:"runner_up_cavity"`
	Evidence          string  `json:"evidence"`
}

func lines(r *match.Result) []line {
	out := []line{}
	for _, l := range r.Lines {
		x := line{FromConnector: l.From.Connector, FromCavity: l.From.Cavity, Verdict: string(l.Verdict),
			ToConnector: l.To.Connector, ToCavity: l.To.Cavity, Probability: l.P}
		if l.RunnerUp != nil {
			x.RunnerUpConnector, x.RunnerUpCavity = l.RunnerUp.To.Connector, l.RunnerUp.To.Cavity
		}
		if l.To.Cavity != "" {
			x.Evidence = r.Summary(l.From, l.To)
		}
		out = append(out, x)
	}
	for _, w := range r.Wants {
		out = append(out, line{Verdict: string(w.Verdict), ToConnector: w.To.Connector, ToCavity: w.To.Cavity,
			Probability: w.P})
	}
	return out
}

var writers = map[string]func(io.Writer, []line) error{"csv": writeCSV, "json": writeJSON, "table": writeTable}

func writeCSV(w io.Writer, all []line) error {
	rows := [][]string{strings.Split("from_connector,from_cavity,verdict,to_connector,to_cavity,"+
		"probability,runner_up_connector,runner_up_cavity,evidence", ",")}
	for _, l := range all {
		rows = append(rows, []string{l.FromConnector, l.FromCavity, l.Verdict, l.ToConnector, l.ToCavity,
			strconv.FormatFloat(l.Probability, 'f', -1, 64), l.RunnerUpConnector, l.RunnerUpCavity, l.Evidence})
	}
	return exchange.WriteTableCSV(w, rows)
}

func writeJSON(w io.Writer, all []line) error {
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	return e.Encode(all)
}

func writeTable(w io.Writer, all []line) error {
	out := tabwriter.NewWriter(w, 0, 4, 2, ' ', 0)
	ref := func(connector, cavity string) string {
		if cavity == "" {
			return "·"
		}
		return harness.Ref{Connector: connector, Cavity: cavity}.String()
	}
	fmt.Fprintln(out, "FROM\tVERDICT\tTO\tCERTAIN\tNEXT BEST\tEVIDENCE IN BITS")
	for _, l := range all {
		fmt.Fprintf(out, "%s\t%s\t%s\t%3.0f %%\t%s\t%s\n", ref(l.FromConnector, l.FromCavity), l.Verdict,
			ref(l.ToConnector, l.ToCavity),
			100*l.Probability, ref(l.RunnerUpConnector, l.RunnerUpCavity), l.Evidence)
	}
	return out.Flush()
}
