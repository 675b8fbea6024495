package plan

import (
	_ "embed"
	"encoding/json"
	"math"
	"slices"
	"sync"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/strength"
)

// start is where a load begins that no test sets: a share of the predicted single
// of the tested lift, else of body mass (ours, common practice, no source).
type start struct {
	// Exercise is the one exercise it is of; else it is of a pattern with a kit.
	Exercise string  `json:"exercise"`
	Pattern  string  `json:"pattern"`
	Kit      string  `json:"kit"`
	Lift     float64 `json:"lift"`  // share of the predicted single
	Mass     float64 `json:"mass"`  // share of body mass, where no single is known
	Most     float64 `json:"most"`  // the share of the single it may not pass
	Upper    bool    `json:"upper"` // of the upper body: less for women
	AHand    bool    `json:"aHand"`
	Grip     float64 `json:"grip"` // no more than this share of the tested grip
	// Least is the share of body mass it is not under, and OnTheBar says that it is the
	// discs on the end of a bar.
	Least    float64 `json:"least"`
	OnTheBar bool    `json:"onTheBar"`
}

//go:embed starts.json
var startsJSON []byte

var starts = sync.OnceValue(func() (s []start) {
	if err := json.Unmarshal(startsJSON, &s); err != nil {
		panic("plan: starts.json: " + err.Error())
	}
	return s
})

// Shares of a start: for those new to it, and for women in the upper body.
const (
	newcomerShare = 0.6
	upperShare    = 0.65
)

// startOf is the start of an exercise: its own, else that of its pattern and kit.
func startOf(e *library.Exercise) (start, bool) {
	for _, s := range starts() {
		if s.Exercise == e.ID || s.Exercise == "" && s.Pattern == e.Pattern && slices.Contains(e.Kit, s.Kit) {
			return s, true
		}
	}
	return start{}, false
}

// about sets where the load of an exercise begins, rounded down to what there is.
func (p *planner) about(e *library.Exercise, d *programme.Dose) {
	s, ok := startOf(e)
	if !ok {
		return
	}
	kg := s.Mass * p.mass()
	if s.Lift > 0 && p.Facts.OneRM > 0 {
		kg = s.Lift * p.Facts.OneRM
	} else if p.Facts.Tier == athlete.Novice || p.Facts.Junior || p.Facts.Senior {
		kg *= newcomerShare
	}
	if s.Upper && p.file.Athlete.Sex != athlete.Male {
		kg *= upperShare
	}
	if grip := p.weakerGrip(); s.Grip > 0 && grip > 0 {
		kg = math.Min(kg, s.Grip*grip)
	}
	if limit, ok := e.Cap(p.Facts.Limits); ok {
		kg = math.Min(kg, limit)
	}
	bar, step := 0.0, 2.0
	if kg < 4 {
		step = 1 // balls and small discs
	}
	if t := p.file.Training; t.DumbbellStep > 0 {
		step = t.DumbbellStep
	}
	if slices.Contains([]string{"barbell", "trap bar"}, s.Kit) {
		bar, step = p.bar()
	}
	if s.OnTheBar {
		step = 2.5
	}
	if least := s.Least * p.mass(); least > 0 && strength.RoundDown(kg, bar, step) < least {
		kg += step // down would be too light to be one
	}
	switch {
	case kg <= 0:
		return
	case kg < bar:
		return // the empty bar is more: the reserve says it
	case bar == 0 && kg < step:
		kg = step // the lightest there is
	}
	d.AboutKg, d.AHand = strength.RoundDown(kg, bar, step), s.AHand
}

// tooHeavy reports whether the empty bar is more than the share of the single a
// jump may carry, or whether that share is not known.
func (p *planner) tooHeavy(e *library.Exercise) bool {
	s, ok := startOf(e)
	if !ok || s.Most == 0 {
		return false
	}
	bar, _ := p.bar()
	return bar > s.Most*p.Facts.OneRM
}

// weakerGrip is the mean squeeze of the weaker hand, kg; 0 when not measured.
func (p *planner) weakerGrip() float64 {
	least := 0.0
	for _, t := range p.Read.Tests {
		if t.Test != quality.Grip || t.Status != quality.Measured {
			continue
		}
		for _, s := range t.Sides {
			if least == 0 || *s.Compared < least {
				least = *s.Compared
			}
		}
	}
	return least
}
