// Package class lays one session out for several golfers: stations they go round, each golfer
// with an exercise, a dose and a caution of their own at every one (handbook, season, schools
// and class). Under 13 it is games. It knows no golfer but by what may be chosen for them;
// what is done is logged as any session is (package training).
package class

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"sync"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// The halves of a class: what is fast comes first.
const (
	Fast   = "fast"
	Strong = "strong"
	Games  = "games"
)

// Numbers of a class (handbook): minutes of warm-up and close, golfers to a coach, and of
// a station.
const (
	WarmUpMinutes = 8
	CloseMinutes  = 4
	LeastMinutes  = 5
	// MostMinutes is the most at a station (ours): a dose of one pattern fills no more, and
	// small groups would stand about.
	MostMinutes     = 12
	ToACoach        = 10
	ToACoachNovices = 6 // with free weights, and novices or juniors
	Least, Most     = 2, 20
	leastStations   = 2
	mostStations    = 6
	atAStation      = 3

	GamesSlot   = 45
	GameMinutes = 6
	ToAnAdult   = 8
	leastAdults = 2
)

// Kind is a kind of station: one pattern and its ladder.
type Kind struct {
	ID       string       `json:"id"`
	Name     string       `json:"name"`
	Half     string       `json:"half"`
	Slot     library.Slot `json:"slot"`
	Patterns []string     `json:"patterns"`
	Order    int          `json:"order"`
	Asks     []string     `json:"asks"`
	Room     bool         `json:"room"` // swings need room
}

// Game is one game of those under 13.
type Game struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Text     string `json:"text"`
	Landings int    `json:"landings"`
	Swings   int    `json:"swings"`
}

//go:embed stations.json
var source []byte

type content struct {
	Stations []Kind `json:"stations"`
	Games    []Game `json:"games"`
}

var read = sync.OnceValue(func() content {
	var c content
	if err := json.Unmarshal(source, &c); err != nil {
		panic("class: stations.json: " + err.Error())
	}
	return c
})

// Golfer is who takes part, and what may be chosen for them.
type Golfer struct {
	ID, Name string
	Child    bool // under 13
	Junior   bool
	Novice   bool
	Cleared  bool
	Consent  bool // of a guardian, where it is needed; true where it is not
	Needs    map[string]float64
	// Choose returns an item of a slot and some patterns for the golfer, with a caution where
	// there is one; false where none of them may be done.
	Choose func(slot library.Slot, patterns []string, prefix string) (programme.Item, string, bool)
	// Calm returns a line of range or control for who may not do what the others do.
	Calm func(prefix string, n int) (programme.Item, bool)
}

// Ask is what a class is asked for.
type Ask struct {
	Minutes int  `json:"minutes"`
	Coaches int  `json:"coaches"`
	Room    bool `json:"room"` // there is room and a ceiling to swing
}

// Line is one golfer at one station.
type Line struct {
	Golfer  string         `json:"golfer"`
	Item    programme.Item `json:"item"`
	Caution string         `json:"caution,omitempty"`
}

// Station is one place golfers come to in turns.
type Station struct {
	ID    string   `json:"id"`
	Name  string   `json:"name"`
	Half  string   `json:"half"`
	Text  string   `json:"text,omitempty"` // of a game
	Asks  []string `json:"asks"`
	Lines []Line   `json:"lines"`
}

// Round is a stretch of time in which every group is at one station.
type Round struct {
	Half string `json:"half"`
	From int    `json:"from"` // minutes from the start
	To   int    `json:"to"`
	// At are, by station of the class, the golfers who are there.
	At map[string][]string `json:"at"`
}

// Class is one session for all of them.
type Class struct {
	Minutes  int       `json:"minutes"` // of the slot
	Each     int       `json:"each"`    // minutes at a station
	Games    bool      `json:"games,omitempty"`
	Stations []Station `json:"stations"`
	Rounds   []Round   `json:"rounds"`
	Notes    []string  `json:"notes"`
}

// Refusal says why no class can be made.
type Refusal struct{ Text string }

func (e *Refusal) Error() string { return e.Text }

