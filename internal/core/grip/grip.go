// Package grip reads the force of a hand dynamometer over time: it takes
// samples as they arrive, keeps what is usable and counts what is not, finds the
// squeezes, and measures each one. Forces are in kg, as the instrument shows
// them, times in seconds on the instrument's own clock.
package grip

import (
	"math"
	"slices"
)

// Sample is one reading.
type Sample struct {
	T  float64 `json:"t"`  // s
	Kg float64 `json:"kg"` // force
}

// Limits of what a Recorder keeps.
const (
	// MaxRate is the most samples per second that are kept; a faster stream is
	// thinned to it.
	MaxRate = 1000.0
	// MaxSeconds is the longest recording.
	MaxSeconds = 180.0
	// MaxKg is the largest force believed.
	MaxKg = 150.0
	// minStep leaves a little room for a clock that jitters at MaxRate.
	minStep = 0.9 / MaxRate
)

// Health counts what was wrong with a stream.
type Health struct {
	Kept       int  `json:"kept"`
	Duplicates int  `json:"duplicates"` // the same sequence number again
	Late       int  `json:"late"`       // came after a later one, or with a clock running backwards
	Missing    int  `json:"missing"`    // sequence numbers that never came
	Impossible int  `json:"impossible"` // not a number, or a force no hand has
	Thinned    int  `json:"thinned"`    // left out because they came faster than MaxRate
	Gaps       int  `json:"gaps"`       // pauses of more than a fifth of a second
	Full       bool `json:"full"`       // the recording reached MaxSeconds
}

// Recorder gathers the samples of one recording. The zero value is ready.
type Recorder struct {
	samples []Sample
	health  Health
	lastSeq int64
	begun   bool
}

// Add takes one sample with its sequence number, which rises by one from sample
// to sample.
func (r *Recorder) Add(seq int64, t, kg float64) {
	h := &r.health
	if math.IsNaN(t) || math.IsInf(t, 0) || math.IsNaN(kg) || kg < -5 || kg > MaxKg || math.Abs(t) > 1e9 {
		h.Impossible++
		return
	}
	if r.begun {
		switch {
		case seq == r.lastSeq:
			h.Duplicates++
			return
		case seq < r.lastSeq:
			h.Late++
			return
		}
		h.Missing += int(min(seq-r.lastSeq-1, 1<<20))
	}
	r.begun, r.lastSeq = true, seq
	if n := len(r.samples); n > 0 {
		last := r.samples[n-1]
		switch {
		case t <= last.T:
			h.Late++
			return
		case t-r.samples[0].T > MaxSeconds:
			h.Full = true
			return
		case t-last.T < minStep:
			h.Thinned++
			// The larger of what is thinned stays, so that no peak is lost.
			if kg > last.Kg {
				r.samples[n-1].Kg = kg
			}
			return
		case t-last.T > 0.2:
			h.Gaps++
		}
	}
	r.samples = append(r.samples, Sample{t, kg})
	h.Kept++
}

// Samples returns what was kept; the slice is the recorder's own.
func (r *Recorder) Samples() []Sample { return r.samples }

// Health returns what was wrong so far.
func (r *Recorder) Health() Health { return r.health }

// Squeeze is one repetition.
type Squeeze struct {
	Onset float64 `json:"onset"` // s
	End   float64 `json:"end"`   // s
	// Peak is the largest force of the smoothed trace, kg; TimeToPeak from onset
	// to the first moment within 1% of it, ms.
	Peak       float64 `json:"peak"`
	TimeToPeak float64 `json:"timeToPeakMs"`
	// Hold is the mean force from the moment 90% of the peak is first reached to
	// the last moment above half of it, kg; HoldSeconds that time.
	Hold        float64 `json:"hold"`
	HoldSeconds float64 `json:"holdSeconds"`
	// FallOff is how much of the force of the hold's first fifth is lost in its
	// last fifth, %.
	FallOff float64 `json:"fallOff"`
	// Rate is the steepest rise over 50 ms, kg/s.
	Rate float64 `json:"rate"`
}

