package app

import (
	"context"
	"fmt"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/review"
	"dunnock/internal/core/school"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/training"
	"dunnock/internal/store"
)

// Progress is what a golfer trained and what became of it.
type Progress struct {
	Blocks  []review.Trained // oldest first
	Retests []review.Retest  // oldest first
	Speeds  []SpeedDay       // oldest first
}

// SpeedDay is the fastest full swing with the golfer's own driver of a day's series, m/s.
type SpeedDay struct {
	Date   civil.Date
	Mps    float64
	Swings int
}

// Progress returns what a golfer's blocks held and what became of each quality.
func (a *App) Progress(ctx context.Context, who *Actor, athleteID string) (*Progress, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	m, err := a.methodOf(ctx, who)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	issued, err := issuedOf(ctx, p, athleteID, inCalendar)
	if err != nil {
		return nil, words(err, "programmes")
	}
	basis, err := plan.BasisOf(f, m)
	if err != nil {
		return nil, err
	}
	out := &Progress{Blocks: []review.Trained{}, Speeds: []SpeedDay{}}
	logs, err := p.SessionLogs(ctx, athleteID, f.AsOf.Add(-mostLoadDays), f.AsOf)
	if err != nil {
		return nil, err
	}
	blocks := blocksOf(issued)
	for i := range blocks {
		blocks[i].Done = doneOf(&issued[i], logs, m, basis.Person(), f.AsOf)
	}
	out.Retests = review.Of(f, blocks, schoolsOf(m))
	for i := range blocks {
		by := m
		if frozen := issued[i].frozen; frozen != nil {
			if by, err = method.Thaw(frozen); err != nil {
				return nil, fmt.Errorf("version %d: %w", blocks[i].Version, err)
			}
		}
		out.Blocks = append(out.Blocks, review.TrainedIn(&blocks[i], by, basis.Person()))
	}
	out.Speeds, err = a.speedDays(ctx, p, f, athleteID)
	return out, err
}

// blocksOf are issued versions as blocks, each as long as it stood.
func blocksOf(issued []issuedVersion) []review.Block {
	out := make([]review.Block, len(issued))
	for i, v := range issued {
		last := lastDay(v.doc)
		if !v.Until.IsZero() && v.Until.Add(-1).Before(last) {
			last = v.Until.Add(-1)
		}
		out[i] = review.Block{Version: v.Number, First: v.First, Last: last, Doc: v.doc}
	}
	return out
}

func lastDay(doc *programme.Programme) civil.Date {
	last := doc.StartDate
	for i := range doc.Blocks {
		for k := range doc.Blocks[i].Weeks {
			last = doc.Blocks[i].Weeks[k].Start.Add(6)
		}
	}
	return last
}

func schoolsOf(m *method.Method) func(string) *school.School {
	return func(id string) *school.School { return m.SchoolOf(id).At(0) }
}

// speedDays are the days with full swings of the golfer's own driver.
func (a *App) speedDays(ctx context.Context, p *store.Practice, f *athlete.File, athleteID string) ([]SpeedDay, error) {
	page, _, err := diaryOf(ctx, p, f, athleteID)
	if err != nil {
		return nil, err
	}
	out := []SpeedDay{}
	for i := len(page.Series) - 1; i >= 0; i-- {
		v := page.Series[i]
		for _, s := range v.Summaries {
			if s.Implement != page.Own.ID || s.Side != speed.Playing || s.Drill != "" {
				continue
			}
			if n := len(out); n > 0 && out[n-1].Date == v.Date {
				out[n-1].Mps, out[n-1].Swings = max(out[n-1].Mps, s.BestMps), out[n-1].Swings+s.Swings
				continue
			}
			out = append(out, SpeedDay{v.Date, s.BestMps, s.Swings})
		}
	}
	return out, nil
}

// lookedBack is how many blocks the next one is drafted from: as many as a quality may lead
// in a row, and the one before them.
const lookedBack = 4

// turned is the basis of the next block after the retest of the last one.
func (a *App) turned(ctx context.Context, p *store.Practice, basis *plan.Basis, f *athlete.File, m *method.Method, athleteID string) (*plan.Basis, error) {
	issued, err := issuedOf(ctx, p, athleteID, lookedBack)
	if err != nil {
		return nil, words(err, "programmes")
	}
	for len(issued) > 0 && !issued[len(issued)-1].First.Before(f.StartDate) {
		issued = issued[:len(issued)-1]
	}
	if len(issued) == 0 {
		return basis, nil
	}
	logs, err := p.SessionLogs(ctx, athleteID, f.AsOf.Add(-mostLoadDays), f.AsOf)
	if err != nil {
		return nil, err
	}
	blocks := blocksOf(issued)
	for i := range blocks {
		blocks[i].Done = doneOf(&issued[i], logs, m, basis.Person(), f.AsOf)
	}
	retests := review.Of(f, blocks, schoolsOf(m))
	last := issued[len(issued)-1]
	if n := len(retests); n > 0 && retests[n-1].Version == last.Number {
		docs := make([]*programme.Programme, len(issued))
		for i := range issued {
			docs[i] = issued[i].doc
		}
		return basis.Turned(&retests[n-1], docs), nil
	}
	return basis, nil
}

// doneOf is the share of each quality's dose of a version that was done, by minutes, over the
// weeks that are over; nil where nothing was logged of it.
func doneOf(v *issuedVersion, logs []store.SessionLog, m *method.Method, who budget.Person, today civil.Date) map[string]float64 {
	byID := map[string]*store.SessionLog{}
	for i := range logs {
		byID[logs[i].Session] = &logs[i]
	}
	done := v.doc.Clone()
	logged := false
	over := map[int]bool{}
	n := 0
	for bi := range done.Blocks {
		for wi := range done.Blocks[bi].Weeks {
			w := &done.Blocks[bi].Weeks[wi]
			over[n] = !today.Before(w.Start.Add(7)) && v.Stands(w.Start)
			n++
			for si := range w.Sessions {
				l := byID[string(w.Sessions[si].ID)]
				logged = logged || l != nil
				w.Sessions[si].Items = setsDone(w.Sessions[si].Items, l)
			}
			for hi := range w.Home {
				if l := byID[string(w.Home[hi].ID)]; l != nil {
					w.Home[hi].Items = setsDone(w.Home[hi].Items, l)
				}
			}
		}
	}
	if !logged {
		return nil
	}
	out := map[string]float64{}
	planned := budget.Doses().Given(derive.View(v.doc, m.Exercises, m.Schools), m.Exercises, who)
	given := budget.Doses().Given(derive.View(done, m.Exercises, m.Schools), m.Exercises, who)
	for i := range planned {
		was, is := 0.0, 0.0
		for k := range planned[i].MinutesPerWeek {
			if over[k] {
				was += planned[i].MinutesPerWeek[k]
				is += given[i].MinutesPerWeek[k]
			}
		}
		if was > 0 {
			out[planned[i].Quality] = is / was
		}
	}
	return out
}

// setsDone are items with as many sets as were done of each; those of which none was are left
// out.
func setsDone(items []programme.Item, l *store.SessionLog) []programme.Item {
	var out []programme.Item
	if l == nil {
		return out
	}
	for _, it := range items {
		did := l.Log.Item(it.ID)
		if did == nil {
			continue
		}
		n := 0
		for _, s := range did.Sets {
			if s.Number > 0 && s.State != training.SetSkippedState {
				n++
			}
		}
		if n > 0 {
			it.Dose.Sets, it.Dose.WeakerSets = n, 0
			out = append(out, it)
		}
	}
	return out
}
