package main

import (
	"context"
	"fmt"
	"math/rand/v2"
	"net"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/demo"
	"draxel/exchange"
	"draxel/standins"
)

func standinCommand() *cobra.Command {
	c := &cobra.Command{Use: "standin", Short: "Run a simulated outside thing: a meter on a simulated vehicle"}
	c.AddCommand(meterCommand())
	return c
}

func meterCommand() *cobra.Command {
	var job, listen string
	var seed uint64
	c := &cobra.Command{
		Use:   "meter",
		Short: "A multimeter (SCPI over TCP) whose probes lie on a simulated vehicle, with a hidden fault where --seed is given",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return runMeter(ctx, cmd, job, listen, seed)
		},
	}
	c.Flags().StringVar(&job, "job", "", "job file whose wanted harness is measured; the demonstration's Packhorse where none is given")
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:5025", "address to listen on")
	c.Flags().Uint64Var(&seed, "seed", 0, "hides a fault, another with each number; 0 hides none")
	return c
}

// runMeter serves a meter until the context ends.
func runMeter(ctx context.Context, cmd *cobra.Command, job, listen string, seed uint64) error {
	v, err := simulated(job)
	if err != nil {
		return err
	}
	m := &standins.Meter{Vehicle: v, Noise: rand.New(rand.NewPCG(seed, 5025))}
	if seed > 0 {
		causes := v.Causes()
		m.Hidden = causes[rand.New(rand.NewPCG(seed, 1)).IntN(len(causes))].Faults
	}
	l, err := net.Listen("tcp", listen)
	if err != nil {
		return fmt.Errorf("listen for the meter: %w", err)
	}
	fmt.Fprintf(cmd.OutOrStdout(), "A meter answers at %s. Its vehicle: SIM:BATT ON, SIM:UNIT IN, SIM:KEY RUN.\n", l.Addr())
	return m.Serve(ctx, l)
}

// simulated gives the wanted harness of a job file as what a meter is put on.
func simulated(file string) (*prove.Vehicle, error) {
	all, err := demo.Jobs()
	if err != nil {
		return nil, fmt.Errorf("read the demonstration: %w", err)
	}
	j := all[1]
	if file != "" {
		data, err := os.ReadFile(file)
		if err != nil {
			return nil, fmt.Errorf("read the job file: %w", err)
		}
		if j, _, err = exchange.ReadJob(data); err != nil {
			return nil, fmt.Errorf("read %s: %w", file, err)
		}
	}
	f, err := j.Facts()
	if err != nil {
		return nil, fmt.Errorf("read the job: %w", err)
	}
	p := plan.Compute(f, j.Chosen())
	return p.Vehicle(&f)
}
