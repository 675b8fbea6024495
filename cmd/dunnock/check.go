package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/formats"
)

// mostPlan is the largest plan that is read, in bytes.
const mostPlan = 16 << 20

func checkCmd() *cobra.Command {
	var o fileFlags
	golfer := ""
	cmd := &cobra.Command{
		Use:   "check PLAN.json --golfer FILE.json",
		Short: "Judge a plan, as plan --json writes it, by every rule; ends with 1 where one is broken",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if golfer == "" {
				return badInput{fmt.Errorf("--golfer FILE.json is needed: whose plan it is")}
			}
			doc, err := readPlan(args[0])
			if err != nil {
				return badInput{fmt.Errorf("%s: %w", args[0], err)}
			}
			f, _, err := o.read(golfer)
			if err != nil {
				return err
			}
			f.StartDate = doc.StartDate
			if o.school == "" {
				f.School = doc.School
			}
			basis, err := plan.BasisOf(f, method.Shipped())
			if err != nil {
				return badInput{fmt.Errorf("%s: %w", args[0], err)}
			}
			rules := basis.Judge(doc).Rules
			broken := 0
			for _, r := range rules {
				if r.Status != rulebook.Broken {
					continue
				}
				broken++
				if !o.json {
					say(cmd.OutOrStdout(), "%s (%s) %s %s %s\n", r.Rule, r.Severity, r.Where, r.Text, r.Fix)
				}
			}
			if o.json {
				if err := formats.WriteJSON(cmd.OutOrStdout(), rules); err != nil {
					return err
				}
			}
			switch {
			case broken == 1:
				return fmt.Errorf("one rule is broken")
			case broken > 1:
				return fmt.Errorf("rules are broken at %d places", broken)
			case !o.json:
				say(cmd.OutOrStdout(), "Every rule that could be checked is kept.\n")
			}
			return nil
		},
	}
	o.add(cmd)
	cmd.Flags().StringVar(&golfer, "golfer", "", "the golfer's export (needed)")
	return cmd
}

// readPlan reads the programme of a plan as plan --json writes it.
func readPlan(path string) (*programme.Programme, error) {
	var in io.Reader = os.Stdin
	if path != "-" {
		f, err := os.Open(path)
		if err != nil {
			return nil, err
		}
		defer func() { _ = f.Close() }()
		in = f
	}
	b, err := io.ReadAll(io.LimitReader(in, mostPlan+1))
	if err != nil {
		return nil, err
	}
	if len(b) > mostPlan {
		return nil, fmt.Errorf("it is larger than %d MB", mostPlan>>20)
	}
	var x struct {
		Programme *programme.Programme `json:"programme"`
	}
	if err := json.Unmarshal(b, &x); err != nil {
		return nil, fmt.Errorf("it is no plan: %w", err)
	}
	switch p := x.Programme; {
	case p == nil:
		return nil, fmt.Errorf("it holds no programme: give what plan --json writes")
	case p.Format != programme.Format:
		return nil, fmt.Errorf("its format is %q, and this version reads %s", p.Format, programme.Format)
	case len(p.Blocks) == 0:
		return nil, fmt.Errorf("its programme holds no block")
	default:
		return p, p.Check()
	}
}
