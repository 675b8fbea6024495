package reliability

import (
	"fmt"
	"math"
	"sync"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
)

// Interval is a confidence interval.
type Interval struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// Repeats is what test-retest pairs of one test say about it. Everything but
// the counts, the CV (%) and the ICCs is in the unit of the test.
type Repeats struct {
	Pairs      int      `json:"pairs"`
	Mean       float64  `json:"mean"`       // grand mean
	MeanChange float64  `json:"meanChange"` // second − first
	ChangeCI   Interval `json:"changeInterval"`
	SDDiff     float64  `json:"sdOfDifferences"`
	// TypicalError is SD of the differences over √2, with its χ² interval at
	// 95% (Hopkins 2000).
	TypicalError float64  `json:"typicalError"`
	ErrorCI      Interval `json:"typicalErrorInterval"`
	CV           float64  `json:"cv"` // 100 · typical error / grand mean
	// Intraclass correlations of two trials (Shrout & Fleiss 1979).
	ICC11 float64 `json:"icc11"`
	ICC21 float64 `json:"icc21"`
	ICC31 float64 `json:"icc31"`
	// Limits are mean change ± 1.96 SD of the differences, each with its 95%
	// interval (Bland & Altman 1986).
	Limits  Interval `json:"limits"`
	LowerCI Interval `json:"lowerLimitInterval"`
	UpperCI Interval `json:"upperLimitInterval"`
	// Between is the pooled between-person SD, Worthwhile 0.2 of it (Hopkins
	// 2004): the smallest worthwhile change.
	Between    float64 `json:"betweenSD"`
	Worthwhile float64 `json:"smallestWorthwhile"`
	// Outliers are the indexes of pairs outside the limits of agreement. They are
	// shown, never dropped.
	Outliers []int `json:"outliers"`
}

// FromPairs works out the reliability of a test from two results of each of at
// least three people. It returns ErrPairs for fewer or for series of different
// lengths.
func FromPairs(first, second []float64) (*Repeats, error) {
	n := len(first)
	if n < 3 || n != len(second) {
		return nil, ErrPairs
	}
	d := make([]float64, n)
	for i := range d {
		d[i] = second[i] - first[i]
	}
	r := &Repeats{Pairs: n, Outliers: []int{}}
	r.MeanChange, r.SDDiff = stat.MeanStdDev(d, nil)
	r.TypicalError = r.SDDiff / math.Sqrt2
	m1, s1 := stat.MeanStdDev(first, nil)
	m2, s2 := stat.MeanStdDev(second, nil)
	r.Mean = (m1 + m2) / 2
	if r.Mean != 0 {
		r.CV = 100 * r.TypicalError / math.Abs(r.Mean)
	}
	q := quantiles95(n - 1)
	around := func(v, half float64) Interval { return Interval{v - half, v + half} }
	r.ChangeCI = around(r.MeanChange, q.t*r.SDDiff/math.Sqrt(float64(n)))
	r.ErrorCI = q.interval(r.TypicalError, n-1)
	r.Limits = around(r.MeanChange, Z95*r.SDDiff)
	limit := q.t * math.Sqrt(3*r.SDDiff*r.SDDiff/float64(n))
	r.LowerCI, r.UpperCI = around(r.Limits.Low, limit), around(r.Limits.High, limit)
	r.Between = math.Sqrt((s1*s1 + s2*s2) / 2)
	r.Worthwhile = 0.2 * r.Between
	icc, err := ICCs([][]float64{first, second})
	if err != nil {
		return nil, err
	}
	r.ICC11, r.ICC21, r.ICC31 = icc.OneWay, icc.Agreement, icc.Consistency
	for i, v := range d {
		if r.SDDiff > 0 && (v < r.Limits.Low || v > r.Limits.High) {
			r.Outliers = append(r.Outliers, i)
		}
	}
	return r, nil
}

// quantiles are Student's t and the two of χ² for a 95% interval at df degrees of
// freedom. They are worked out once for the few shots and pairs that come again
// and again.
type quantiles struct{ t, low, high float64 }

const keptDF = 64

var at95 = sync.OnceValue(func() (q [keptDF]quantiles) {
	for df := 1; df < keptDF; df++ {
		q[df] = quantilesOf(df, 0.95)
	}
	return q
})

func quantilesOf(df int, confidence float64) quantiles {
	tail := (1 - confidence) / 2
	chi := distuv.ChiSquared{K: float64(df)}
	return quantiles{distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(df)}.Quantile(1 - tail), chi.Quantile(tail), chi.Quantile(1 - tail)}
}

