package warmup

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
)

// How far a swing goes, and with what.
const (
	whole    = "whole"
	empty    = "empty"    // hands
	hip      = "hip"      // to hip, with a club
	shoulder = "shoulder" // empty hands to the shoulder
)

// ladder is what a ladder is made of.
type ladder struct {
	reach  string
	top    int  // intent, %
	swings int  // of the playing side in a round
	fast   int  // of them
	other  int  // of the other side
	split  bool // the other side's in two visits
	balls  bool
	rounds int
	club   implement.Implement // that it is swung with
	heavy  *implement.Implement
	ends   implement.Implement // the last swings
	driver float64             // mass, g
	bag    bool                // up through the bag
	child  bool
	step   bool // the three-quarter swings step in
	noStep bool // there is no room to
	drills []Item
}

// steps are the numbers of swings at 50, 70 and 85%, and fast.
func (l *ladder) steps() (half, three, full, fast int) {
	fast = l.fast
	slow := max(l.swings-l.fast, 0)
	half, full = slow/3, slow/3
	three = slow - half - full
	if l.top < fastFrom {
		full, fast = full+fast, 0
	}
	return half, three, full, fast
}

var stepNames = map[int]string{50: "Half swings", 70: "Three-quarter swings", 85: "Full swings, held back", 100: "Full swings, fast"}

var bagNames = map[int]string{50: "Wedge, half swings", 70: "Mid iron, three-quarter", 85: "Wood, held back", 100: "Driver, fast"}

func (l *ladder) name(intent int) string {
	switch {
	case l.reach == shoulder:
		return "Empty hands, shoulder high"
	case l.reach == hip:
		return "Hip-to-hip swings"
	case l.reach == empty:
		return "Empty hands: " + lower(stepNames[intent])
	case l.bag:
		return bagNames[intent]
	}
	return stepNames[intent]
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return string(s[0]+'a'-'A') + s[1:]
}

// round lays one round out. Heavy implements are swung in the first alone.
func (l *ladder) round(n int) []Item {
	var out []Item
	half, three, full, fast := l.steps()
	add := func(side string, swings, intent int, with implement.Implement) {
		if swings == 0 {
			return
		}
		it := Item{
			Phase: Ladder, Name: l.name(intent), Side: side, Swings: swings, IntentPercent: intent, Ball: l.balls && side == "playing", Round: n,
			Step: stepNames[intent], Cue: cues[intent],
		}
		if l.bag && side == "other" {
			it.Cue = "The club turned over, no ball" // nobody has a bag for the other side
		}
		if l.reach == whole || l.reach == hip {
			it.Implement, it.ImplementID = with.Name, with.ID
			p := math.Round(10*with.Percent(l.driver)) / 10
			it.ImplementPercent = &p
		}
		out = append(out, it)
	}
	firstOther, secondOther := l.other, 0
	if l.split && three > 0 {
		firstOther, secondOther = (l.other+1)/2, l.other/2
	}
	with50, with70 := l.club, l.club
	if n == 1 && l.heavy != nil {
		all := l.rounds * (l.swings + l.other)
		if k := half + firstOther; k <= mostHeavy && 3*k <= 2*all {
			with50 = *l.heavy
			if k += three + secondOther; k <= mostHeavy && 3*k <= 2*all && implement.UseOf(l.heavy.Percent(l.driver)) != implement.TwoClubs {
				with70 = *l.heavy
			}
		}
	}
	if l.bag {
		with50, with70 = bagClub(l.driver, wedge), bagClub(l.driver, midIron)
	}
	with85 := l.club
	if l.bag {
		with85 = bagClub(l.driver, wood)
	}
	add("playing", half, 50, with50)
	add("other", firstOther, 50, with50)
	add("playing", three, 70, with70)
	add("other", secondOther, 70, with70)
	ends := l.ends
	if l.top < fastFrom {
		with85 = ends
	}
	add("playing", full, 85, with85)
	add("playing", fast, 100, ends)
	for i := range out {
		if l.step && !l.noStep && l.reach == whole && out[i].IntentPercent == 70 {
			out[i].Name, out[i].Stepping, out[i].Cue = "Step swings, three-quarter", true, "Step, then swing; finish on one leg"
		}
	}
	if l.child {
		for i := range out {
			out[i].Name, out[i].IntentPercent, out[i].Step, out[i].Stepping = "Step swings, as they like", 0, "", true
			out[i].Cue = "Step, then swing; finish on one leg"
			if l.noStep || l.reach != whole {
				out[i].Name, out[i].Stepping, out[i].Cue = l.name(50), false, "Finish on one leg"
			}
		}
	}
	return out
}

var cues = map[int]string{50: "Loose hands", 70: "Feet quiet", 85: "Finish on the front leg", 100: "As fast as it goes, finish standing"}

// Clubs of a bag where their masses are not known; common practice, no source.
const (
	wedge   = "Wedge"
	midIron = "Mid iron"
	wood    = "Wood"
)

// ofBag reports whether an implement is a club of a bag: how heavy those are nobody asks.
func ofBag(id string) bool { return id == wedge || id == midIron || id == wood }

