package budget

import (
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/unit"
)

// Answer is what a programme gives of a quality beside what was asked for.
type Answer struct {
	Quality   string        `json:"quality"`
	Name      string        `json:"name"`
	Level     quality.Level `json:"level"`
	NeedShare float64       `json:"needShare"` // of the needs of what leads or is built
	// DoseWanted is the least a rising week holds, in Unit; DosePerWeek is what each
	// week holds.
	DoseWanted  float64   `json:"doseWanted"`
	DoseHigh    float64   `json:"doseHigh"`
	Unit        Unit      `json:"unit"`
	UnitWords   string    `json:"unitWords"`
	DosePerWeek []float64 `json:"dosePerWeek"`
	// MinutesPerWeek and SharePerWeek (%) are those of items that serve it by a
	// weight of 0.5 and over, home included, session warm-ups not. ShareWanted is a
	// leader's least share.
	MinutesPerWeek []float64 `json:"minutesPerWeek"`
	SharePerWeek   []float64 `json:"sharePerWeek"`
	ShareWanted    float64   `json:"shareWanted"`
	Met            bool      `json:"met"`
	Held           string    `json:"held"` // the rule, limit or missing minutes that hold it
}

// counter counts the work of a week.
type counter struct {
	exercises *library.Catalogue
	swings    int // that make an exposure
	intent    int // from which a swing is fast, %
}

// Given measures a programme against what it was asked for.
func (t *Table) Given(p *derive.Programme, exercises *library.Catalogue, who Person) []Answer {
	c := counter{exercises: exercises}
	c.swings, c.intent = t.Swings(who)
	out := make([]Answer, 0, len(p.Asked))
	for i := range p.Asked {
		a := &p.Asked[i]
		x := Answer{
			Quality: a.Quality, Name: Name(a.Quality), Level: quality.Level(a.Level), NeedShare: a.NeedShare, DoseWanted: a.Low, DoseHigh: a.High,
			Unit: Unit(a.Unit), UnitWords: Unit(a.Unit).Words(), ShareWanted: a.SharePercent, Met: true, Held: a.Held,
			DosePerWeek: []float64{}, MinutesPerWeek: []float64{}, SharePerWeek: []float64{},
		}
		for bi := range p.Blocks {
			for wi := range p.Blocks[bi].Weeks {
				w := &p.Blocks[bi].Weeks[wi]
				dose := c.dose(w, a)
				minutes, all := c.minutes(w, a.Quality, t.Share.Serves)
				share := 0.0
				if all > 0 {
					share = 100 * minutes / all
				}
				x.DosePerWeek = append(x.DosePerWeek, unit.Round(dose, 1))
				x.MinutesPerWeek = append(x.MinutesPerWeek, unit.Round(minutes, 1))
				x.SharePerWeek = append(x.SharePerWeek, unit.Round(share, 0))
				if w.Kind == programme.Rising {
					x.Met = x.Met && c.met(w, a, dose, share)
				}
			}
		}
		if x.Met {
			x.Held = ""
		}
		out = append(out, x)
	}
	return out
}

// UpperEnd is the share of the upper end of a range from which a dose stands at it:
// one set more would pass it.
const UpperEnd = 0.95

// met reports whether a rising week gives what was asked: the dose, and of a
// leader the share, unless its dose is at its upper end.
func (c *counter) met(w *derive.Week, a *programme.Asked, dose, share float64) bool {
	if unit.Round(dose, 1) < a.Low-1e-9 {
		return false
	}
	if a.Beside != "" && c.beside(w) < a.BesideLow-1e-9 {
		return false
	}
	return share >= a.SharePercent-0.5 || dose >= UpperEnd*a.High-1e-9
}

// each calls do for every item of a week, those at home too.
func each(w *derive.Week, do func(day int, it *derive.Item)) {
	for si := range w.Sessions {
		for ii := range w.Sessions[si].Items {
			do(w.Sessions[si].Date.Sub(w.Start), &w.Sessions[si].Items[ii])
		}
	}
	for hi := range w.Home {
		for ii := range w.Home[hi].Items {
			do(w.Home[hi].Date.Sub(w.Start), &w.Home[hi].Items[ii])
		}
	}
}

// minutes returns the minutes that serve a quality, and all of the week.
func (c *counter) minutes(w *derive.Week, q string, from float64) (serving, all float64) {
	each(w, func(_ int, it *derive.Item) {
		all += it.Minutes
		e, ok := c.exercises.Find(it.Exercise)
		if !ok {
			return
		}
		if q == Trunk && it.Slot == library.SlotTrunk || q == SwingSpeed && it.Slot == library.SlotSwings {
			serving += it.Minutes
			return
		}
		if it.Slot == library.SlotSwings {
			return // they never count toward a leader's share
		}
		if v := e.Serves[q]; v >= from {
			serving += it.Minutes * v / e.ServesFrom(from)
		}
	})
	return serving, all
}

// dose counts what a week gives in the unit that was asked for.
func (c *counter) dose(w *derive.Week, a *programme.Asked) float64 {
	switch Unit(a.Unit) {
	case JointMinutes:
		var all []float64
		for _, j := range a.Joints {
			all = append(all, c.jointMinutes(w, j)*a.Low/j.Low)
		}
		return least(all)
	case TrunkSets:
		return math.Min(c.sets(w, isResisting), c.sets(w, IsTurning))
	case Exposures:
		return c.exposures(w)
	case DrillDoses:
		return c.drillDoses(w, a)
	}
	n := 0.0
	each(w, func(_ int, it *derive.Item) {
		if e, ok := c.exercises.Find(it.Exercise); ok {
			n += Count(Unit(a.Unit), e, &it.Dose)
		}
	})
	return n
}