func refuse(format string, args ...any) error { return &Refusal{fmt.Sprintf(format, args...)} }

// Of lays out a class. Item ids begin with the prefix.
func Of(golfers []Golfer, ask Ask, prefix string) (*Class, error) {
	n := len(golfers)
	if n < Least || n > Most {
		return nil, refuse("A class is %d to %d golfers, not %d.", Least, Most, n)
	}
	children := 0
	for _, g := range golfers {
		if g.Child {
			children++
		}
	}
	switch {
	case children == n:
		return games(golfers, ask)
	case children > 0:
		return nil, refuse("Golfers under 13 have a class of their own, of games: take them out of this one.")
	}
	k, each := stations(n, ask.Minutes)
	if each < LeastMinutes {
		return nil, refuse("%d minutes are too few: with the warm-up and the close a class needs %d.", ask.Minutes, WarmUpMinutes+CloseMinutes+leastStations*(LeastMinutes+1))
	}
	c := &Class{Minutes: ask.Minutes, Each: each, Stations: []Station{}, Rounds: []Round{}, Notes: []string{}}
	fast := (k + 1) / 2
	c.choose(golfers, Fast, fast, ask, prefix)
	c.choose(golfers, Strong, k-fast, ask, prefix)
	c.rotate(golfers)
	c.coaches(golfers, ask)
	return c, nil
}

// stations are how many there are for n golfers in so many minutes, and the minutes at each:
// one to three golfers, more where a station would last too long, fewer where it would be too
// short.
func stations(n, minutes int) (k, at int) {
	each := func(k int) int { return (minutes - WarmUpMinutes - CloseMinutes - k) / k }
	k = min(max((n+atAStation-1)/atAStation, leastStations), mostStations)
	for k < mostStations && each(k) > MostMinutes {
		k++
	}
	for k > leastStations && each(k) < LeastMinutes {
		k--
	}
	return k, each(k)
}

// choose takes the stations of a half: those something may be done at by most, in their
// order.
func (c *Class) choose(golfers []Golfer, half string, n int, ask Ask, prefix string) {
	taken := 0
	for _, k := range read().Stations {
		if k.Half != half || taken == n || k.Room && !ask.Room {
			continue
		}
		st := Station{ID: k.ID, Name: k.Name, Half: half, Asks: append([]string{}, k.Asks...), Lines: []Line{}}
		able := 0
		for gi, g := range golfers {
			id := fmt.Sprintf("%s-%d-%s", prefix, gi+1, k.ID)
			line := Line{Golfer: g.ID}
			ok := false
			if g.Cleared && g.Consent {
				line.Item, line.Caution, ok = g.Choose(k.Slot, k.Patterns, id)
			}
			if ok {
				able++
				fit(&line.Item, c.Each)
			} else {
				if line.Item, ok = g.Calm(id, len(c.Stations)); !ok {
					continue
				}
				line.Caution = "Range or control instead: nothing of this station may be done."
				if !g.Cleared || !g.Consent {
					line.Caution = "Not cleared: range and control only."
				}
			}
			st.Lines = append(st.Lines, line)
		}
		if able*2 < len(golfers) {
			continue // the kit or the limits leave it to too few
		}
		c.Stations = append(c.Stations, st)
		taken++
	}
}

// setMinutes is about how long a set takes with its rest, by what it counts.
func setSeconds(d *programme.Dose) float64 {
	work := 4.0 * float64(d.Reps*d.SideFactor())
	if d.Unit == library.Seconds {
		work = float64(d.Seconds * max(1, d.Times) * d.SideFactor())
	}
	return work + float64(min(d.RestSeconds, classRest))
}

// classRest is the most that is rested between sets in a class, in seconds: the others go in
// turn meanwhile.
const classRest = 90

// fit makes an item last its station: as many sets as go into it, one at least.
func fit(it *programme.Item, minutes int) {
	d := &it.Dose
	d.RestSeconds = min(d.RestSeconds, classRest)
	d.WarmUpSets, d.WeakerSets = nil, 0
	most := max(1, int(math.Floor(float64(minutes*60)/setSeconds(d))))
	d.Sets = min(max(d.Sets, 1), most)
}

