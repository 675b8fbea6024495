package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
	"dunnock/internal/core/season"
	"dunnock/internal/core/unit"
)

// Pencilled is a block of the season ahead: when it is, what is expected to lead and be
// built in it, and why. Only the next one is made; the others are exact when their turn
// comes, after the retest.
type Pencilled struct {
	season.Block
	End    civil.Date `json:"end"`
	School string     `json:"school"` // by name
	Leads  []string   `json:"leads"`  // by name
	Builds []string   `json:"builds"`
	// Wanted are the doses of what leads and is built, in words; rules that need items are
	// not checked.
	Wanted []string `json:"wanted"`
	// Sessions are a week's, by kind of day and what such a day holds.
	Sessions []PencilledSession `json:"sessions"`
	Why      string             `json:"why"`
}

// PencilledSession is a session of a block that is not made yet.
type PencilledSession struct {
	Letter programme.Letter `json:"letter"`
	Title  string           `json:"title"`
}

// dayTitles say what a kind of day holds (handbook: days of the schools).
var dayTitles = map[programme.Letter]string{
	programme.DayA: "Side-on throws, vertical jumps, two-leg lift, push and pull",
	programme.DayB: "Slams, lateral jumps, one-leg lift, push and pull",
	programme.DayC: "Swings, throws, few landings, no leg lift",
	programme.DayD: "Push and pull, trunk, carry, no jumps",
	programme.DayL: "Range, posture, throws",
	programme.DayS: "Swings, steps, throws",
}

// sessionsOf are the sessions of a week of a block under a school.
func (b *Basis) sessionsOf(blk *season.Block, sch *school.School, stage int) []PencilledSession {
	out := []PencilledSession{}
	switch blk.Kind {
	case season.Break, season.Transition, season.Hold, season.LeadIn:
		return out
	}
	own := *b
	own.school = sch
	read := *b.Read
	read.Stage = stage
	own.Read = &read
	br := Brief{Start: blk.Start}
	br.chooseDays(b.file.Training)
	for _, l := range own.planner(br).letters() {
		title := dayTitles[l]
		if l == programme.DayA && sch.ID == "predictor-led" {
			title = "Chest throws, vertical jumps, two-leg lift, push and pull"
		}
		out = append(out, PencilledSession{l, title})
	}
	return out
}

// How much a gap is expected to fall in a block of three rising weeks, in spreads, and
// how needs are weighed in the pre-season (ours).
const (
	fallsWhereLed   = 0.4
	fallsWhereBuilt = 0.2
	preQuick        = 1.2
	preStrength     = 0.8
	followerBoost   = 1.25
	clearFrom       = 0.25
	confidence      = 1.96
)

// inARow is for how many blocks in a row a quality leads at most.
func (b *Basis) inARow(q string) int {
	switch {
	case q == quality.MaximalStrength:
		return 3
	case q == quality.StretchUse && (b.Facts.Junior || b.Facts.Senior):
		return 1
	}
	return 2
}

// followers are what a closed leader makes room for.
var followers = map[string][]string{
	quality.MaximalStrength: {quality.VerticalPower, quality.HorizontalPower, quality.RotationalPower},
	quality.Mobility:        {quality.RotationalPower, quality.Separation},
	quality.RotationalPower: {quality.Separation},
	quality.Separation:      {quality.RotationalPower},
	quality.Control:         {quality.MaximalStrength},
	quality.GroundForce:     {quality.VerticalPower},
	quality.StretchUse:      {quality.VerticalPower},
}

// An IssuedBlock is a version that is trained by, or will be, on its days up to the one
// before Until (zero: to its end).
type IssuedBlock struct {
	Doc   *programme.Programme
	Until civil.Date
}

// Season lays the golfer's season out, with what later blocks are expected to be for: from
// the first of the blocks that are issued, which stay as they are as far as they can be
// trained, or from the day the plan begins where none is. What the coach kept of before
// stays as far as the dates allow.
func (b *Basis) Season(issued ...IssuedBlock) (*season.Season, []Pencilled, error) {
	br := Brief{Start: b.start()}
	br.chooseDays(b.file.Training)
	old := &season.Season{}
	if b.file.Kept != nil {
		old.Blocks = slices.Clone(b.file.Kept.Blocks)
	}
	start := br.Start
	fixed := map[civil.Date]*programme.Programme{}
	var now []season.Block
	for _, x := range issued {
		if len(x.Doc.Blocks) == 0 {
			continue
		}
		blk := issuedBlock(x, b.file.Competitions)
		if len(now) == 0 && !blk.Start.After(start) {
			start = blk.Start
		}
		now, fixed[blk.Start] = append(now, blk), x.Doc
	}
	if len(now) > 0 {
		end := now[len(now)-1].End()
		old.Blocks = append(now, slices.DeleteFunc(old.Blocks, func(x season.Block) bool { return !x.Start.After(end) })...)
	}
	s, err := season.Replan(b.seasonFacts(start, br.Days), old, civil.Date{})
	if err != nil {
		return nil, nil, err
	}
	s.Notes = append(append([]string{}, br.Assumed...), s.Notes...)
	list := b.pencil(s, fixed)
	for i := range s.Blocks {
		s.Blocks[i].For = strings.Join(list[i].Leads, " and ")
	}
	return s, list, nil
}

