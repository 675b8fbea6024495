package review

import (
	"dunnock/internal/core/budget"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/method"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
)

// Trained is what a block held, as it was planned.
type Trained struct {
	Version  int             `json:"version"`
	First    civil.Date      `json:"first"`
	Last     civil.Date      `json:"last"`
	Phase    programme.Phase `json:"phase"`
	Emphasis string          `json:"emphasis"`
	School   string          `json:"school"` // by name
	Weeks    []TrainedWeek   `json:"weeks"`
	// Qualities are what it gave each quality that was asked for, those that led first.
	Qualities []TrainedQuality `json:"qualities"`
}

// TrainedWeek is one week of a block.
type TrainedWeek struct {
	Start    civil.Date `json:"start"`
	Words    string     `json:"words"` // its kind
	Sessions int        `json:"sessions"`
	Minutes  float64    `json:"minutes"`
}

// TrainedQuality is what a block gave a quality.
type TrainedQuality struct {
	Quality string    `json:"quality"`
	Name    string    `json:"name"`
	Level   string    `json:"level"`
	Minutes []float64 `json:"minutes"` // a week
}

// TrainedIn is what a version held on the days it stood for, by the method it was made by.
func TrainedIn(b *Block, by *method.Method, who budget.Person) Trained {
	view := derive.View(b.Doc, by.Exercises, by.Schools)
	out := Trained{Version: b.Version, First: b.First, Last: b.Last, School: view.SchoolName, Weeks: []TrainedWeek{}, Qualities: []TrainedQuality{}}
	stood := []int{} // the weeks of it that were trained by
	n := 0
	for i := range view.Blocks {
		x := &view.Blocks[i]
		if i == 0 {
			out.Phase, out.Emphasis = x.Phase, x.Emphasis
		}
		for k := range x.Weeks {
			w := &x.Weeks[k]
			if !w.Start.After(b.Last) {
				out.Weeks = append(out.Weeks, TrainedWeek{w.Start, w.KindWords, len(w.Sessions), w.Totals.Minutes})
				stood = append(stood, n)
			}
			n++
		}
	}
	for _, a := range budget.Doses().Given(view, by.Exercises, who) {
		q := TrainedQuality{Quality: a.Quality, Name: a.Name, Level: string(a.Level), Minutes: []float64{}}
		for _, w := range stood {
			q.Minutes = append(q.Minutes, a.MinutesPerWeek[w])
		}
		if a.Level != quality.Spare {
			out.Qualities = append(out.Qualities, q)
		}
	}
	return out
}