func bagClub(driverG float64, name string) implement.Implement {
	out := implement.Implement{ID: name, Name: name}
	switch name {
	case wedge:
		out.Kind, out.MassG, out.LengthM = implement.Wedge, driverG+155, 0.90
	case midIron:
		out.Kind, out.MassG, out.LengthM = implement.Iron, driverG+110, 0.95
	case wood:
		out.Kind, out.MassG, out.LengthM = implement.Wood, driverG+30, 1.07
	}
	return out
}

// items are all rounds with their seconds.
func (l *ladder) items() []Item {
	var out []Item
	for n := 1; n <= l.rounds; n++ {
		out = append(out, l.round(n)...)
		if n > 1 || len(l.drills) == 0 {
			continue
		}
		// Drills stand behind the first round; of one round alone before its last swings,
		// so that the fast ones stay last.
		at := len(out)
		if l.rounds == 1 && at > 0 {
			at--
		}
		out = slices.Insert(out, at, l.drills...)
	}
	timeSwings(out)
	return out
}

// timeSwings sets the seconds of swings that follow each other.
func timeSwings(items []Item) {
	var last *Item
	for i := range items {
		it := &items[i]
		if it.Swings == 0 {
			continue
		}
		it.Seconds = it.Swings * swingSeconds(it.IntentPercent, it.Ball)
		if last != nil && last.Side != it.Side {
			it.Seconds += changeS
		}
		if last != nil && last.ImplementID != it.ImplementID {
			it.Seconds += changeS
		}
		if last != nil && it.Round > last.Round {
			it.Seconds += betweenS
		}
		last = it
	}
}

func (l *ladder) seconds() int { return total(l.items()) }

func total(items []Item) (sum int) {
	for i := range items {
		if !items[i].Wait {
			sum += items[i].Seconds
		}
	}
	return sum
}

// fit makes a ladder fit into so many seconds: the other side in one visit, then down to
// two, then fewer swings to eight, then two fast ones, then six; it returns what was
// given up, in words, and whether it fits now.
func (l *ladder) fit(room int) (gave []string, ok bool) {
	wanted := *l
	if l.seconds() > room {
		l.split = false
	}
	if l.seconds() > room && l.heavy != nil {
		l.heavy = nil
		gave = append(gave, "the heavy implement")
	}
	if l.seconds() > room && l.other > leastOther {
		l.other = leastOther
		gave = append(gave, fmt.Sprintf("swings from the other side: %d instead of %d", l.other, wanted.other))
	}
	for l.seconds() > room && l.swings > 8 {
		l.swings--
	}
	if l.seconds() > room && l.fast > 2 {
		l.fast = 2
		gave = append(gave, fmt.Sprintf("fast swings: 2 instead of %d", wanted.fast))
	}
	for l.seconds() > room && l.swings > 6 {
		l.swings--
	}
	if l.swings < wanted.swings {
		gave = append(gave, fmt.Sprintf("swings of the ladder: %d instead of %d", l.swings, wanted.swings))
	}
	return gave, l.seconds() <= room
}

// heavyOf is the heavy implement a golfer may warm up with, if there is one: the
// heaviest that is allowed, of one implement before two clubs.
func heavyOf(p *Person, all []implement.Implement) *implement.Implement {
	if p.Junior || slices.ContainsFunc(p.Limits, func(l athlete.Limit) bool { return slices.Contains(heavyRegions, l.Region) }) {
		return nil
	}
	var fit []implement.Implement
	for _, i := range all {
		percent := i.Percent(p.Own.MassG)
		switch use := implement.UseOf(percent); {
		case i.Club() && use != implement.TwoClubs:
		case p.Senior && percent > heavySenior:
		case use == implement.Heavy || use == implement.WarmUp || use == implement.TwoClubs:
			fit = append(fit, i)
		}
	}
	if len(fit) == 0 {
		return nil
	}
	best := slices.MaxFunc(fit, func(a, b implement.Implement) int {
		two := func(i implement.Implement) int {
			if implement.UseOf(i.Percent(p.Own.MassG)) == implement.TwoClubs {
				return 1
			}
			return 0
		}
		return cmp.Or(cmp.Compare(two(b), two(a)), cmp.Compare(a.MassG, b.MassG))
	})
	return &best
}

// lightest is the lightest implement that is fast to end with, else a club turned over
// or the driver itself.
func lightest(own implement.Implement, all []implement.Implement) implement.Implement {
	best := own
	for _, i := range all {
		if implement.UseOf(i.Percent(own.MassG)) == implement.Light && i.MassG < best.MassG {
			best = i
		}
	}
	return best
}

// longestIron is what ends a ladder where only irons are there; a usual one where none is
// known.
func longestIron(own implement.Implement, all []implement.Implement) implement.Implement {
	best := bagClub(own.MassG, midIron)
	found := false
	for _, i := range all {
		if i.Kind == implement.Iron && (!found || i.LengthM > best.LengthM) {
			best, found = i, true
		}
	}
	return best
}

// reachOf is how far one may swing under a ceiling.
func reachOf(r *Request, heightM, lengthM float64) string {
	bare := r.Clubs == NoClub
	switch c := r.CeilingM; {
	case c == 0 && !bare, !bare && c >= heightM+lengthM+aboveHead:
		return whole
	case c == 0, c >= heightM+aboveHands:
		return empty
	case c >= hipCeiling && !bare:
		return hip
	}
	return shoulder
}
