package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/swing"
	"dunnock/internal/forcefile"
	"dunnock/internal/formats"
)

// forceCmd analyses recordings of ground force without a server.
func forceCmd() *cobra.Command {
	cmd := &cobra.Command{Use: "force", Short: "Analyse a recording of ground force: a jump or a swing, from CSV or C3D"}
	cmd.AddCommand(forceJumpCmd(), forceSwingCmd())
	for _, c := range cmd.Commands() {
		args := c.Args
		c.Args = func(cmd *cobra.Command, a []string) error {
			if err := args(cmd, a); err != nil {
				return badInput{err}
			}
			return nil
		}
		c.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return badInput{err} })
	}
	return cmd
}

// recordingFlags say how a file is read.
type recordingFlags struct {
	side, mapFile string
	rate, mass    float64
	json          bool
}

func (o *recordingFlags) add(cmd *cobra.Command, side string) {
	cmd.Flags().StringVar(&o.side, "side", side, "side the ball is struck from in this recording: right or left")
	cmd.Flags().StringVar(&o.mapFile, "map", "", "JSON file that says what the columns and axes are (default: found by name)")
	cmd.Flags().Float64Var(&o.rate, "rate", 0, "sampling rate in Hz, where the file does not say")
	cmd.Flags().Float64Var(&o.mass, "mass", 0, "the golfer's mass in kg, where nobody stands still long enough to be weighed")
	cmd.Flags().BoolVar(&o.json, "json", false, "write JSON")
}

// read returns the recording in a file, "-" for standard input.
func (o *recordingFlags) read(path string) (*force.Recording, error) {
	side := force.Side(o.side)
	switch side {
	case force.RightSided, force.LeftSided:
	case "":
		return nil, badInput{fmt.Errorf("--side is needed: right or left, the side the ball is struck from")}
	default:
		return nil, badInput{fmt.Errorf("--side is right or left, not %q", o.side)}
	}
	if o.rate < 0 || o.mass < 0 || o.mass > 250 {
		return nil, badInput{fmt.Errorf("--rate and --mass are sizes: Hz, and up to 250 kg")}
	}
	var in io.Reader = os.Stdin
	if path != "-" {
		f, err := os.Open(path)
		if err != nil {
			return nil, badInput{err}
		}
		defer func() { _ = f.Close() }()
		in = f
	}
	r, err := o.recording(in, side)
	if err != nil {
		return nil, badInput{fmt.Errorf("%s: %w", path, err)}
	}
	return r, nil
}

func (o *recordingFlags) recording(in io.Reader, side force.Side) (*force.Recording, error) {
	var m forcefile.Mapping
	if o.mapFile != "" {
		var err error
		if m, err = readMapping(o.mapFile); err != nil {
			return nil, err
		}
	}
	b, err := forcefile.ReadAll(in)
	if err != nil {
		return nil, err
	}
	f, err := forcefile.Read(b)
	if err != nil {
		return nil, err
	}
	if o.mapFile == "" {
		m = forcefile.Guess(f)
	}
	if o.rate > 0 {
		m.RateHz = o.rate
	}
	return m.Recording(f, side)
}

func readMapping(path string) (forcefile.Mapping, error) {
	var m forcefile.Mapping
	b, err := os.ReadFile(path)
	if err != nil {
		return m, err
	}
	d := json.NewDecoder(bytes.NewReader(b))
	d.DisallowUnknownFields()
	if err := d.Decode(&m); err != nil {
		return m, fmt.Errorf("the mapping %s: %w", path, err)
	}
	return m, m.Check()
}

// analysed reads a recording, analyses it and writes the result as JSON or in words.
func analysed[R any](cmd *cobra.Command, o *recordingFlags, path string, analyse func(*force.Recording) (R, error), words func(io.Writer, R)) error {
	r, err := o.read(path)
	if err != nil {
		return err
	}
	got, err := analyse(r)
	if err != nil {
		return badInput{fmt.Errorf("%s: %w", path, err)}
	}
	if o.json {
		return formats.WriteJSON(cmd.OutOrStdout(), got)
	}
	words(cmd.OutOrStdout(), got)
	return nil
}

