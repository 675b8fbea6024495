package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/netip"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"

	"github.com/spf13/cobra"

	"dunnock/internal/core/force"
	"dunnock/internal/device"
	"dunnock/internal/forcefile"
	"dunnock/internal/formats"
)

// simCmd holds the stand-ins: small programs that play an instrument with known
// truth over the loopback protocol of docs/formats.md.
func simCmd(cfg *config) *cobra.Command {
	cmd := &cobra.Command{Use: "sim", Short: "Play an instrument, for trying things out without one"}
	cmd.AddCommand(simGripCmd(cfg), simPlatesCmd(cfg), simRadarCmd(cfg))
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

func simPlatesCmd(cfg *config) *cobra.Command {
	var p device.PlatesPlan
	listen, write, side := "", "", ""
	cmd := &cobra.Command{
		Use:   "plates",
		Short: "Play two force plates, or write a recording of them",
		Long:  "Plays two force plates under a golfer to whoever connects: one JSON object a line, docs/formats.md.\nWith --write, one trial goes to a file instead (.csv or .c3d), and its truth to standard output.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := p.Check(); err != nil {
				return badInput{err}
			}
			if write != "" {
				return writeTrial(cmd.OutOrStdout(), p, write, force.Side(side))
			}
			if listen == "" {
				listen = cfg.Plates
			}
			l, err := listenLoopback(cmd.Context(), listen)
			if err != nil {
				return err
			}
			say(cmd.OutOrStdout(), "Playing two force plates at %s: a %s. Stop with Ctrl-C.\n", l.Addr(), p.Kind)
			return device.ServePlates(cmd.Context(), l, p)
		},
	}
	f := cmd.Flags()
	f.StringVar(&listen, "listen", "", "loopback address (DUNNOCK_PLATES, default 127.0.0.1:7461)")
	f.StringVar(&write, "write", "", "write one trial to this .csv or .c3d file instead")
	f.StringVar(&side, "side", "right", "side the golfer plays from, for the laboratory of a .c3d file")
	f.StringVar(&p.Kind, "kind", "jump", "jump, squat (a squat jump) or swing")
	f.Float64Var(&p.MassKg, "mass", 78, "the golfer's mass, kg")
	f.Float64Var(&p.HeightM, "height", 0.34, "jump height, m")
	f.Float64Var(&p.LeadShare, "lead-share", 0.5, "lead foot's share of a jump's force")
	f.Float64Var(&p.LateralBW, "lateral", 0.19, "lateral peak of a swing, body weights")
	f.Float64Var(&p.TurnNmPerKg, "turn", 0.68, "rotational peak, N·m a kg")
	f.Float64Var(&p.VerticalBW, "vertical", 1.65, "vertical peak, body weights")
	f.Float64Var(&p.LateralS, "lateral-before", 0.14, "lateral peak before impact, s")
	f.Float64Var(&p.TurnS, "turn-before", 0.105, "rotational peak before impact, s")
	f.Float64Var(&p.VerticalS, "vertical-before", 0.07, "vertical peak before impact, s")
	f.Float64Var(&p.NoiseN, "noise", 2, "noise on every force, N (standard deviation)")
	f.Float64Var(&p.DriftNps, "drift", 0, "drift of each plate's zero, N a second")
	f.Float64Var(&p.HumN, "hum", 0, "mains hum, N (amplitude)")
	f.Float64Var(&p.OffsetN, "offset", 0, "what each empty plate shows, N")
	f.BoolVar(&p.FalseStart, "false-start", false, "break a first start off")
	f.BoolVar(&p.StepOff, "step-off", false, "step off the plates after the jump")
	f.Float64Var(&p.RateHz, "rate", 1000, "samples a second")
	f.Float64Var(&p.PauseS, "pause", 1.5, "stillness between trials when live, s")
	f.Uint64Var(&p.Seed, "seed", 1, "for the noise")
	return cmd
}

