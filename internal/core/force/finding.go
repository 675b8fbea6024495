package force

import (
	"cmp"
	"fmt"
	"slices"

	"dunnock/internal/core/unit"
)

// Window is the range a number is expected in. The shipped ones are common
// practice, from memory; a practice may set its own.
type Window struct {
	Key      string  `json:"key"`
	Name     string  `json:"name"`
	Unit     string  `json:"unit"`
	Decimals int     `json:"decimals"`
	Low      float64 `json:"low"`
	High     float64 `json:"high"`
	Source   string  `json:"source"`
	Purpose  string  `json:"purpose"` // speed, repeatability or load on the body
	Below    string  `json:"below,omitempty"`
	Above    string  `json:"above,omitempty"` // training lines; empty: nothing to train on that side
	// Instructor is true for what the swing itself decides.
	Instructor bool `json:"instructor,omitempty"`
	// After names the window whose finding usually takes this one along.
	After string `json:"after,omitempty"`
}

// Finding is a number outside of its window and what may be done about it.
type Finding struct {
	Key        string  `json:"key"`
	Title      string  `json:"title"`
	Sentence   string  `json:"sentence"`
	Value      float64 `json:"value"`
	Low        float64 `json:"low"`
	High       float64 `json:"high"`
	Unit       string  `json:"unit"`
	Distance   float64 `json:"distance"` // from the window, in its widths
	Far        bool    `json:"far"`      // half a width or more
	Purpose    string  `json:"purpose"`
	Training   string  `json:"training"`
	Instructor bool    `json:"instructor"`
	Recheck    string  `json:"recheck"` // title of the finding to look at first
	Source     string  `json:"source"`
}

// Quantity writes a number with its unit.
func Quantity(v float64, decimals int, u string) string {
	if u == "%" {
		return unit.Text(v, decimals) + u
	}
	return unit.Text(v, decimals) + " " + u
}

// Find holds values against their windows. Findings far outside come first, those
// that usually go with another one last, each with what to look at first.
func Find(windows []Window, values map[string]float64) []Finding {
	out := []Finding{}
	found := map[string]string{}
	for _, w := range windows {
		v, ok := values[w.Key]
		if !ok || v >= w.Low && v <= w.High || !(w.High > w.Low) {
			continue
		}
		f := Finding{Key: w.Key, Value: v, Low: w.Low, High: w.High, Unit: w.Unit, Purpose: w.Purpose, Instructor: w.Instructor, Source: w.Source}
		word := "high"
		f.Training, f.Distance = w.Above, (v-w.High)/(w.High-w.Low)
		if v < w.Low {
			word, f.Training, f.Distance = "low", w.Below, (w.Low-v)/(w.High-w.Low)
		}
		if f.Training == "" && !w.Instructor {
			continue // more of it is no finding
		}
		f.Far = f.Distance >= 0.5
		f.Title = w.Name + ": " + word
		far := ""
		if f.Far {
			far = ", far outside"
		}
		f.Sentence = fmt.Sprintf(
			"%s is %s against %s to %s%s.",
			w.Name,
			Quantity(v, w.Decimals, w.Unit),
			unit.Text(w.Low, w.Decimals),
			unit.Text(w.High, w.Decimals),
			far,
		)
		found[w.Key] = f.Title
		out = append(out, f)
	}
	for i := range out {
		for _, w := range windows {
			if w.Key == out[i].Key && w.After != "" && found[w.After] != "" {
				out[i].Recheck = found[w.After]
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Finding) int {
		if (a.Recheck == "") != (b.Recheck == "") {
			if a.Recheck == "" {
				return -1
			}
			return 1
		}
		return cmp.Compare(b.Distance, a.Distance)
	})
	return out
}

// Own puts a practice's own limits into windows; unknown keys are ignored.
func Own(windows []Window, limits map[string][2]float64) []Window {
	out := slices.Clone(windows)
	for i := range out {
		if l, ok := limits[out[i].Key]; ok {
			out[i].Low, out[i].High, out[i].Source = l[0], l[1], "set by the practice"
		}
	}
	return out
}
