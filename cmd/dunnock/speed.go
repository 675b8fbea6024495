package main

import (
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"dunnock/internal/core/flight"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/unit"
	"dunnock/internal/formats"
)

func speedCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "speed",
		Short: "Read swings: a cold start, or the carry of a club speed",
	}
	cmd.AddCommand(coldStartCmd(), carryCmd())
	return cmd
}

// coldStart is what a cold start says to a script: without a curve the fields that need
// one are left out.
type coldStart struct {
	CeilingMps      *float64 `json:"ceilingMps,omitempty"`
	FirstDeficitMps *float64 `json:"firstDeficitMps,omitempty"`
	TauSwings       *float64 `json:"tauSwings,omitempty"`
	SwingsTo99      *float64 `json:"swingsTo99,omitempty"`
	EarlyMps        float64  `json:"earlyMps"`
	LateMps         float64  `json:"lateMps"`
	Fit             string   `json:"fit"` // curve or none
	Reason          string   `json:"reason"`
	LadderSwings    int      `json:"ladderSwings"`
}

func coldStartCmd() *cobra.Command {
	var mps string
	var asJSON bool
	cmd := &cobra.Command{
		Use:   "coldstart --mps 44.1,45.0,…",
		Short: "Say what the first swings of a day lack, and how many bring it back",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			v, err := numbers(mps)
			if err != nil {
				return badInput{fmt.Errorf("--mps: %w", err)}
			}
			if speed.MixedUnits(v) {
				return badInput{errors.New("--mps: the fastest is over 1.8 times the slowest: some are in another unit; give all in m/s")}
			}
			c, err := speed.ColdStartOf(v)
			if err != nil {
				return badInput{fmt.Errorf("--mps: %w", unwrapped(err))}
			}
			if asJSON {
				out := coldStart{EarlyMps: c.EarlyMps, LateMps: c.LateMps, Fit: "none", Reason: c.Reason(), LadderSwings: c.LadderSwings()}
				if f := c.Fit; f != nil {
					out.Fit = speed.Curve
					out.CeilingMps, out.FirstDeficitMps, out.TauSwings, out.SwingsTo99 = &f.CeilingMps, &f.FirstDeficitMps, &f.TauSwings, &f.SwingsTo99
				}
				return formats.WriteJSON(cmd.OutOrStdout(), out)
			}
			printColdStart(cmd.OutOrStdout(), c)
			return nil
		},
	}
	cmd.Flags().StringVar(&mps, "mps", "", "club speeds in m/s, in the order they were swung")
	cmd.Flags().BoolVar(&asJSON, "json", false, "write JSON")
	return cmd
}

func printColdStart(w io.Writer, c *speed.ColdStart) {
	say(w, "first %.1f m/s, last %.1f m/s\n%s\n", c.EarlyMps, c.LateMps, c.Reason())
	if f := c.Fit; f != nil {
		say(w, "first swing %.1f m/s short, 99 %% after %.0f swings\n", f.FirstDeficitMps, math.Ceil(f.SwingsTo99))
	}
	say(w, "ladder of %d swings\n", c.LadderSwings())
}

// numbers reads numbers between commas.
func numbers(list string) ([]float64, error) {
	if strings.TrimSpace(list) == "" {
		return nil, errors.New("give speeds with commas between them: 44.1,45.0,45.8")
	}
	parts := strings.Split(list, ",")
	out := make([]float64, len(parts))
	for i, p := range parts {
		v, err := strconv.ParseFloat(strings.TrimSpace(p), 64)
		if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
			return nil, fmt.Errorf("number %d, %q, is none; give speeds with commas between them: 44.1,45.0,45.8", i+1, strings.TrimSpace(p))
		}
		out[i] = v
	}
	return out, nil
}

// unwrapped takes the package's name off an error's text.
func unwrapped(err error) error {
	s := err.Error()
	for _, p := range []string{"speed: ", "flight: ", "warmup: "} {
		s = strings.Replace(s, p, "", 1)
	}
	return errors.New(s)
}