// What counts as a squeeze (our own, no source): force rises above a threshold
// and stays there for a tenth of a second. The threshold is a tenth of the
// largest force, at least 2 kg above the resting level.
const (
	thresholdShare = 0.10
	leastRise      = 2.0
	leastSeconds   = 0.10
	smoothSeconds  = 0.020
	rateSeconds    = 0.050
)

// Squeezes finds and measures the repetitions in a recording, in order. A trace
// without one gives none; so does one of fewer than ten samples.
func Squeezes(s []Sample) []Squeeze {
	if len(s) < 10 {
		return nil
	}
	force := smooth(s)
	rest := resting(force)
	top := slices.Max(force)
	threshold := rest + math.Max(leastRise, thresholdShare*(top-rest))
	if top <= threshold {
		return nil
	}
	var out []Squeeze
	for i := 0; i < len(force); {
		if force[i] < threshold {
			i++
			continue
		}
		from := i
		for i < len(force) && force[i] >= threshold {
			i++
		}
		if s[i-1].T-s[from].T >= leastSeconds {
			out = append(out, measure(s, force, from, i, rest))
		}
	}
	return out
}

// measure works on one squeeze, force[from:to] above the threshold.
func measure(s []Sample, force []float64, from, to int, rest float64) Squeeze {
	// Onset is stepped back to where the rise leaves the resting level.
	onset := from
	for onset > 0 && force[onset-1] > rest+0.25*(force[from]-rest) && force[onset-1] < force[onset] {
		onset--
	}
	peak := from
	for i := from; i < to; i++ {
		if force[i] > force[peak] {
			peak = i
		}
	}
	// A flat top has its largest sample anywhere: the peak counts as reached
	// within 1% of it.
	reached := from
	for force[reached] < 0.99*force[peak] {
		reached++
	}
	q := Squeeze{Onset: s[onset].T, End: s[to-1].T, Peak: force[peak], TimeToPeak: 1000 * (s[reached].T - s[onset].T)}
	holdFrom, holdTo := from, to
	for holdFrom < peak && force[holdFrom] < 0.9*q.Peak {
		holdFrom++
	}
	for holdTo > peak+1 && force[holdTo-1] < 0.5*q.Peak {
		holdTo--
	}
	hold := force[holdFrom:holdTo]
	q.Hold = mean(hold)
	q.HoldSeconds = s[holdTo-1].T - s[holdFrom].T
	if n := len(hold) / 5; n > 0 && mean(hold[:n]) > 0 {
		q.FallOff = 100 * (mean(hold[:n]) - mean(hold[len(hold)-n:])) / mean(hold[:n])
	}
	for i, j := onset, onset; j < to; j++ {
		for i < j && s[j].T-s[i+1].T >= rateSeconds*0.999 {
			i++
		}
		if dt := s[j].T - s[i].T; dt >= rateSeconds*0.999 && j <= peak {
			q.Rate = math.Max(q.Rate, (force[j]-force[i])/dt)
		}
	}
	return q
}

func mean(v []float64) float64 {
	sum := 0.0
	for _, x := range v {
		sum += x
	}
	return sum / float64(len(v))
}

// smooth is a centred moving mean over smoothSeconds.
func smooth(s []Sample) []float64 {
	out := make([]float64, len(s))
	lo, hi, sum := 0, 0, 0.0
	// A hair more keeps the window even on both sides where samples lie exactly at
	// its ends.
	const half = smoothSeconds/2 + 1e-6
	for i := range s {
		for hi < len(s) && s[hi].T <= s[i].T+half {
			sum += s[hi].Kg
			hi++
		}
		for s[lo].T < s[i].T-half {
			sum -= s[lo].Kg
			lo++
		}
		out[i] = sum / float64(hi-lo)
	}
	return out
}

// resting is the level between squeezes: the tenth percentile of the trace.
func resting(force []float64) float64 {
	s := slices.Clone(force)
	slices.Sort(s)
	return s[len(s)/10]
}
