package swing

import (
	_ "embed" // windows.json
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/force"
	"dunnock/internal/core/unit"
)

//go:embed windows.json
var windowsFile []byte

// Windows are the shipped reference windows.
func Windows() []force.Window {
	var w []force.Window
	if err := json.Unmarshal(windowsFile, &w); err != nil {
		panic("swing: windows.json: " + err.Error()) // shipped with the program
	}
	return w
}

// Values are the numbers of a swing that windows are held against, by key.
func (r *Result) Values() map[string]float64 {
	v := map[string]float64{
		"vertical": r.Vertical.PeakPerBodyWeight, "vertical-time": r.Vertical.TimeBeforeImpactS,
		"rate": r.MaxRfd / r.BodyWeightN, "unweighting": r.UnweightingDepthPerBodyWeight,
	}
	if e := r.Lateral; e != nil {
		v["lateral"], v["lateral-time"] = e.PeakPerBodyWeight, e.TimeBeforeImpactS
	}
	if e := r.Rotational; e != nil {
		v["rotational"], v["rotational-time"] = e.PeakPerKg, e.TimeBeforeImpactS
	}
	if r.LeadShareAtImpact != nil {
		v["lead-share-impact"], v["lead-share-top"] = 100**r.LeadShareAtImpact, 100**r.LeadShareAtTop
	}
	if r.AfterImpact != nil && r.Lateral != nil {
		v["braking"] = r.AfterImpact.LateralAwayN / r.BodyWeightN
	}
	return v
}

// KeptOut says why a swing is no result to keep; empty for a sound one.
func (r *Result) KeptOut() string {
	if slices.Contains(r.Flags, force.NoisyQuiet) {
		return "the stance was not quiet"
	}
	return ""
}

// Baseline sums a golfer's earlier swings up by the keys of Values, and their
// peaks in N and N·m by lateralN, rotationalNm and verticalN; nil without any.
func Baseline(swings []*Result) *force.Baseline {
	var all []map[string]float64
	for _, s := range swings {
		v := s.Values()
		v["verticalN"] = s.Vertical.Peak
		if s.Lateral != nil {
			v["lateralN"] = s.Lateral.Peak
		}
		if s.Rotational != nil {
			v["rotationalNm"] = s.Rotational.Peak
		}
		all = append(all, v)
	}
	return force.BaselineOf(all)
}

// Answer is one of the four questions with its sentence.
type Answer struct {
	Question string `json:"question"` // When, Where, How much, How it builds
	Sentence string `json:"sentence"`
	Window   string `json:"window"`
	Baseline string `json:"baseline"`
}

// usualOrder is the order of the peaks in most good swings; common practice.
var usualOrder = []string{"lateral", "rotational", "vertical"}

// Answers says when, where, how much and how it builds, each in one sentence with
// the windows and the golfer's own baseline, which may be nil.
func (r *Result) Answers(windows []force.Window, b *force.Baseline) []Answer {
	v := r.Values()
	one := func(question, sentence string, keys ...string) Answer {
		a := Answer{Question: question, Sentence: sentence}
		var w, own []string
		for _, k := range keys {
			i := slices.IndexFunc(windows, func(w force.Window) bool { return w.Key == k })
			if _, ok := v[k]; !ok || i < 0 {
				continue
			}
			win := windows[i]
			factor, u, decimals := 1.0, win.Unit, win.Decimals
			if u == "s" {
				factor, u, decimals = 1000, "ms", 0
			}
			short := strings.ToLower(strings.SplitN(strings.TrimSuffix(win.Name, " before impact"), " of ", 2)[0])
			w = append(w, fmt.Sprintf("%s %s–%s", short, unit.Text(factor*win.Low, decimals), force.Quantity(factor*win.High, decimals, u)))
			if b != nil {
				text := short + " "
				if sd, ok := b.SD[k]; ok {
					text += unit.Text(factor*b.Mean[k], decimals) + " ± " + force.Quantity(factor*sd, decimals, u)
				} else {
					text += force.Quantity(factor*b.Mean[k], decimals, u)
				}
				own = append(own, text)
			}
		}
		a.Window = "Window (ours): " + strings.Join(w, ", ") + "."
		a.Baseline = "No earlier swing to compare with."
		if b != nil {
			swings := "swings"
			if b.Trials == 1 {
				swings = "swing"
			}
			a.Baseline = fmt.Sprintf("Own %d earlier %s: %s.", b.Trials, swings, strings.Join(own, ", "))
		}
		return a
	}
	return []Answer{
		one("When", r.whenSentence(), "lateral-time", "rotational-time", "vertical-time"),
		one("Where", r.whereSentence(), "lead-share-top", "lead-share-impact"),
		one("How much", r.sizeSentence(), "lateral", "rotational", "vertical"),
		one("How it builds", r.shapeSentence(), "unweighting", "rate"),
	}
}