func forceJumpCmd() *cobra.Command {
	var o recordingFlags
	var s jump.Settings
	cmd := &cobra.Command{
		Use:   "jump FILE",
		Short: "Read a jump: phases, height, power, impulses of the feet",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return analysed(cmd, &o, args[0], func(r *force.Recording) (*jump.Result, error) {
				s.MassKg = o.mass
				return jump.Analyse(r, s)
			}, printJump)
		},
	}
	o.add(cmd, "right")
	cmd.Flags().Float64Var(&s.CutoffHz, "cutoff", 0, "final cut-off of the low-pass filter in Hz (default 50; negative: none)")
	cmd.Flags().StringVar(&s.Onset, "onset", jump.OnsetCrossing, "onset rule: crossing or back30ms")
	return cmd
}

func printJump(w io.Writer, r *jump.Result) {
	value := func(name string, v *float64, format string) {
		if v != nil {
			say(w, "%-28s "+format+"\n", name, *v)
		}
	}
	kind := string(r.Kind)
	if kind == "" {
		kind = "no"
	}
	say(w, "%s jump, %.1f kg\n", strings.ToUpper(kind[:1])+kind[1:], r.BodyMassKg)
	if r.JumpHeightM != nil {
		say(w, "%-28s %.1f cm\n", "height, take-off speed", 100**r.JumpHeightM)
	}
	if r.FlightHeightM != nil {
		say(w, "%-28s %.1f cm\n", "height, flight time", 100**r.FlightHeightM)
	}
	value("time to take-off", r.TimeToTakeoffS, "%.3f s")
	value("modified reactive strength", r.RsiModified, "%.2f m/s")
	value("peak power", r.PeakPowerW, "%.0f W")
	value("mean propulsive power", r.MeanPropulsivePowerW, "%.0f W")
	value("braking rate of force", r.BrakingRfdNps, "%.0f N/s")
	value("side difference", r.SideDifferencePct, "%+.1f %% (lead more: +)")
	for _, n := range r.Notes {
		say(w, "Note: %s\n", n)
	}
}

func forceSwingCmd() *cobra.Command {
	var o recordingFlags
	var s swing.Settings
	var impact, top float64
	cmd := &cobra.Command{
		Use:   "swing FILE",
		Short: "Read a swing: when, where, how much, and how it builds",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return analysed(cmd, &o, args[0], func(r *force.Recording) (*swing.Result, error) {
				s.MassKg = o.mass
				if cmd.Flags().Changed("impact") {
					s.ImpactS = &impact
				}
				if cmd.Flags().Changed("top") {
					s.TopS = &top
				}
				return swing.Analyse(r, s)
			}, printSwing)
		},
	}
	o.add(cmd, "")
	cmd.Flags().Float64Var(&impact, "impact", 0, "time of impact in s on the file's clock (default: its marker)")
	cmd.Flags().Float64Var(&top, "top", 0, "time of the top in s (default: estimated, and said)")
	cmd.Flags().Float64Var(&s.CutoffHz, "cutoff", 0, "final cut-off of the low-pass filter in Hz (default 40; negative: none)")
	cmd.Flags().StringVar(&s.About, "about", swing.AboutCombined, "axis of the turning moment: combined (centre of pressure) or midfoot")
	return cmd
}

func printSwing(w io.Writer, r *swing.Result) {
	effort := func(name string, e *swing.Effort, unit string) {
		if e != nil {
			say(w, "%-12s %6.0f %s, %3.0f ms before impact\n", name, e.Peak, unit, 1000*e.TimeBeforeImpactS)
		}
	}
	say(w, "Swing, %.1f kg; order: %s\n", r.BodyMassKg, strings.Join(r.Order, ", "))
	effort("lateral", r.Lateral, "N")
	effort("rotational", r.Rotational, "N·m")
	effort("vertical", &r.Vertical, "N")
	if r.LeadShareAtImpact != nil {
		say(w, "lead foot carries %.0f %% at top, %.0f %% at impact\n", 100**r.LeadShareAtTop, 100**r.LeadShareAtImpact)
	}
	for _, n := range r.Notes {
		say(w, "Note: %s\n", n)
	}
}