// rotate sends groups round the stations of each half.
func (c *Class) rotate(golfers []Golfer) {
	at := WarmUpMinutes
	for _, half := range []string{Fast, Strong} {
		var ids []string
		for _, s := range c.Stations {
			if s.Half == half {
				ids = append(ids, s.ID)
			}
		}
		groups := split(golfers, len(ids))
		for r := range ids {
			round := Round{Half: half, From: at, To: at + c.Each, At: map[string][]string{}}
			for g, members := range groups {
				round.At[ids[(g+r)%len(ids)]] = members
			}
			c.Rounds = append(c.Rounds, round)
			at += c.Each + 1
		}
	}
}

// split makes n groups that differ by one at most, in the order golfers are given in.
func split(golfers []Golfer, n int) [][]string {
	out := make([][]string, n)
	for i, g := range golfers {
		if n > 0 {
			out[i%n] = append(out[i%n], g.ID)
		}
	}
	return out
}

// coaches says how many are needed.
func (c *Class) coaches(golfers []Golfer, ask Ask) {
	to := ToACoach
	free := slices.ContainsFunc(c.Stations, func(s Station) bool {
		return slices.ContainsFunc(s.Lines, func(l Line) bool { return l.Item.Dose.Reserve != nil })
	})
	if free && slices.ContainsFunc(golfers, func(g Golfer) bool { return g.Novice || g.Junior }) {
		to = ToACoachNovices
	}
	if need := (len(golfers) + to - 1) / to; need > max(ask.Coaches, 1) {
		c.Notes = append(c.Notes, fmt.Sprintf("%d golfers need %d coaches here: one to %d.", len(golfers), need, to))
	}
	for _, g := range golfers {
		if !g.Consent {
			c.Notes = append(c.Notes, g.Name+": a guardian's consent is missing.")
		}
	}
}

// games is the class of those under 13.
func games(golfers []Golfer, ask Ask) (*Class, error) {
	c := &Class{Minutes: GamesSlot, Each: GameMinutes, Games: true, Stations: []Station{}, Rounds: []Round{}, Notes: []string{"No loads, no intents, no scores. Turns of at most a minute, as long to rest."}}
	at := WarmUpMinutes
	all := make([]string, len(golfers))
	for i, g := range golfers {
		all[i] = g.ID
		if !g.Consent || !g.Cleared {
			c.Notes = append(c.Notes, g.Name+": a guardian's consent or the questions are missing: they watch until they are there.")
		}
	}
	for _, g := range read().Games {
		c.Stations = append(c.Stations, Station{ID: g.ID, Name: g.Name, Half: Games, Text: g.Text, Asks: []string{}, Lines: []Line{}})
		c.Rounds = append(c.Rounds, Round{Half: Games, From: at, To: at + GameMinutes, At: map[string][]string{g.ID: all}})
		at += GameMinutes
	}
	if need := max(leastAdults, (len(golfers)+ToAnAdult-1)/ToAnAdult); ask.Coaches < need {
		c.Notes = append(c.Notes, fmt.Sprintf("%d adults are present: one to %d, never fewer than %d.", need, ToAnAdult, leastAdults))
	}
	return c, nil
}

// Items are what a golfer does in the class, in the order they come to it.
func (c *Class) Items(golfer string) []programme.Item {
	var out []programme.Item
	for _, r := range c.Rounds {
		for si := range c.Stations {
			s := &c.Stations[si]
			if !slices.Contains(r.At[s.ID], golfer) {
				continue
			}
			for _, l := range s.Lines {
				if l.Golfer == golfer {
					out = append(out, l.Item)
				}
			}
		}
	}
	return out
}

// Leave takes a golfer out.
func (c *Class) Leave(golfer string) {
	for i := range c.Stations {
		c.Stations[i].Lines = slices.DeleteFunc(c.Stations[i].Lines, func(l Line) bool { return l.Golfer == golfer })
	}
	for i := range c.Rounds {
		for at, ids := range c.Rounds[i].At {
			c.Rounds[i].At[at] = slices.DeleteFunc(slices.Clone(ids), func(id string) bool { return id == golfer })
		}
	}
}
