package app

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/flight"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/unit"
	"dunnock/internal/core/warmup"
	"dunnock/internal/store"
)

// coldStartDueDays is after how many days a cold start is due again: eight weeks.
const coldStartDueDays = 56

// SpeedPage is everything a golfer's swings say.
type SpeedPage struct {
	Series    []*SeriesView  `json:"series"` // newest first
	ColdStart *ColdStartView `json:"coldStart,omitempty"`
	// NoColdStart says why a cold start may not be done today; empty where it may. Raised
	// says that raise and joints come first for this golfer.
	NoColdStart string           `json:"noColdStart,omitempty"`
	Raised      bool             `json:"raised"`
	Profile     *speed.Profile   `json:"profile,omitempty"`
	OtherLine   *speed.Profile   `json:"otherProfile,omitempty"`
	NoProfile   string           `json:"noProfile,omitempty"`
	Share       *speed.Share     `json:"share,omitempty"`
	Sides       []SidePoint      `json:"sides"` // through time, oldest first
	Own         OwnedImplement   `json:"own"`
	Implements  []OwnedImplement `json:"implements"` // by mass
	Ladder      []implement.Rung `json:"ladder"`
	SmashLimit  float64          `json:"smashLimit"`
}

// SeriesView is a series with what it comes to.
type SeriesView struct {
	ID        string              `json:"id"`
	AthleteID string              `json:"athleteId"`
	Revision  int                 `json:"revision"`
	Date      civil.Date          `json:"date"`
	Kind      string              `json:"kind"`
	Before    string              `json:"before"`
	Raised    bool                `json:"raised"`
	Note      string              `json:"note"`
	CreatedAt time.Time           `json:"createdAt"`
	CreatedBy string              `json:"createdBy"`
	Swings    []store.SeriesSwing `json:"swings"`
	Marks     []speed.Mark        `json:"marks"` // of each swing
	Summaries []speed.Summary     `json:"summaries"`
	Stops     []KeyStop           `json:"stops"`
	Cold      *speed.ColdStart    `json:"cold,omitempty"` // of a cold start
	Reason    string              `json:"reason,omitempty"`
	Warnings  []string            `json:"warnings"`
}

// KeyStop is where a key stands against its stop line.
type KeyStop struct {
	speed.Key
	speed.Stop
	UsualMps float64 `json:"usualMps"` // median reference of the last four days with the key; 0: none
}

// ColdStartView is the newest cold start and what it costs.
type ColdStartView struct {
	On       civil.Date       `json:"on"`
	Before   string           `json:"before"`
	Raised   bool             `json:"raised"`
	Result   *speed.ColdStart `json:"result"`
	Mps      []float64        `json:"mps"`
	Lost     *speed.Lost      `json:"lost,omitempty"` // nil where nothing is lost
	Sentence string           `json:"sentence"`
	Strike   string           `json:"strike,omitempty"` // early against late
	Ladder   int              `json:"ladderSwings"`
	DueOn    civil.Date       `json:"dueOn"`
	Due      bool             `json:"due"`
}

// SidePoint is a day's best of both sides with the same implement.
type SidePoint struct {
	Date       civil.Date `json:"date"`
	Implement  string     `json:"implement"`
	PlayingMps float64    `json:"playingMps"`
	OtherMps   float64    `json:"otherMps"`
	GapPct     float64    `json:"gapPct"` // other below playing, in %
}

// OwnedImplement is an implement with its share of the own driver.
type OwnedImplement struct {
	implement.Implement
	Percent  float64       `json:"percent"`
	Use      implement.Use `json:"use"`
	Trains   bool          `json:"trains"`   // lies in the range for fast swings of training
	Practice bool          `json:"practice"` // the practice's; otherwise the golfer's
}