// carry is the carry of a club speed, three ways side by side.
type carry struct {
	ClubMps float64 `json:"clubMps"`
	Rule    struct {
		speed.Range
		Assumes string `json:"assumes"`
	} `json:"rule"`
	Own    *ownCarry     `json:"own,omitempty"`
	Flight flight.Flight `json:"flight"`
	Ball   struct {
		Mps       float64 `json:"mps"`
		Set       string  `json:"set"`
		Source    string  `json:"source"`
		Assumes   string  `json:"assumes"`
		OverLimit bool    `json:"overSmashLimit,omitempty"`
	} `json:"ball"`
	SmashLimit float64 `json:"smashLimit"`
}

type ownCarry struct {
	CarryM float64 `json:"carryM"`
	speed.Slope
}

func carryCmd() *cobra.Command {
	var club float64
	var ball speed.Ball
	var set, shots string
	var asJSON bool
	cmd := &cobra.Command{
		Use:   "carry --club-mps 45.0",
		Short: "Say how far a club speed carries: by rule of thumb, by own shots and by a flight",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			out, err := carryOf(club, ball, set, shots)
			if err != nil {
				return badInput{unwrapped(err)}
			}
			if asJSON {
				return formats.WriteJSON(cmd.OutOrStdout(), out)
			}
			lo, hi := out.Rule.Yards()
			w := cmd.OutOrStdout()
			say(w, "rule of thumb  %.0f to %.0f yd (%s)\n", lo, hi, out.Rule.Assumes)
			if out.Own != nil {
				say(w, "own shots      %.0f yd (%d shots)\n", out.Own.CarryM/0.9144, out.Own.Shots)
			}
			say(w, "flight         %.0f yd (%s)\n", out.Flight.CarryYd(), out.Ball.Assumes)
			return nil
		},
	}
	f := cmd.Flags()
	f.Float64Var(&club, "club-mps", 0, "club speed in m/s, 10 to 75")
	f.Float64Var(&ball.Smash, "smash", 0, "ball over club speed (default: the most a central strike allows)")
	f.Float64Var(&ball.LaunchDeg, "launch", 0, "launch angle in degrees (default 12)")
	f.Float64Var(&ball.SpinRpm, "spin", 0, "backspin a minute (default 2600)")
	f.StringVar(&set, "set", flight.Default, "drag and lift: A, B or C")
	f.StringVar(&shots, "shots", "", "own shots as club speed in m/s:carry in m, with commas between them")
	f.BoolVar(&asJSON, "json", false, "write JSON")
	return cmd
}

func carryOf(club float64, ball speed.Ball, set, shots string) (*carry, error) {
	if err := speed.CheckSpeed(club); err != nil {
		return nil, err
	}
	if !(ball.Smash == 0 || ball.Smash >= 0.8 && ball.Smash <= 1.6) {
		return nil, fmt.Errorf("a smash factor is 0.8 to 1.6, not %g", ball.Smash)
	}
	c, ok := flight.Set(set)
	if !ok {
		return nil, fmt.Errorf("there is no set %q of drag and lift: use A, B or C", set)
	}
	flown, err := speed.Fly(club, ball, &c)
	if err != nil {
		return nil, err
	}
	limit, err := flight.SmashLimit(flight.HeadKg, flight.Restitution)
	if err != nil {
		return nil, err
	}
	out := &carry{ClubMps: club, Flight: flown, SmashLimit: unit.Round(limit, 4)}
	out.Rule.Range = speed.ByRule(club)
	out.Rule.Assumes = fmt.Sprintf("%g to %g yd a mph, common practice, no limit", speed.RuleLeast, speed.RuleMost)
	out.Ball.Mps, out.Ball.Set, out.Ball.Source, out.Ball.Assumes = club*limit, c.ID, c.Source, ball.Assumes(&c)
	if ball.Smash > 0 {
		out.Ball.Mps, out.Ball.OverLimit = club*ball.Smash, ball.Smash > limit
	}
	if shots == "" {
		return out, nil
	}
	var own []speed.Shot
	for i, p := range strings.Split(shots, ",") {
		v, m, ok := strings.Cut(p, ":")
		x, err := numbers(v + "," + m)
		if !ok || err != nil || len(x) != 2 {
			return nil, fmt.Errorf("shot %d, %q, is not club speed:carry", i+1, p)
		}
		own = append(own, speed.Shot{ClubMps: x[0], CarryM: x[1]})
	}
	slope, err := speed.OwnSlope(own)
	if errors.Is(err, speed.ErrNoSlope) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	out.Own = &ownCarry{slope.AtZero + slope.MPerMps*club, *slope}
	return out, nil
}