// Count is what one dose of an exercise counts in a unit: by its pattern, whatever
// it weighs.
func Count(u Unit, e *library.Exercise, d *programme.Dose) float64 {
	volume := float64(d.Volume())
	switch u {
	case LiftSets:
		if IsLift(e) {
			return float64(d.Sets)
		}
	case Contacts:
		if IsJump(e) {
			return volume
		}
	case ThrowsEachWay:
		if strings.HasPrefix(e.Pattern, "throw") && e.Sides == library.Directional {
			return float64(d.Sets*d.Reps*d.SideFactor()) / 2 // what a weaker side gets more is not both ways
		}
	case ChestThrows:
		if IsChestThrow(e) {
			if d.Unit == library.Seconds {
				return volume // a fast push takes about a second
			}
			return volume
		}
	case Rebounds:
		if e.DoseUnit == library.Contacts && e.Rhythmic && !e.IsSprint() {
			return volume
		}
	case StillMinutes:
		if IsStill(e) {
			return work(e, d) / 60
		}
	case GripSets:
		if IsGrip(e) {
			return float64(d.Sets)
		}
	case PushItems:
		if e.Serves[quality.GroundForce] >= 0.5 {
			return 1
		}
	}
	return 0
}

// work is the seconds a dose moves or holds, both sides.
func work(e *library.Exercise, d *programme.Dose) float64 {
	if d.Unit == library.Seconds {
		return float64(d.Volume())
	}
	return float64(d.Volume()) * e.SecondsPerRep
}

// IsLift reports whether an exercise is a squat or a hinge of the legs.
func IsLift(e *library.Exercise) bool {
	return e.Pattern == "two-leg-lift" || e.Pattern == "one-leg-lift"
}

// IsPush and IsPull report whether an exercise is a push or a pull of the arms.
func IsPush(e *library.Exercise) bool { return e.Pattern == "push" }

// IsPull reports whether an exercise is a pull of the arms.
func IsPull(e *library.Exercise) bool { return e.Pattern == "pull" }

// IsChestThrow reports whether an exercise is a chest throw or a fast push.
func IsChestThrow(e *library.Exercise) bool {
	return e.Serves[quality.HorizontalPower] >= 0.5 && e.Sides == library.TwoSided &&
		(strings.HasPrefix(e.Pattern, "throw") || e.Pattern == "push-fast")
}

// IsJump reports whether an exercise is a jump or a sprint, no rebound.
func IsJump(e *library.Exercise) bool {
	return e.DoseUnit == library.Contacts && (!e.Rhythmic || e.IsSprint())
}

// IsStill reports whether an exercise is done on one leg or holding still.
func IsStill(e *library.Exercise) bool {
	if e.Zone == library.M && slices.Contains(e.Slots, library.SlotRange) && e.Serves[quality.Control] < 0.5 {
		return false
	}
	return e.Serves[quality.Control] >= 0.5 || e.DoseUnit == library.Seconds && strings.HasPrefix(e.Pattern, "resist")
}

// IsGrip reports whether an exercise is one of grip.
func IsGrip(e *library.Exercise) bool { return e.OfGrip() }

func isResisting(e *library.Exercise) bool { return strings.HasPrefix(e.Pattern, "resist") }

// IsTurning reports whether an exercise produces rotation, or lowers it: a heavy club
// swung slowly does.
func IsTurning(e *library.Exercise) bool {
	return e.Pattern == "produce-rotation" || e.Pattern == "lowering-rotation" || e.Pattern == "swing" && e.Zone == library.Z3
}

// IsDrill reports whether an exercise is a drill of separation.
func IsDrill(e *library.Exercise) bool { return e.Serves[quality.Separation] >= 0.5 && !e.LookAlike }

func (c *counter) sets(w *derive.Week, of func(*library.Exercise) bool) float64 {
	n := 0.0
	each(w, func(_ int, it *derive.Item) {
		if e, ok := c.exercises.Find(it.Exercise); ok && of(e) {
			n += float64(it.Dose.Sets)
		}
	})
	return n
}

func (c *counter) beside(w *derive.Week) float64 {
	return math.Min(c.sets(w, IsPush), c.sets(w, IsPull))
}

// jointMinutes are the minutes a week on one side of a joint.
func (c *counter) jointMinutes(w *derive.Week, j programme.AskedJoint) float64 {
	seconds := 0.0
	each(w, func(_ int, it *derive.Item) {
		e, ok := c.exercises.Find(it.Exercise)
		if !ok || !slices.Contains(e.Targets, j.Test) || !sideOf(it.Dose.Side, j.Side) {
			return
		}
		seconds += work(e, &it.Dose) / float64(it.Dose.SideFactor())
	})
	return seconds / 60
}

// drillDoses counts doses of drills, as far as they are of different ones.
func (c *counter) drillDoses(w *derive.Week, a *programme.Asked) float64 {
	byDrill := map[string]int{}
	each(w, func(_ int, it *derive.Item) {
		if e, ok := c.exercises.Find(it.Exercise); ok && IsDrill(e) {
			byDrill[e.ID]++
		}
	})
	n := 0
	for _, doses := range byDrill {
		n += doses
	}
	if len(byDrill) < a.Drills && n > 0 {
		return math.Min(float64(n), a.Low*float64(len(byDrill))/float64(a.Drills))
	}
	return float64(n)
}

// exposures are the sessions with enough fast swings.
func (c *counter) exposures(w *derive.Week) float64 {
	n := 0.0
	for si := range w.Sessions {
		swings := 0
		for _, it := range w.Sessions[si].Items {
			if it.Slot == library.SlotSwings && it.Dose.IntentPercent >= c.intent {
				swings += it.Dose.Volume()
			}
		}
		if swings >= c.swings {
			n++
		}
	}
	return n
}
