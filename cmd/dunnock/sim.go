package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/netip"
	"slices"
	"syscall"

	"github.com/spf13/cobra"

	"dunnock/internal/device"
)

// simCmd holds the stand-ins: small programs that play an instrument with known
// truth over the loopback protocol of docs/formats.md.
func simCmd(cfg *config) *cobra.Command {
	cmd := &cobra.Command{Use: "sim", Short: "Play an instrument, for trying things out without one"}
	cmd.AddCommand(simGripCmd(cfg))
	return cmd
}

func simGripCmd(cfg *config) *cobra.Command {
	var p device.GripPlan
	listen := ""
	cmd := &cobra.Command{
		Use:   "grip",
		Short: "Play a hand dynamometer",
		Long:  "Plays a hand dynamometer to whoever connects: one JSON object a line, docs/formats.md.\nFaults can be asked for, to see that they are survived.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if !slices.Contains([]string{"hold", "pulses"}, p.Pattern) {
				return badInput{fmt.Errorf("--pattern %q: use hold or pulses", p.Pattern)}
			}
			if p.PeakKg <= 0 || p.PeakKg > 120 || p.RateHz < 10 || p.RateHz > 1000 || p.Flood < 0 || p.Flood > 100 {
				return badInput{errors.New("give a peak of 1 to 120 kg, a rate of 10 to 1000 Hz, and a flood of at most 100")}
			}
			if listen == "" {
				listen = cfg.Grip
			}
			l, err := listenLoopback(cmd.Context(), listen)
			if err != nil {
				return err
			}
			say(cmd.OutOrStdout(), "Playing a dynamometer at %s: %s of %g kg. Stop with Ctrl-C.\n", l.Addr(), p.Pattern, p.PeakKg)
			return device.ServeGrip(cmd.Context(), l, p)
		},
	}
	f := cmd.Flags()
	f.StringVar(&listen, "listen", "", "loopback address (DUNNOCK_GRIP, default 127.0.0.1:7460)")
	f.StringVar(&p.Pattern, "pattern", "hold", "hold: long squeezes that fade; pulses: short hard ones")
	f.Float64Var(&p.PeakKg, "peak", 45, "force of the first squeeze, kg")
	f.IntVar(&p.Repeats, "repeats", 0, "squeezes in a round (1 hold, 5 pulses)")
	f.Float64Var(&p.Fade, "fade", 0.12, "share of force lost over one hold")
	f.Float64Var(&p.Tire, "tire", 0.02, "share of force lost from squeeze to squeeze")
	f.Float64Var(&p.NoiseKg, "noise", 0.1, "noise, kg (standard deviation)")
	f.Float64Var(&p.RateHz, "rate", 100, "samples a second")
	f.Uint64Var(&p.Seed, "seed", 1, "for the noise and the faults")
	f.Float64Var(&p.Duplicate, "duplicate", 0, "share of lines sent twice")
	f.Float64Var(&p.Late, "late", 0, "share of lines that overtake each other")
	f.Float64Var(&p.Garbage, "garbage", 0, "share of lines that are no JSON")
	f.IntVar(&p.HangUpAt, "hang-up", 0, "hang up after so many samples")
	f.IntVar(&p.Flood, "flood", 0, "send so many times as many samples")
	return cmd
}

// listenLoopback listens on this machine only.
func listenLoopback(ctx context.Context, address string) (net.Listener, error) {
	ap, err := netip.ParseAddrPort(address)
	if err != nil || !ap.Addr().IsLoopback() {
		return nil, badInput{fmt.Errorf("stand-ins are played on this machine only: give 127.0.0.1:port, not %q", address)}
	}
	l, err := (&net.ListenConfig{}).Listen(ctx, "tcp", address)
	if errors.Is(err, syscall.EADDRINUSE) {
		return nil, fmt.Errorf("%s is in use: stop the other stand-in, or choose another address with --listen", address)
	}
	return l, err
}

// standIn plays the dynamometer beside the demo, so that a live test can be
// tried at once. Where something listens there already, that one is used.
func (c *config) standIn(ctx context.Context, out io.Writer) {
	l, err := listenLoopback(ctx, c.Grip)
	if err != nil {
		return
	}
	say(out, "A stand-in dynamometer plays at %s.\n", c.Grip)
	go func() {
		_ = device.ServeGrip(ctx, l, device.GripPlan{Pattern: "hold", PeakKg: 41, Repeats: 3, Fade: 0.12, Tire: 0.03, NoiseKg: 0.1, RateHz: 100, Seed: 1})
	}()
}
