package main

import (
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
	"dunnock/internal/core/warmup"
	"dunnock/internal/formats"
)

func warmUpCmd() *cobra.Command {
	var o fileFlags
	var r warmup.Request
	var purpose, place, kit string
	var celsius float64
	var noFloor bool
	cmd := &cobra.Command{
		Use:   "warmup FILE.json --minutes N --place range --purpose tee",
		Short: "Build a warm-up, from an export",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			f, s, err := o.read(args[0])
			if err != nil {
				return err
			}
			r.Purpose, r.Place = warmup.Purpose(purpose), warmup.Place(place)
			if cmd.Flags().Changed("celsius") {
				r.Celsius = &celsius
			}
			r.Floor = r.Place == warmup.Gym && !noFloor
			r.Kit = kitAt(f, r.Place)
			if cmd.Flags().Changed("kit") {
				r.Kit = strings.FieldsFunc(kit, func(c rune) bool { return c == ',' })
			}
			w, err := warmUpOf(f, s, r)
			if err != nil {
				return err
			}
			if o.json {
				return formats.WriteJSON(cmd.OutOrStdout(), w)
			}
			printWarmUp(cmd.OutOrStdout(), w)
			return nil
		},
	}
	o.add(cmd)
	fl := cmd.Flags()
	fl.IntVar(&r.Minutes, "minutes", 10, "minutes there are, 3 to 40")
	fl.StringVar(&place, "place", string(warmup.OnRange), "gym, range, tee or car-park")
	fl.StringVar(&purpose, "purpose", string(warmup.Tee), "training, range, tee, strength or after")
	fl.IntVar(&r.Walk, "walk", 0, "minutes to walk to the tee")
	fl.IntVar(&r.Wait, "wait", 0, "minutes of waiting on the tee")
	fl.StringVar(&r.Tee, "tee", "", "tee time, HH:MM")
	fl.StringVar(&kit, "kit", "", "kit there is, with commas (default: the golfer's at the place)")
	fl.StringVar(&r.Clubs, "clubs", "", "irons or none (default: the own driver)")
	fl.BoolVar(&r.Balls, "balls", false, "there are balls")
	fl.BoolVar(&r.FastFollows, "fast-follows", true, "fast swings follow, for training")
	fl.BoolVar(&noFloor, "no-floor", false, "nobody lies down, in a gym")
	fl.BoolVar(&r.Seated, "seated", false, "start seated")
	fl.BoolVar(&r.Drills, "drills", false, "with rounds of drill swings")
	fl.BoolVar(&r.WithoutHeavy, "without-heavy", false, "the heavy implement stays in the bag")
	fl.Float64Var(&r.CeilingM, "ceiling", 0, "ceiling in m (default: open)")
	fl.Float64Var(&r.ClearM, "clear", 0, "room all round in m (default: not said)")
	fl.Float64Var(&celsius, "celsius", 0, "degrees outside (default: not said)")
	fl.IntVar(&r.Group, "group", 0, "golfers in line")
	return cmd
}

// kitAt is the kit a golfer has at a place.
func kitAt(f *athlete.File, at warmup.Place) []string {
	if at == warmup.Gym {
		return f.Training.Kit
	}
	return f.Training.KitAt[athlete.AtRange]
}

func warmUpOf(f *athlete.File, s *school.School, r warmup.Request) (*warmup.WarmUp, error) {
	for _, p := range r.Validate() {
		return nil, badInput{fmt.Errorf("--%s: %s", p.Path, p.Text)}
	}
	share := s.OtherSideShare
	if f.OtherSideShare != nil {
		share = *f.OtherSideShare
	}
	w, err := warmup.Build(warmup.PersonOf(f, quality.Compute(f, s, nil), share), r)
	var no *warmup.Refusal
	if errors.As(err, &no) {
		return nil, badInput{no}
	}
	return w, err
}

func printWarmUp(w io.Writer, x *warmup.WarmUp) {
	say(w, "%s\n", x.Title)
	if x.StartAt != "" {
		say(w, "start at %s to be on the tee at %s\n", x.StartAt, x.OnTeeAt)
	}
	var phase warmup.Phase
	for _, it := range x.Items {
		if it.Phase != phase {
			phase = it.Phase
			say(w, "\n%s\n", phase)
		}
		dose := it.Dose()
		if it.For != "" {
			dose += ", for " + it.For
		}
		say(w, "  %3d s  %-46s %s\n", it.Seconds, it.Name, dose)
	}
	say(w, "\n%d:%02d of %d minutes\n", x.TotalSeconds/60, x.TotalSeconds%60, x.Request.Minutes)
	for _, d := range x.Dropped {
		say(w, "No room: %s\n", d)
	}
	for _, n := range x.Notes {
		say(w, "Note: %s\n", n)
	}
	if x.IfLate != nil {
		say(w, "%d minutes late: leave out %s\n", x.IfLate.Minutes, strings.Join(x.IfLate.Drops, ", "))
	}
	for _, r := range x.Rules {
		if r.Status == rulebook.Broken {
			say(w, "%s (%s): %s\n", r.Name, r.Severity, r.Text)
		}
	}
}