// issuedBlock is an issued block as a block of the season.
func issuedBlock(of IssuedBlock, events []athlete.Competition) season.Block {
	x := &of.Doc.Blocks[0]
	out := season.Block{Kind: season.Training, Start: x.Weeks[0].Start.Monday(), Begun: true, For: x.Emphasis}
	n := 0
	for i := range x.Weeks {
		w := &x.Weeks[i]
		if !of.Until.IsZero() && !w.Start.Before(of.Until) && i > 0 {
			break
		}
		row := season.EasierRow
		switch w.Kind {
		case programme.Rising, programme.Played:
			n++
			row = season.RisingRow(n)
		case programme.Taper:
			row = season.TaperRow
		}
		out.Rows = append(out.Rows, row)
		if w.Retest != nil {
			out.Retest = w.Retest.Date
		}
	}
	if out.Rows[len(out.Rows)-1] == season.TaperRow {
		for _, c := range events {
			if c.Peak && !c.Date.Before(out.Start) && !c.Date.After(out.End().Add(7)) {
				out.Peak = &season.Event{Name: c.Name, First: c.Date, Last: c.End(), Peak: true, Main: c.Main}
			}
		}
	}
	return out
}

// nobodyLeads says why nothing leads in a kind of block.
var nobodyLeads = map[season.Kind]string{
	season.LeadIn:     "The days before the first Monday: finding the level.",
	season.After:      "The week behind an event: no heavy legs before its third day.",
	season.Transition: "Rest from planning: floors, and one day of swings.",
	season.Hold:       "Between two peaks: rest, range, short and fast.",
	season.Break:      "Away: nothing is planned.",
	season.Return:     "The way back: volume rises from a third less, loads begin by reserve.",
	season.Bridge:     "Between close peaks: what is clear is built at its lower end, loads are held.",
	season.EventWeek:  "The taper is all there is before the event.",
}

// standingOf is a quality as it is expected to stand.
type standingOf struct {
	id               string
	gap, error, need float64
	relevance        float64
	measured         bool
}

func (s *standingOf) clear() bool {
	return s.measured && s.gap >= confidence*s.error-1e-9 && s.gap >= clearFrom
}