// Speed returns a golfer's speed page.
func (a *App) Speed(ctx context.Context, who *Actor, athleteID string) (*SpeedPage, error) {
	f, err := a.file(ctx, who, athleteID)
	if err != nil {
		return nil, err
	}
	p := a.store.For(who.PracticeID)
	all, err := p.AllSeries(ctx, athleteID)
	if err != nil {
		return nil, err
	}
	owned, err := p.Implements(ctx)
	if err != nil {
		return nil, err
	}
	out := &SpeedPage{Series: make([]*SeriesView, len(all)), Sides: []SidePoint{}, Implements: []OwnedImplement{}, Ladder: []implement.Rung{}}
	for i := range all {
		out.Series[i] = viewSeries(&all[i], all[i+1:])
	}
	out.implements(f, owned)
	out.NoColdStart, out.Raised = coldStartAllowed(f)
	if err := out.coldStart(f, all); err != nil {
		return nil, err
	}
	out.lines(all)
	out.SmashLimit, err = flight.SmashLimit(flight.HeadKg, flight.Restitution)
	return out, err
}

// viewSeries says what a series comes to; earlier are those before it, newest first.
func viewSeries(s *store.Series, earlier []store.Series) *SeriesView {
	cold := s.Kind == store.SeriesColdStart
	swings := s.Speeds()
	v := &SeriesView{
		ID: s.ID, AthleteID: s.AthleteID, Revision: s.Revision, Date: s.Date, Kind: s.Kind, Before: s.Before, Raised: s.Raised, Note: s.Note, CreatedAt: s.CreatedAt.UTC(), CreatedBy: s.CreatedBy,
		Swings: s.Swings, Marks: speed.Marks(swings, cold), Summaries: speed.Summarise(swings, cold), Stops: []KeyStop{}, Warnings: []string{},
	}
	today := swings
	for _, e := range earlier {
		if e.Date == s.Date && e.Kind == s.Kind {
			today = append(e.Speeds(), today...) // the stop line is the day's
		}
	}
	for _, sum := range v.Summaries {
		if cold {
			break
		}
		before, usual := earlierOf(sum.Key, s.Date, earlier)
		v.Stops = append(v.Stops, KeyStop{sum.Key, speed.StopOf(speed.Of(today, sum.Key, false), speed.StopShare(before)), usual})
		var all []float64
		for i, x := range swings {
			if x.Key == sum.Key && x.Void == "" && v.Marks[i] != speed.Double {
				all = append(all, x.ClubMps)
			}
		}
		if speed.MixedUnits(all) {
			v.Warnings = append(v.Warnings, "The fastest is over 1.8 times the slowest: are some in another unit?")
		}
		if sum.OverLimit > 0 {
			v.Warnings = append(v.Warnings, fmt.Sprintf("%d strikes leave faster than mass and restitution allow: a misread ball or club speed.", sum.OverLimit))
		}
	}
	if cold {
		if c := s.ColdStart(); c != nil {
			v.Cold, _ = speed.ColdStartOf(c.Mps) // speeds were checked when they came in
			v.Reason = v.Cold.Reason()
		}
	}
	return v
}

// usualDays is of how many days with a key the usual reference is the median.
const usualDays = 4

// earlierOf are a key's swings of earlier days, and the median reference of the last
// four of them.
func earlierOf(k speed.Key, on civil.Date, earlier []store.Series) (mps []float64, usual float64) {
	byDay := map[civil.Date][]speed.Swing{}
	var days []civil.Date
	for _, e := range earlier {
		if !e.Date.Before(on) || e.Kind == store.SeriesColdStart {
			continue
		}
		for _, x := range speed.Of(e.Speeds(), k, false) {
			if byDay[e.Date] == nil {
				days = append(days, e.Date)
			}
			byDay[e.Date] = append(byDay[e.Date], x)
			mps = append(mps, x.ClubMps)
		}
	}
	var refs []float64
	for _, d := range days[:min(usualDays, len(days))] {
		if r := speed.StopOf(byDay[d], 1).ReferenceMps; r > 0 {
			refs = append(refs, r)
		}
	}
	if len(refs) > 0 {
		slices.Sort(refs)
		usual = (refs[(len(refs)-1)/2] + refs[len(refs)/2]) / 2
	}
	return mps, usual
}