// writeTrial writes one trial and says what is true of it.
func simRadarCmd(cfg *config) *cobra.Command {
	var p device.RadarPlan
	listen := ""
	cmd := &cobra.Command{
		Use:   "radar",
		Short: "Play a radar that measures club speed",
		Long:  "Plays a radar in front of a golfer who begins cold to whoever connects: one JSON object a line, docs/formats.md.\nFaults can be asked for, to see that they are survived.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if err := p.Check(); err != nil {
				return badInput{err}
			}
			if listen == "" {
				listen = cfg.Radar
			}
			l, err := listenLoopback(cmd.Context(), listen)
			if err != nil {
				return err
			}
			say(cmd.OutOrStdout(), "Playing a radar at %s. Stop with Ctrl-C.\n", l.Addr())
			return device.ServeRadar(cmd.Context(), l, p)
		},
	}
	f := cmd.Flags()
	f.StringVar(&listen, "listen", "", "loopback address (DUNNOCK_RADAR, default 127.0.0.1:7462)")
	f.Float64Var(&p.CeilingMps, "ceiling", 48, "club speed warm and fresh, m/s")
	f.Float64Var(&p.DeficitMps, "deficit", 3.5, "what the first swing lacks, m/s; negative: nothing")
	f.Float64Var(&p.TauSwings, "tau", 2, "constant of its decay, swings")
	f.Float64Var(&p.Fatigue, "fatigue", 0, "share of speed lost a swing after the twentieth")
	f.Float64Var(&p.NoiseCV, "noise", 0.008, "share by which swings vary; negative: not at all")
	f.Float64Var(&p.ImplementPercent, "implement", 0, "how much heavier than the own driver is swung, %")
	f.BoolVar(&p.OtherSide, "other-side", false, "swung from the other side")
	f.Float64Var(&p.PaceS, "pace", 20, "seconds between swings")
	f.IntVar(&p.Swings, "swings", 0, "silent after so many (0: never)")
	f.BoolVar(&p.NoBall, "no-ball", false, "sees no ball")
	f.Float64Var(&p.Silence, "silence", 0, "share of swings that are not seen")
	f.Float64Var(&p.Double, "double", 0, "share of swings seen twice")
	f.Float64Var(&p.Practice, "practice", 0, "share of swings with a practice swing before them")
	f.Float64Var(&p.Garbage, "garbage", 0, "share of lines that are no JSON")
	f.IntVar(&p.ClockJumpAt, "clock-jump", 0, "the radar's clock begins anew at this swing")
	f.IntVar(&p.HangUpAt, "hang-up", 0, "hang up at this swing")
	f.Uint64Var(&p.Seed, "seed", 1, "for the noise and the faults")
	return cmd
}

func writeTrial(out io.Writer, p device.PlatesPlan, path string, side force.Side) error {
	if side != force.RightSided && side != force.LeftSided {
		return badInput{fmt.Errorf("--side is right or left, not %q", side)}
	}
	r, jumpTruth, swingTruth := p.Trial(rand.New(rand.NewPCG(p.Seed, 17)))
	f, err := os.Create(path)
	if err != nil {
		return badInput{err}
	}
	switch {
	case strings.EqualFold(filepath.Ext(path), ".c3d"):
		err = forcefile.WriteC3D(f, r, side)
	default:
		err = forcefile.WriteCSV(f, r)
	}
	if err = errors.Join(err, f.Close()); err != nil {
		return err
	}
	if p.Kind == "swing" {
		return formats.WriteJSON(out, swingTruth)
	}
	return formats.WriteJSON(out, jumpTruth)
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

// standIns plays the dynamometer, the plates and the radar beside the demo, so that live
// tests can be tried at once. Where something listens there already, that one is
// used.
func (c *config) standIns(ctx context.Context, out io.Writer) {
	if l, err := listenLoopback(ctx, c.Grip); err == nil {
		say(out, "A stand-in dynamometer plays at %s.\n", c.Grip)
		go func() {
			_ = device.ServeGrip(ctx, l, device.GripPlan{Pattern: "hold", PeakKg: 41, Repeats: 3, Fade: 0.12, Tire: 0.03, NoiseKg: 0.1, RateHz: 100, Seed: 1})
		}()
	}
	if l, err := listenLoopback(ctx, c.Plates); err == nil {
		say(out, "Stand-in force plates play a jump at %s.\n", c.Plates)
		go func() {
			_ = device.ServePlates(ctx, l, device.PlatesPlan{Kind: "jump", NoiseN: 2, LeadShare: 0.52, Seed: 1})
		}()
	}
	if l, err := listenLoopback(ctx, c.Radar); err == nil {
		say(out, "A stand-in radar plays a golfer who begins cold at %s.\n", c.Radar)
		go func() {
			_ = device.ServeRadar(ctx, l, device.RadarPlan{DeficitMps: 4, TauSwings: 4, PaceS: 2.5, Seed: 4})
		}()
	}
}
