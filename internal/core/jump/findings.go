package jump

import (
	_ "embed" // windows.json
	"encoding/json"
	"fmt"
	"math"
	"slices"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/force"
	"dunnock/internal/core/unit"
)

//go:embed windows.json
var windowsFile []byte

// Windows are the shipped reference windows of jumps.
func Windows() []force.Window {
	var w []force.Window
	if err := json.Unmarshal(windowsFile, &w); err != nil {
		panic("jump: windows.json: " + err.Error()) // shipped with the program
	}
	return w
}

// Values are the numbers of a jump that windows are held against, by key.
func (r *Result) Values() map[string]float64 {
	v := map[string]float64{}
	put := func(key string, p *float64, by float64) {
		if p != nil {
			v[key] = math.Abs(*p) / by
		}
	}
	put("side-difference", r.SideDifferencePct, 1)
	put("landing-difference", r.LandingDifferencePct, 1)
	put("landing", r.LandingPeakPerWeight, 1)
	if r.Kind == Countermovement {
		put("braking-rate", r.BrakingRfdNps, r.BodyWeightN)
		put("time-to-takeoff", r.TimeToTakeoffS, 1)
	}
	return v
}

// keptOut are the doubts that make a jump no result, in words.
var keptOut = []struct {
	flag  force.Flag
	words string
}{
	{NoFlight, "no flight was found"}, {HiddenCountermovement, "a squat jump with a hidden countermovement"},
	{HeightsDisagree, "height by flight time and by take-off speed disagree"}, {force.NoisyQuiet, "the stance was not quiet"},
}

// KeptOut says why a jump is no result to keep or to compare others with; empty
// for a sound one.
func (r *Result) KeptOut() string {
	for _, k := range keptOut {
		if slices.Contains(r.Flags, k.flag) {
			return k.words
		}
	}
	if r.JumpHeightM == nil {
		return "there is no height"
	}
	return ""
}

// Metrics are the numbers of a jump that are compared with earlier ones, by their
// names in JSON. What was not computed is missing.
func (r *Result) Metrics() map[string]float64 {
	out := map[string]float64{}
	for name, p := range map[string]*float64{
		"jumpHeightM": r.JumpHeightM, "flightHeightM": r.FlightHeightM, "timeToTakeoffS": r.TimeToTakeoffS, "rsiModified": r.RsiModified,
		"peakPowerW": r.PeakPowerW, "peakPowerWPerKg": r.PeakPowerWPerKg, "meanPropulsivePowerW": r.MeanPropulsivePowerW,
		"peakPropulsiveForceN": r.PeakPropulsiveForceN, "brakingRfdNps": r.BrakingRfdNps, "brakingImpulseNs": r.BrakingImpulseNs,
		"propulsiveImpulseNs": r.PropulsiveImpulseNs, "countermovementDepthM": r.CountermovementDepthM,
		"landingPeakPerBodyWeight": r.LandingPeakPerWeight, "sideDifferencePct": r.SideDifferencePct, "landingDifferencePct": r.LandingDifferencePct,
	} {
		if p != nil {
			out[name] = *p
		}
	}
	return out
}

// Baseline sums a golfer's earlier jumps up by the keys of Metrics; nil without
// any.
func Baseline(jumps []*Result) *force.Baseline {
	var all []map[string]float64
	for _, j := range jumps {
		all = append(all, j.Metrics())
	}
	return force.BaselineOf(all)
}

// Compared is a countermovement jump beside a squat jump.
type Compared struct {
	CountermovementM float64 `json:"countermovementM"`
	SquatM           float64 `json:"squatM"`
	// Ratio is countermovement over squat (McGuigan et al. 2006),
	// AugmentationPct 100·(ratio − 1) (Walshe et al. 1996).
	Ratio           float64 `json:"ratio"`
	AugmentationPct float64 `json:"augmentationPct"`
	Sentence        string  `json:"sentence"`
}

// Compare sets the heights of the two jumps, in m, against each other; false
// when the squat jump has none.
func Compare(countermovementM, squatM float64) (Compared, bool) {
	if !(squatM > 0) || !(countermovementM > 0) {
		return Compared{}, false
	}
	ratio := countermovementM / squatM
	more := 100 * (ratio - 1)
	sentence := fmt.Sprintf("%s times the squat jump, %s%% more from the stretch.", unit.Text(ratio, 2), unit.Text(more, 0))
	if more < 0 {
		sentence = fmt.Sprintf("%s times the squat jump, %s%% less: nothing was gained from the stretch.", unit.Text(ratio, 2), unit.Text(-more, 0))
	}
	return Compared{countermovementM, squatM, ratio, more, sentence}, true
}

// Dated is a jump and the day it was made on.
type Dated struct {
	On     civil.Date
	Result *Result
}

// Best returns the highest countermovement jump of the newest day with one that
// counts.
func Best(jumps []Dated) (best Dated, ok bool) {
	for _, j := range jumps {
		if j.Result.Kind != Countermovement || j.Result.KeptOut() != "" {
			continue
		}
		switch {
		case !ok || j.On.After(best.On):
			best, ok = j, true
		case j.On == best.On && *j.Result.JumpHeightM > *best.Result.JumpHeightM:
			best = j
		}
	}
	return best, ok
}

// CompareNewest compares the best of both kinds on the newest day that has both.
func CompareNewest(jumps []Dated) (c Compared, on civil.Date, ok bool) {
	type pair struct{ countermovement, squat float64 }
	days := map[civil.Date]pair{}
	for _, j := range jumps {
		if j.Result.KeptOut() != "" {
			continue
		}
		d := days[j.On]
		if j.Result.Kind == Squat {
			d.squat = max(d.squat, *j.Result.JumpHeightM)
		} else {
			d.countermovement = max(d.countermovement, *j.Result.JumpHeightM)
		}
		days[j.On] = d
	}
	for day, d := range days {
		if got, both := Compare(d.countermovement, d.squat); both && (!ok || day.After(on)) {
			c, on, ok = got, day, true
		}
	}
	return c, on, ok
}