func quantiles95(df int) quantiles {
	if df < keptDF {
		return at95()[df]
	}
	return quantilesOf(df, 0.95)
}

func (q quantiles) interval(sd float64, df int) Interval {
	return Interval{sd * math.Sqrt(float64(df)/q.high), sd * math.Sqrt(float64(df)/q.low)}
}

// ErrorInterval returns the χ² interval of a standard deviation or typical error
// with df degrees of freedom at a confidence between 0 and 1.
func ErrorInterval(te float64, df int, confidence float64) Interval {
	return quantilesOf(df, confidence).interval(te, df)
}

// ICC holds the mean squares of a people × trials table and the single-trial
// intraclass correlations from them: (1,1), (2,1) and (3,1) of Shrout & Fleiss
// 1979.
type ICC struct {
	BMS, WMS, JMS, EMS             float64
	OneWay, Agreement, Consistency float64
	People, Trials                 int
}

// ICCs works on trials[j][i], trial j of person i. Where nobody differs from
// anybody the correlations are 0.
func ICCs(trials [][]float64) (ICC, error) {
	k := len(trials)
	if k < 2 || len(trials[0]) < 2 {
		return ICC{}, ErrPairs
	}
	n := len(trials[0])
	grand, person, total := 0.0, make([]float64, n), 0.0
	for _, t := range trials {
		if len(t) != n {
			return ICC{}, ErrPairs
		}
		for i, v := range t {
			grand += v
			person[i] += v
		}
	}
	grand /= float64(n * k)
	var between, judges float64
	for _, p := range person {
		between += float64(k) * sq(p/float64(k)-grand)
	}
	for _, t := range trials {
		judges += float64(n) * sq(stat.Mean(t, nil)-grand)
		for _, v := range t {
			total += sq(v - grand)
		}
	}
	fn, fk := float64(n), float64(k)
	out := ICC{People: n, Trials: k, BMS: between / (fn - 1), JMS: judges / (fk - 1), WMS: (total - between) / (fn * (fk - 1))}
	out.EMS = math.Max(0, total-between-judges) / ((fn - 1) * (fk - 1))
	share := func(num, den float64) float64 {
		if den <= 0 {
			return 0
		}
		return num / den
	}
	out.OneWay = share(out.BMS-out.WMS, out.BMS+(fk-1)*out.WMS)
	out.Agreement = share(out.BMS-out.EMS, out.BMS+(fk-1)*out.EMS+fk*(out.JMS-out.EMS)/fn)
	out.Consistency = share(out.BMS-out.EMS, out.BMS+(fk-1)*out.EMS)
	return out, nil
}

func sq(v float64) float64 { return v * v }

// MDC returns the minimal detectable change z·√2·te for a two-sided normal
// quantile z (Weir 2005): 1.645 for 90%, 1.960 for 95%.
func MDC(te, z float64) float64 { return z * math.Sqrt2 * te }

// Chance is how likely a true change is to be worth having.
type Chance struct {
	Up, Trivial, Down float64 // 0 to 1, together 1
	CI                Interval
}

// ChanceOf says how likely it is that a measured change stands for a true one
// above +worthwhile, between, or below −worthwhile, with the interval change ±
// z·√2·te (Hopkins 2004). te must be positive.
func ChanceOf(change, te, worthwhile, z float64) Chance {
	sd := math.Sqrt2 * te
	up := 1 - distuv.UnitNormal.CDF((worthwhile-change)/sd)
	down := distuv.UnitNormal.CDF((-worthwhile - change) / sd)
	return Chance{up, 1 - up - down, down, Interval{change - z*sd, change + z*sd}}
}

// Spread is how widely a set of shots scatters.
type Spread struct {
	Shots  int      `json:"shots"`
	Mean   float64  `json:"mean"`
	MeanCI Interval `json:"meanInterval"`
	SD     float64  `json:"sd"`
	SDCI   Interval `json:"sdInterval"`
}

// SpreadOf returns mean and standard deviation of at least two shots with their
// 95% intervals (Student's t and χ²).
func SpreadOf(shots []float64) (*Spread, error) {
	n := len(shots)
	if n < 2 {
		return nil, fmt.Errorf("reliability: a spread needs two shots: %w", ErrPairs)
	}
	s := &Spread{Shots: n}
	s.Mean, s.SD = stat.MeanStdDev(shots, nil)
	q := quantiles95(n - 1)
	half := q.t * s.SD / math.Sqrt(float64(n))
	s.MeanCI = Interval{s.Mean - half, s.Mean + half}
	s.SDCI = q.interval(s.SD, n-1)
	return s, nil
}
