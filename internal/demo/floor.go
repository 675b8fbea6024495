package demo

import (
	"context"
	"fmt"
	"math"
	"time"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/class"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/training"
	"dunnock/internal/store"
)

// weeksOfLogs is for how long the squad has logged: three months.
const weeksOfLogs = 13

// story is how one golfer's three months went, as their logs tell it.
type story struct {
	name string
	// missed says whether a week's class was missed; week counts from the first, 0.
	missed func(week int) bool
	// ready are the answers before it; nil: nothing was asked.
	ready func(week int) *readiness.Answers
	// effort is how hard it was, 0 to 10, and note what was written beside it.
	effort func(week int) int
	note   map[int]string
	// load is what is lifted in a week of what begins at about so many kilograms.
	load func(week int, about float64) float64
	// left is what was left in reserve beyond what was asked for.
	left func(week int) int
}

func never(int) bool { return false }

// in reports whether a week is one of some.
func in(weeks ...int) func(int) bool {
	return func(w int) bool {
		for _, x := range weeks {
			if x == w {
				return true
			}
		}
		return false
	}
}

// stories: Marit goes up step by step; Finn grows, and is held back with a sore knee after
// tournaments; Magnus guards his hip and misses stormy weeks; Torquil could do more than he is
// given and says so; Eilidh began with nothing and learns fast, but for her exams.
var stories = []story{
	{
		name: "Marit Hellyer", missed: in(8), effort: func(w int) int { return 5 + w%3 },
		load: func(w int, about float64) float64 { return about * (1 + 0.02*float64(w)) }, left: func(int) int { return 0 },
		note: map[int]string{4: "Best week so far", 9: "Back from the trip, legs heavy"},
		ready: func(w int) *readiness.Answers {
			if w == 9 {
				return &readiness.Answers{Sleep: readiness.SleepShort, Soreness: readiness.SoreSome}
			}
			return &readiness.Answers{}
		},
	},
	{
		name: "Finn Orrin", missed: in(3), effort: func(w int) int { return 4 + w%2 },
		load: func(_ int, about float64) float64 { return about }, left: func(int) int { return 1 },
		note: map[int]string{6: "Two tournament days before, knee talks"},
		ready: func(w int) *readiness.Answers {
			switch w {
			case 6:
				return &readiness.Answers{Pain: []readiness.Pain{{Region: "knee", Level: 2}}, Soreness: readiness.SoreSome}
			case 7:
				return &readiness.Answers{Pain: []readiness.Pain{{Region: "knee", Level: 1}}}
			}
			return &readiness.Answers{Eagerness: readiness.EagerHigh}
		},
	},
	{
		name: "Magnus Quoyle", missed: in(2, 5, 10), effort: func(w int) int { return 3 + w%3 },
		load: func(w int, about float64) float64 { return about * (1 + 0.01*float64(w)) }, left: func(int) int { return 1 },
		note: map[int]string{4: "Hip fine on the low step", 11: "Walked eighteen yesterday"},
		ready: func(w int) *readiness.Answers {
			if w == 7 {
				return &readiness.Answers{Pain: []readiness.Pain{{Region: "hip", Side: "lead", Level: 3}}}
			}
			return &readiness.Answers{}
		},
	},
	{
		name: "Torquil Brae", missed: never, effort: func(w int) int { return 3 + w/6 },
		load: func(w int, about float64) float64 { return about * (1.5 + 0.03*float64(w)) }, left: func(int) int { return 2 },
		note:  map[int]string{1: "Could have gone on", 8: "Turning further, he says"},
		ready: func(int) *readiness.Answers { return &readiness.Answers{} },
	},
	{
		name: "Eilidh Saltness", missed: in(9, 10), effort: func(w int) int { return max(4, 8-w/2) },
		load: func(w int, about float64) float64 { return about * (1 + 0.06*float64(w)) }, left: func(w int) int { return w / 6 },
		note: map[int]string{0: "Everything new", 5: "First push-up off the floor", 11: "Exams over"},
		ready: func(w int) *readiness.Answers {
			if w == 8 {
				return &readiness.Answers{Sleep: readiness.SleepBad, Eagerness: readiness.EagerLow}
			}
			return &readiness.Answers{}
		},
	},
}

// loadFloor makes three months of classes with their logs, Marit's sessions of the running
// block, and next week's class.
func loadFloor(ctx context.Context, a *app.App, who *app.Actor) error {
	rows, err := a.Squad(ctx, who, false)
	if err != nil {
		return err
	}
	ids := map[string]string{}
	for _, r := range rows {
		ids[r.Name] = r.ID
	}
	var class20 []string
	for _, s := range stories {
		if ids[s.name] != "" {
			class20 = append(class20, ids[s.name])
		}
	}
	if len(class20) < class.Least {
		return nil
	}
	today := a.Today(zone)
	tuesday := today.Add(-1).Monday().Add(1)
	for week := range weeksOfLogs {
		day := tuesday.Add(-7 * (weeksOfLogs - 1 - week))
		if day.After(today.Add(-1)) {
			continue
		}
		if err := oneClass(ctx, a, who, week, day, class20, ids); err != nil {
			return fmt.Errorf("the class of %s: %w", day, err)
		}
	}
	return maritsBlock(ctx, a, who, ids["Marit Hellyer"])
}