func (r *Result) whenSentence() string {
	var parts []string
	for _, n := range r.Order {
		e := map[string]*Effort{"lateral": r.Lateral, "rotational": r.Rotational, "vertical": &r.Vertical}[n]
		parts = append(parts, fmt.Sprintf("%s %.0f ms", n, 1000*e.TimeBeforeImpactS))
	}
	s := "Peaks before impact: " + strings.Join(parts, ", ")
	switch {
	case len(r.Order) < 3:
		s += "; the recording does not hold the other efforts."
	case slices.Equal(r.Order, usualOrder):
		s += ": the usual order."
	default:
		s += ": not the usual order, lateral, rotational, vertical."
	}
	if r.TopEstimated {
		s += " Top is an estimate."
	}
	return s
}

func (r *Result) whereSentence() string {
	if r.LeadShareAtImpact == nil {
		return "One plate carried both feet: where each foot's load is cannot be said."
	}
	s := fmt.Sprintf(
		"The lead foot carries %.0f%% at address, %.0f%% at top, %.0f%% at the vertical peak and %.0f%% at impact",
		100**r.LeadShareAtAddress,
		100**r.LeadShareAtTop,
		100**r.LeadShareAtVerticalPeak,
		100**r.LeadShareAtImpact,
	)
	if r.Lead != nil && r.Lead.PathToBallM+r.Lead.PathToTargetM > 0 {
		s += fmt.Sprintf("; pressure travels %.0f cm along the lead foot and %.0f cm along the trail foot", 100*r.Lead.PathToBallM, 100*r.Trail.PathToBallM)
	}
	return s + "."
}

func (r *Result) sizeSentence() string {
	var parts []string
	if r.Lateral != nil {
		parts = append(parts, fmt.Sprintf("lateral %.0f N (%.2f BW)", r.Lateral.Peak, r.Lateral.PeakPerBodyWeight))
	}
	if r.Rotational != nil {
		parts = append(parts, fmt.Sprintf("rotational %.0f N·m (%.2f N·m/kg)", r.Rotational.Peak, r.Rotational.PeakPerKg))
	}
	parts = append(parts, fmt.Sprintf("vertical %.0f N (%.2f BW)", r.Vertical.Peak, r.Vertical.PeakPerBodyWeight))
	s := strings.Join(parts, ", ") + "."
	return strings.ToUpper(s[:1]) + s[1:]
}

func (r *Result) shapeSentence() string {
	humps := "in one push"
	if r.Humps != 1 {
		humps = fmt.Sprintf("in %d humps", r.Humps)
	}
	return fmt.Sprintf("Vertical force drops %.2f BW, then rises by up to %.1f BW/s %.0f ms before impact, %s, and stays above body weight for %.0f%% of the downswing.",
		r.UnweightingDepthPerBodyWeight, r.MaxRfd/r.BodyWeightN, 1000*r.MaxRfdTimeBeforeImpactS, humps, 100*r.TimeAboveBodyWeightS/r.DownswingS)
}
