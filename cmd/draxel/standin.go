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

	"draxel/core/fact"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/demo"
	"draxel/exchange"
	"draxel/standins"
)

// standin is a simulated thing of a vehicle with the address at which it is usually asked.
type standin struct {
	name, about, listen string
	serve               func(v *standins.Car, seed uint64) func(context.Context, net.Listener) error
}

// all lists the simulated things.
var all = []standin{
	{"meter", "A multimeter (SCPI over TCP) whose probes lie on a simulated vehicle", "127.0.0.1:5025",
		func(c *standins.Car, seed uint64) func(context.Context, net.Listener) error {
			return (&standins.Meter{Car: c, Noise: rand.New(rand.NewPCG(seed, 5025))}).Serve
		}},
	{"unit", "A control unit (ISO 14229 over ISO 13400) on a simulated vehicle", "127.0.0.1:13400",
		func(c *standins.Car, _ uint64) func(context.Context, net.Listener) error {
			return standins.NewUnit(c, map[uint16]string{0xF191: "STAND-IN", 0xF190: "SIMULATED"}).Serve
		}},
	{"rig", "A bench rig on a simulated vehicle: indicators on the outputs, a crank wheel", "127.0.0.1:5026",
		func(c *standins.Car, _ uint64) func(context.Context, net.Listener) error {
			return standins.NewRig(c).Serve
		}},
}

func standinCommand() *cobra.Command {
	c := &cobra.Command{Use: "standin", Short: "Run simulated outside things: a meter, a control unit, a bench rig"}
	for _, x := range all {
		c.AddCommand(standinOf(x.name, x.about, x.listen, x))
	}
	c.AddCommand(standinOf("vehicle", "All three on one simulated vehicle, each at its usual address", "", all...))
	return c
}

// standinOf gives the command that runs some of the things on one simulated vehicle.
func standinOf(name, about, usual string, things ...standin) *cobra.Command {
	var job, listen string
	var seed uint64
	c := &cobra.Command{
		Use:   name,
		Short: about + "; with a hidden fault where --seed is given",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			at := []string{listen}
			if listen == "" {
				at = nil
				for _, x := range things {
					at = append(at, x.listen)
				}
			}
			return runStandins(ctx, cmd, job, seed, at, things)
		},
	}
	c.Flags().
		StringVar(&job, "job", "",
			"job file whose wanted harness it is; the demonstration's Packhorse where none is given")
	if usual != "" {
		c.Flags().StringVar(&listen, "listen", usual, "address to listen on")
	}
	c.Flags().Uint64Var(&seed, "seed", 0, "hides a fault, another with each number; 0 hides none")
	return c
}

// runStandins serves things on one simulated vehicle until the context ends.
func runStandins(
	ctx context.Context,
	cmd *cobra.Command,
	job string,
	seed uint64,
	at []string,
	things []standin,
) error {
	v, err := simulated(job)
	if err != nil {
		return err
	}
	car := standins.NewCar(v, standins.Fault(v, seed)...)
	ended := make(chan error, len(things))
	for i, x := range things {
		l, err := net.Listen("tcp", at[i])
		if err != nil {
			return fmt.Errorf("listen for the %s: %w", x.name, err)
		}
		fmt.Fprintf(cmd.OutOrStdout(), "%s answers at %s.\n", x.name, l.Addr())
		serve := x.serve(car, seed)
		go func() { ended <- serve(ctx, l) }()
	}
	fmt.Fprintln(
		cmd.OutOrStdout(),
		"The vehicle stands with the key in run; the meter changes it: SIM:BATT OFF, SIM:UNIT OUT, SIM:FUSE OUT, "+
			"SIM:KEY CRANK.",
	)
	for range things {
		if err := <-ended; err != nil {
			return err
		}
	}
	return nil
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
	f, err := fact.Of(j)
	if err != nil {
		return nil, fmt.Errorf("read the job: %w", err)
	}
	p := plan.Compute(f, j.Chosen())
	return p.Vehicle(&f)
}