// coldRegions are those whose limits forbid a cold start.
var coldRegions = []string{"lumbar-spine", "thoracic-spine", "hip", "shoulder", "wrist-hand", "heart"}

// coldStartAllowed says why fast swings without a warm-up may not be made; raised says
// that raise and joints come first.
func coldStartAllowed(f *athlete.File) (why string, raised bool) {
	band := f.Athlete.Band(f.AsOf)
	raised = f.Athlete.Junior(f.AsOf) || band == athlete.BandSenior
	if band == athlete.BandChild {
		return "Under 13 there are no maximal tests.", raised
	}
	if c := f.ClearanceOn(f.AsOf); c.State != athlete.Clear {
		return "Not cleared: " + c.Text, raised
	}
	for _, l := range f.LimitsOn(f.AsOf) {
		if slices.Contains(coldRegions, l.Region) {
			return "A limit forbids it: " + l.Words() + ".", raised
		}
	}
	return "", raised
}

func (s *SpeedPage) implements(f *athlete.File, practice []implement.Implement) {
	p := warmup.PersonOf(f, &quality.Read{}, 0)
	owned := func(i implement.Implement, ofPractice bool) OwnedImplement {
		pct := i.Percent(p.Own.MassG)
		return OwnedImplement{i, unit.Round(pct, 1), implement.UseOf(pct), implement.Trains(pct), ofPractice}
	}
	s.Own = owned(p.Own, false)
	all := slices.Clone(p.Implements)
	for _, i := range p.Implements {
		s.Implements = append(s.Implements, owned(i, false))
	}
	for _, i := range practice {
		s.Implements = append(s.Implements, owned(i, true))
		all = append(all, i)
	}
	slices.SortStableFunc(s.Implements, func(a, b OwnedImplement) int { return int(math.Copysign(1, a.MassG-b.MassG)) })
	s.Ladder = implement.Ladder(p.Own, all)
}

// mass is that of an implement by its id, in g; false where it is not known.
func (s *SpeedPage) mass(id string) (float64, bool) {
	if id == s.Own.ID || id == implement.Usual.ID {
		return s.Own.MassG, true
	}
	for _, i := range s.Implements {
		if i.ID == id {
			return i.MassG, true
		}
	}
	return 0, false
}

func (s *SpeedPage) coldStart(f *athlete.File, all []store.Series) error {
	c := f.NewestColdStart()
	if c == nil {
		return nil
	}
	r, err := speed.ColdStartOf(c.Mps)
	if err != nil {
		return err
	}
	v := &ColdStartView{On: c.On, Before: c.Before, Raised: c.Raised, Result: r, Mps: c.Mps, Ladder: r.LadderSwings(), DueOn: c.On.Add(coldStartDueDays)}
	v.Due = !f.AsOf.Before(v.DueOn)
	var shots []speed.Shot
	var struck []speed.Swing
	for i := range all {
		swings := all[i].Speeds()
		for k, m := range speed.Marks(swings, all[i].Kind == store.SeriesColdStart) {
			if x := swings[k]; m == speed.Counts && x.Implement == s.Own.ID && x.Side == speed.Playing {
				if x.CarryM > 0 {
					shots = append(shots, speed.Shot{ClubMps: x.ClubMps, CarryM: x.CarryM})
				}
				if x.Intent == speed.Full {
					struck = append(struck, x)
				}
			}
		}
		if all[i].Kind == store.SeriesColdStart && all[i].Date == c.On && v.Strike == "" {
			v.Strike = strikeWords(speed.Of(swings, driverKey(s.Own.ID), true))
		}
	}
	if lost := r.LostMps(); lost > 0.05 {
		late := r.LateMps
		if r.Fit != nil {
			late = r.Fit.CeilingMps
		}
		if v.Lost, err = speed.CarryLost(late, lost, shots, speed.BallOf(struck)); err != nil {
			v.Lost = nil // too slow for a flight: the speeds say it
		}
	}
	v.Sentence = quality.ColdStartSentence(c, r, f.Units)
	s.ColdStart = v
	return nil
}

