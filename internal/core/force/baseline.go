package force

import "math"

// Baseline is what a golfer's earlier trials of one kind came to, by the key of
// each number.
type Baseline struct {
	Trials int                `json:"trials"`
	Mean   map[string]float64 `json:"mean"`
	SD     map[string]float64 `json:"sd"`   // of numbers that two trials or more have
	Best   map[string]float64 `json:"best"` // the largest
}

// BaselineOf sums trials up; nil without any.
func BaselineOf(trials []map[string]float64) *Baseline {
	if len(trials) == 0 {
		return nil
	}
	b := &Baseline{Trials: len(trials), Mean: map[string]float64{}, SD: map[string]float64{}, Best: map[string]float64{}}
	all := map[string][]float64{}
	for _, t := range trials {
		for k, v := range t {
			all[k] = append(all[k], v)
		}
	}
	for k, v := range all {
		mean, sd := MeanSD(v)
		b.Mean[k], b.Best[k] = mean, v[0]
		for _, x := range v {
			b.Best[k] = max(b.Best[k], x)
		}
		if len(v) > 1 {
			b.SD[k] = sd
		}
	}
	return b
}

// MeanSD returns the mean and the standard deviation (n − 1) of v, which is not
// empty; one value has a deviation of 0.
func MeanSD(v []float64) (mean, sd float64) {
	for _, x := range v {
		mean += x
	}
	mean /= float64(len(v))
	for _, x := range v {
		sd += (x - mean) * (x - mean)
	}
	if len(v) > 1 {
		sd = math.Sqrt(sd / float64(len(v)-1))
	}
	return mean, sd
}