// pencil says what the blocks of a season are expected to be for.
func (b *Basis) pencil(s *season.Season, issued map[civil.Date]*programme.Programme) []Pencilled {
	var now []*standingOf
	for _, q := range b.Read.Qualities {
		now = append(now, &standingOf{id: q.ID, gap: q.Gap, error: q.Error, relevance: q.Relevance, measured: q.Status == quality.Ranked})
	}
	out := make([]Pencilled, 0, len(s.Blocks))
	ran, leader, closed, trained := 0, "", "", 0
	if b.before != nil {
		trained = b.before.Blocks
	}
	for i := range s.Blocks {
		blk := s.Blocks[i]
		p := Pencilled{Block: blk, End: blk.End(), School: b.base.Name, Leads: []string{}, Builds: []string{}, Wanted: []string{}}
		sch := b.base.At(trained)
		nobody := nobodyLeads[blk.Kind]
		switch {
		case nobody != "":
		case blk.Peak != nil && blk.Rising() == 0:
			nobody = nobodyLeads[season.EventWeek]
		case blk.Phase == season.InSeason:
			nobody = "In season: what is clear is built at its lower end, strength is kept."
		}
		stageAt := sch.StageOf(func(q string) bool {
			return slices.ContainsFunc(now, func(x *standingOf) bool { return x.id == q && x.clear() })
		})
		stage := &sch.Stages[stageAt]
		p.Sessions = b.sessionsOf(&blk, sch, stageAt)
		clear := slices.DeleteFunc(slices.Clone(now), func(x *standingOf) bool { return !x.clear() })
		for _, x := range clear {
			x.need = x.gap * x.relevance * weightIn(blk.Phase, x.id)
			if slices.Contains(followers[closed], x.id) {
				x.need *= followerBoost
			}
		}
		slices.SortStableFunc(clear, func(x, y *standingOf) int { return int(math.Copysign(1, y.need-x.need)) * b2i(x.need != y.need) })
		var lead *standingOf
		if nobody == "" {
			for _, x := range clear {
				tired := x.id == leader && ran >= b.inARow(x.id)
				late := x.id == quality.MaximalStrength && blk.Peak != nil && i > 0
				if stage.May(x.id) && !tired && !late {
					lead = x
					break
				}
			}
		}
		if doc := issued[blk.Start]; blk.Begun && doc != nil {
			// It is issued: it is for what it was made for.
			lead = nil
			for _, a := range doc.Asked {
				switch quality.Level(a.Level) {
				case quality.Lead:
					p.Leads = append(p.Leads, budget.Name(a.Quality))
					if at := slices.IndexFunc(now, func(x *standingOf) bool { return x.id == a.Quality }); at >= 0 && lead == nil {
						lead = now[at]
					}
				case quality.Build:
					p.Builds = append(p.Builds, budget.Name(a.Quality))
				}
			}
			nobody = "It is issued: it stays as it is."
		} else if i == 0 && nobody == "" && len(b.Read.Leaders) > 0 {
			// The first block is the read's.
			for _, id := range b.Read.Leaders {
				p.Leads = append(p.Leads, quality.Name(id))
			}
			lead = now[slices.IndexFunc(now, func(x *standingOf) bool { return x.id == b.Read.Leaders[0] })]
		} else if lead != nil {
			p.Leads = append(p.Leads, quality.Name(lead.id))
		}
		for _, x := range clear {
			if x != lead && !blk.Begun && len(p.Builds) < 3 && !slices.Contains(p.Leads, quality.Name(x.id)) && blk.Kind != season.Break && blk.Kind != season.Transition && blk.Kind != season.Hold {
				p.Builds = append(p.Builds, quality.Name(x.id))
				p.Wanted = append(p.Wanted, wanted(x.id, quality.Build))
			}
		}
		if lead != nil && !blk.Begun {
			p.Wanted = append([]string{wanted(lead.id, quality.Lead)}, p.Wanted...)
		}
		p.Why = whyPencilled(b, nobody, lead, leader, i)
		out = append(out, p)

		if lead != nil && lead.id == leader {
			ran++
		} else if lead != nil {
			leader, ran = lead.id, 1
		}
		closed = ""
		share := float64(blk.Rising()) / 3
		if blk.Kind == season.Training {
			trained++
			for _, x := range clear {
				was := x.clear()
				if x == lead {
					x.gap -= fallsWhereLed * share
				} else if slices.Contains(p.Builds, quality.Name(x.id)) {
					x.gap -= fallsWhereBuilt * share
				}
				if x == lead && was && !x.clear() {
					closed = x.id
				}
			}
		}
	}
	return out
}

// weightIn is how a part of the year weighs a quality.
func weightIn(phase season.Phase, q string) float64 {
	if phase != season.PreSeason {
		return 1
	}
	switch q {
	case quality.VerticalPower, quality.HorizontalPower, quality.RotationalPower, quality.GroundForce, quality.StretchUse:
		return preQuick
	case quality.MaximalStrength:
		return preStrength
	}
	return 1
}

// wanted is the weekly dose of a quality at a level, in words.
func wanted(q string, l quality.Level) string {
	row, ok := budget.Doses().Row(q)
	if !ok {
		return ""
	}
	d := row.Of(l)
	return fmt.Sprintf("%s %s to %s %s a week", quality.Name(q), unit.Compact(d.Low, 1), unit.Compact(d.High, 1), row.Unit.Words())
}

// spreads is a gap in words: 1 spread, 1.4 spreads.
func spreads(gap float64) string {
	if text := unit.Compact(gap, 1); text != "1" {
		return text + " spreads"
	}
	return "1 spread"
}

func whyPencilled(b *Basis, nobody string, lead *standingOf, before string, at int) string {
	switch {
	case nobody != "":
		return nobody
	case at == 0 && lead != nil:
		return b.Read.Headline
	case lead == nil && at == 0:
		return b.Read.Headline
	case lead == nil:
		return "Nothing is expected to lie clearly below target any more: the school's mix."
	case lead.id == before:
		return fmt.Sprintf("%s is expected to be short still, by %s.", upper(quality.Name(lead.id)), spreads(lead.gap))
	case before != "":
		return fmt.Sprintf("%s is expected to have had its turn; %s has the largest need then.", upper(quality.Name(before)), quality.Name(lead.id))
	}
	return fmt.Sprintf("%s has the largest need then.", upper(quality.Name(lead.id)))
}
