package training

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/words"
)

// What may be noted (ours): beyond the first of a pair nobody can have done it, beyond the
// second it is asked whether it is right.
const (
	MostKg          = 400
	LikelyKg        = 250
	MostReps        = 200
	MostHoldSeconds = 1800
	MostSessionMins = 360
	MostMps         = 75 // as a series of swings has it
	LeastMps        = 10
	MostSwings      = 60 // a set
	MostSets        = 40
	MostNote        = 500
)

// A Problem is what is wrong with an entry, and where.
type Problem struct {
	Field, Text string
	// Ask says that it may be right: noted again with Sure it is taken.
	Ask bool
}

// Check says what is wrong with an entry; nil where nothing is.
func Check(e *Entry) *Problem {
	wrong := func(field, format string, args ...any) *Problem {
		return &Problem{Field: field, Text: fmt.Sprintf(format, args...)}
	}
	ofItem := e.What == Set || e.What == Swap || e.What == LeftOut
	switch {
	case ofItem && (e.Item == "" || len(e.Item) > 64):
		return wrong("item", "It does not say which exercise it is about.")
	case !ofItem && (e.Item != "" || e.Number != 0):
		return wrong("item", "A note of the whole session is of no exercise.")
	case e.What == Set && (e.Number == 0 || e.Number > MostSets || e.Number < -MostSets):
		return wrong("number", "A set's number is 1 to %d.", MostSets)
	case e.What != Set && e.Number != 0:
		return wrong("number", "Only sets are numbered.")
	case e.Clock < 1 || e.Clock > math.MaxInt32:
		return wrong("clock", "Its place in the order is not known.")
	}
	if _, err := time.Parse(time.RFC3339, e.At); err != nil {
		return wrong("at", "The time it was noted at is not one.")
	}
	if e.taken() {
		return nil
	}
	switch e.What {
	case Begun:
		v, p := strict[Begin](e)
		if p == nil && v.Date.IsZero() {
			return wrong("value.date", "The day it was begun on is missing.")
		}
		return p
	case Ready:
		v, p := strict[readiness.Answers](e)
		if p != nil {
			return p
		}
		for _, x := range v.Validate() {
			return wrong("value."+x.Path, "%s.", x.Text)
		}
		return text("value.redFlag", v.RedFlagged)
	case Version:
		_, p := strict[Taken](e)
		return p
	case Space:
		_, p := strict[Checked](e)
		return p
	case Swap:
		v, p := strict[Swapped](e)
		if p == nil && len(v.Exercise) > 80 {
			return wrong("value.exercise", "There is no such exercise.")
		}
		if p == nil {
			p = text("value.why", v.Why)
		}
		return p
	case LeftOut:
		v, p := strict[Why](e)
		if p == nil {
			p = text("value.text", v.Text)
		}
		return p
	case After:
		v, p := strict[How](e)
		if p != nil {
			return p
		}
		return v.check()
	case Ended:
		v, p := strict[End](e)
		if p == nil && !slices.Contains([]State{Done, Stopped, Missed}, v.State) {
			return wrong("value.state", "A session ends done, stopped or missed.")
		}
		if p == nil {
			p = text("value.why", v.Why)
		}
		return p
	case Set:
		v, p := strict[SetDone](e)
		if p != nil {
			return p
		}
		return v.check()
	}
	return wrong("what", "%q is nothing that is noted.", e.What)
}

func strict[T any](e *Entry) (T, *Problem) {
	var v T
	dec := json.NewDecoder(bytes.NewReader(e.Value))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&v); err != nil {
		return v, &Problem{Field: "value", Text: "What was noted cannot be read (" + strings.TrimPrefix(err.Error(), "json: ") + ")."}
	}
	return v, nil
}

func text(field, s string) *Problem {
	if why := words.Text(s, MostNote); why != "" {
		return &Problem{Field: field, Text: "The text " + why + "."}
	}
	return nil
}

func (h How) check() *Problem {
	switch {
	case h.Effort != nil && (*h.Effort < 0 || *h.Effort > 10):
		return &Problem{Field: "value.effort", Text: "Effort is 0 to 10."}
	case h.Minutes != nil && (*h.Minutes < 1 || *h.Minutes > MostSessionMins):
		return &Problem{Field: "value.minutes", Text: fmt.Sprintf("A session lasts 1 to %d minutes.", MostSessionMins)}
	}
	return text("value.note", h.Note)
}

func (s SetDone) check() *Problem {
	wrong := func(field, format string, args ...any) *Problem {
		return &Problem{Field: "value." + field, Text: fmt.Sprintf(format, args...)}
	}
	bad := func(v *float64, least, most float64) bool {
		return v != nil && (math.IsNaN(*v) || *v < least || *v > most)
	}
	switch {
	case !slices.Contains([]SetState{SetDoneState, SetStoppedState, SetSkippedState}, s.State):
		return wrong("state", "A set is done, stopped or skipped.")
	case bad(s.LoadKg, 0, MostKg):
		return wrong("loadKg", "%s kg cannot be: loads are 0 to %d kg. Type it again.", compact(*s.LoadKg), MostKg)
	case s.Reps != nil && (*s.Reps < 0 || *s.Reps > MostReps):
		return wrong("reps", "Repetitions are 0 to %d.", MostReps)
	case s.Seconds != nil && (*s.Seconds < 0 || *s.Seconds > MostHoldSeconds):
		return wrong("seconds", "A hold lasts 0 to %d seconds.", MostHoldSeconds)
	case s.Reserve != nil && (*s.Reserve < 0 || *s.Reserve > 10):
		return wrong("reserve", "What is left in reserve is 0 to 10.")
	case bad(s.GripKg, 0, 150):
		return wrong("gripKg", "A squeeze is 0 to 150 kg.")
	case bad(s.JumpCm, 0, 120):
		return wrong("jumpCm", "A jump is 0 to 120 cm.")
	case len(s.Swings) > MostSwings:
		return wrong("swings", "A set holds at most %d swings.", MostSwings)
	}
	for i, x := range s.Swings {
		if math.IsNaN(x.Mps) || x.Mps < LeastMps || x.Mps > MostMps {
			return wrong(fmt.Sprintf("swings[%d]", i), "A swing is %d to %d m/s.", LeastMps, MostMps)
		}
	}
	if p := s.Pain; p != nil {
		if !measure.KnownRegion(p.Region) || p.Level < 0 || p.Level > 10 || !slices.Contains([]string{"", "lead", "trail", "both"}, p.Side) {
			return wrong("pain", "Pain is 0 to 10 in a region.")
		}
	}
	if s.LoadKg != nil && *s.LoadKg > LikelyKg && !s.Sure {
		p := wrong("loadKg", "%s kg is a great deal. Is it right?", compact(*s.LoadKg))
		p.Ask = true
		return p
	}
	return text("value.note", s.Note)
}

func compact(v float64) string { return fmt.Sprintf("%.4g", v) }
