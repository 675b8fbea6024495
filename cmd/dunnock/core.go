package main

import (
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
	"dunnock/internal/formats"
)

// fileFlags are shared by the commands that compute on one golfer's file.
type fileFlags struct {
	school string
	json   bool
}

func (o *fileFlags) add(cmd *cobra.Command) {
	cmd.Flags().StringVar(&o.school, "school", "", "school to read or plan under (default: the file's own)")
	cmd.Flags().BoolVar(&o.json, "json", false, "write JSON")
}

// read returns the golfer's file at path, "-" for standard input, with the
// school that was asked for.
func (o *fileFlags) read(path string) (*athlete.File, *school.School, error) {
	var in io.Reader = os.Stdin
	if path != "-" {
		f, err := os.Open(path)
		if err != nil {
			return nil, nil, badInput{err}
		}
		defer func() { _ = f.Close() }()
		in = f
	}
	f, err := formats.ReadAthlete(in)
	if err != nil {
		return nil, nil, badInput{fmt.Errorf("%s: %w", path, err)}
	}
	if o.school != "" {
		f.School = o.school
	}
	s, err := method.Shipped().Schools.Find(f.School)
	if err != nil {
		return nil, nil, badInput{err}
	}
	f.School = s.ID
	return f, s, nil
}

func readCmd() *cobra.Command {
	var o fileFlags
	cmd := &cobra.Command{
		Use:   "read FILE.json",
		Short: "Say what holds a golfer's club speed back, from an export",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			f, s, err := o.read(args[0])
			if err != nil {
				return err
			}
			r := quality.Compute(f, s, nil)
			if o.json {
				return formats.WriteJSON(cmd.OutOrStdout(), r)
			}
			w := cmd.OutOrStdout()
			say(w, "%s\n%s\n%s\n\n", r.Headline, r.Speed.GoalSentence, r.Speed.ShareSentence)
			for _, q := range r.Qualities {
				say(w, "%s\n", q.Sentence)
				if q.Worth != nil {
					say(w, "  %s (%s)\n", q.Worth.Sentence, q.Worth.Source)
				}
			}
			return nil
		},
	}
	o.add(cmd)
	return cmd
}

func planCmd() *cobra.Command {
	var o fileFlags
	cmd := &cobra.Command{
		Use:   "plan FILE.json",
		Short: "Make a four-week programme, from an export",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			f, _, err := o.read(args[0])
			if err != nil {
				return err
			}
			r, err := plan.Generate(f, method.Shipped(), "plan")
			if err != nil {
				return badInput{err}
			}
			if o.json {
				return formats.WriteJSON(cmd.OutOrStdout(), r)
			}
			printPlan(cmd.OutOrStdout(), r)
			return nil
		},
	}
	o.add(cmd)
	return cmd
}

func printPlan(w io.Writer, r *plan.Result) {
	say(w, "%s\n%s\n", r.Programme.Athlete, r.Programme.Summary)
	for _, b := range r.Programme.Blocks {
		for _, wk := range b.Weeks {
			say(w, "\nWeek %d (%s)\n", wk.Number, wk.Kind)
			for _, s := range wk.Sessions {
				say(w, "  %s  %s, %.0f min\n", s.Date.Words(), s.Title, s.Minutes)
				for _, it := range s.Items {
					say(w, "    %-34s %-28s %s\n", it.Name, it.DoseText, it.LoadText)
				}
			}
		}
	}
	for _, n := range r.Programme.Notes {
		say(w, "\nNote: %s\n", n)
	}
	for _, res := range r.Rules {
		if res.Status == rulebook.Broken {
			say(w, "\n%s (%s) %s %s\n", res.Rule, res.Severity, res.Where, res.Text)
		}
	}
}