func driverKey(own string) speed.Key {
	return speed.Key{Implement: own, Side: speed.Playing, Intent: speed.Full}
}

// strikeWords sets strike and direction of the first three against the last three.
func strikeWords(swings []speed.Swing) string {
	var seen []speed.Swing
	for _, x := range swings {
		if x.Strike != nil {
			seen = append(seen, x)
		}
	}
	n := min(3, len(seen)/2)
	if n < 2 {
		return ""
	}
	of := func(part []speed.Swing) (off, dir float64) {
		for _, x := range part {
			off += math.Hypot(x.Strike.ToeMm, x.Strike.HighMm) / float64(n)
			dir += math.Abs(x.Strike.DirectionDeg) / float64(n)
		}
		return off, dir
	}
	off1, dir1 := of(seen[:n])
	off2, dir2 := of(seen[len(seen)-n:])
	return fmt.Sprintf("Strike %.0f mm from the middle early, %.0f mm late; start %.1f° off line early, %.1f° late.", off1, off2, dir1, dir2)
}

// lines are the load–speed lines of both sides, the share of the ceiling, and both sides
// through time.
func (s *SpeedPage) lines(all []store.Series) {
	best := map[string]map[string]float64{speed.Playing: {}, speed.Other: {}}
	cruise, full := 0.0, 0.0
	type dayKey struct {
		on   civil.Date
		with string
	}
	days := map[dayKey]*SidePoint{}
	for i := range slices.Backward(all) {
		cold := all[i].Kind == store.SeriesColdStart
		for _, sum := range speed.Summarise(all[i].Speeds(), cold) {
			if cold || sum.Drill != "" {
				continue
			}
			if sum.Intent == speed.Full {
				best[sum.Side][sum.Implement] = max(best[sum.Side][sum.Implement], sum.BestMps)
				k := dayKey{all[i].Date, sum.Implement}
				if days[k] == nil {
					days[k] = &SidePoint{Date: all[i].Date, Implement: s.nameOf(sum.Implement)}
				}
				if sum.Side == speed.Other {
					days[k].OtherMps = max(days[k].OtherMps, sum.BestMps)
				} else {
					days[k].PlayingMps = max(days[k].PlayingMps, sum.BestMps)
				}
			}
			if sum.Implement == s.Own.ID && sum.Side == speed.Playing {
				switch sum.Intent {
				case speed.Full:
					full = max(full, sum.BestMps)
				case speed.Cruise:
					cruise = sum.MeanMps // of the newest series
				}
			}
		}
	}
	for _, d := range days {
		if d.OtherMps > 0 && d.PlayingMps > 0 {
			d.GapPct = unit.Round(100*(1-d.OtherMps/d.PlayingMps), 1)
			s.Sides = append(s.Sides, *d)
		}
	}
	slices.SortFunc(s.Sides, func(a, b SidePoint) int {
		if a.Date != b.Date {
			return a.Date.Sub(b.Date)
		}
		return strings.Compare(a.Implement, b.Implement)
	})
	line := func(side string) (*speed.Profile, string) {
		var points []speed.Point
		masses := map[float64]bool{}
		for id, v := range best[side] {
			if m, ok := s.mass(id); ok && !masses[m] {
				masses[m] = true
				points = append(points, speed.Point{MassG: m, BestMps: v})
			}
		}
		p, err := speed.ProfileOf(points, s.Own.MassG)
		if err != nil {
			return nil, Sentence(errors.New(strings.TrimPrefix(err.Error(), "speed: ")))
		}
		return p, ""
	}
	s.Profile, s.NoProfile = line(speed.Playing)
	s.OtherLine, _ = line(speed.Other)
	if cruise > 0 && full > 0 {
		share := speed.ShareOf(cruise, full)
		s.Share = &share
	}
}

func (s *SpeedPage) nameOf(id string) string {
	if id == s.Own.ID {
		return s.Own.Name
	}
	for _, i := range s.Implements {
		if i.ID == id {
			return i.Name
		}
	}
	return id
}