const classMinutes = 60

func oneClass(ctx context.Context, a *app.App, who *app.Actor, week int, day civil.Date, golfers []string, ids map[string]string) error {
	v, err := a.PlanClass(ctx, who, app.ClassRequest{Date: day, Name: "Links class", Start: "18:00", Athletes: golfers, Ask: class.Ask{Minutes: classMinutes, Coaches: 2}}, false)
	if err != nil {
		return err
	}
	var batch []app.FloorEntries
	for _, s := range stories {
		id := ids[s.name]
		if id == "" || s.missed(week) {
			continue
		}
		book := training.Notebook{Device: "hall tablet", Session: programme.ID("class-" + v.ID), At: day.Time().Add(18 * time.Hour)}
		if r := s.ready(week); r != nil {
			book.Note(training.Ready, "", 0, r)
		}
		items, err := a.ClassItems(ctx, who, v.ID, id)
		if err != nil {
			return err
		}
		effort, minutes := s.effort(week), classMinutes
		book.Run(&programme.Session{Items: items}, day, training.How{Effort: &effort, Minutes: &minutes, Note: s.note[week]}, func(it *programme.Item, _ int, x *training.SetDone) bool {
			return lifted(&s, week, it, x)
		})
		batch = append(batch, app.FloorEntries{AthleteID: id, Session: string(book.Session), Entries: book.Entries})
	}
	_, err = a.SaveFloor(ctx, who, time.Time{}, batch)
	return err
}

// lifted is a set as the story has it: with a load where one is chosen, and what was left.
func lifted(s *story, week int, it *programme.Item, x *training.SetDone) bool {
	if it.Dose.Reserve == nil || it.Dose.AboutKg == 0 && it.Dose.LoadKg == nil {
		return true
	}
	about := it.Dose.AboutKg
	if it.Dose.LoadKg != nil {
		about = *it.Dose.LoadKg
	}
	kg := math.Max(2, 2*math.Round(s.load(week, about)/2))
	left := *it.Dose.Reserve + s.left(week)
	x.LoadKg, x.Reserve, x.AsPlanned = &kg, &left, false
	return true
}

// maritsBlock logs the sessions of Marit's running block up to yesterday: as planned but for
// one she missed, a squat day that went very easily twice, and speeds that rise.
func maritsBlock(ctx context.Context, a *app.App, who *app.Actor, id string) error {
	if id == "" {
		return nil
	}
	week, err := a.FloorWeek(ctx, who, id)
	if err != nil {
		return err
	}
	today := a.Today(zone)
	n := 0
	var batch []app.FloorEntries
	for _, list := range [][]app.SessionRow{week.Past, week.Sessions} {
		for _, r := range list {
			if r.Kind != store.LogPlanned || !r.Date.Before(today) || r.State != "" {
				continue
			}
			n++
			if n == 4 {
				continue // missed
			}
			s, err := a.PlannedSession(ctx, who, id, r.Session)
			if err != nil {
				return err
			}
			batch = append(batch, app.FloorEntries{AthleteID: id, Session: r.Session, Entries: maritsSession(s, r.Date, today)})
		}
	}
	_, err = a.SaveFloor(ctx, who, time.Time{}, batch)
	return err
}

func maritsSession(s *programme.Session, day, today civil.Date) []training.Entry {
	book := training.Notebook{Device: "phone", Session: s.ID, At: day.Time().Add(17 * time.Hour)}
	book.Note(training.Ready, "", 0, readiness.Answers{})
	ago := today.Sub(day)
	effort, minutes := 5+(ago/7)%3, 48+ago%9
	book.Run(s, day, training.How{Effort: &effort, Minutes: &minutes}, func(it *programme.Item, set int, x *training.SetDone) bool {
		switch {
		case it.Dose.Unit == library.Swings:
			for i := range *x.Reps {
				mps := 38.6 + 0.03*float64(30-ago) + 0.25*math.Sin(float64(3*set+5*i+ago))
				x.Swings = append(x.Swings, training.Swing{Mps: math.Round(mps*100) / 100, Other: i%2 == 1 && it.Dose.OtherSideShare > 0})
			}
			x.AsPlanned = false
		case it.Dose.Unit == library.Contacts && set == 1:
			cm := math.Round(10*(25.6+0.02*float64(30-ago)+0.4*math.Sin(float64(ago)))) / 10
			x.JumpCm = &cm
		case it.Dose.Reserve != nil && it.Dose.LoadKg == nil && it.Dose.AboutKg > 0:
			kg := it.Dose.AboutKg + 2
			x.LoadKg, x.AsPlanned = &kg, false
		}
		return true
	})
	return book.Entries
}
