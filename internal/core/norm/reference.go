package norm

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"dunnock/internal/core/unit"
)

// Table is one published reference, as references.json holds it.
type Table struct {
	ID         string    `json:"id"`
	Test       string    `json:"test"`
	Kind       Kind      `json:"kind"`
	Unit       unit.Unit `json:"unit"`
	Compares   string    `json:"compares"` // result, best, or sayers: peak power estimated from the jump
	Source     string    `json:"source"`
	Mark       string    `json:"mark"` // how sure we are of the printed cells
	Population string    `json:"population"`
	Method     string    `json:"method"`
	Variant    string    `json:"variant,omitempty"`
	Percents   []float64 `json:"percentiles,omitempty"`
	Bands      []string  `json:"bands,omitempty"` // lowest first
	Rows       []Row     `json:"rows"`
}

// Kind says what a table's values are.
type Kind string

// The kinds: mean and standard deviation of a roughly normal spread; the same
// of a skewed one, which allows no percentile; percentiles by age; the lowest
// value of each band but the first; one printed value.
const (
	MeanSD      Kind = "mean-sd"
	Skewed      Kind = "mean-sd-skewed"
	Percentiles Kind = "percentiles"
	Bands       Kind = "bands"
	Value       Kind = "value"
)

// Row is one line of a table.
type Row struct {
	Sex     string    `json:"sex,omitempty"` // "" for either
	From    int       `json:"from,omitempty"`
	To      int       `json:"to,omitempty"`  // age in whole years, both ends in; 0 and 0: any
	Age     float64   `json:"age,omitempty"` // of percentiles
	Variant string    `json:"variant,omitempty"`
	Values  []float64 `json:"values"`

	text string // the line in words, where it says the same of everybody
}

// Person is who a result is held against a table for.
type Person struct {
	Age     int
	Sex     string // male, female, or "" when left out
	Variant string // how the test was done
	MassKg  float64
}

// Standing is where a result stands in a table, or why it does not.
type Standing struct {
	Source     string   `json:"source"`
	Mark       string   `json:"mark"`
	Population string   `json:"population"`
	Fits       bool     `json:"fits"`
	Percentile *float64 `json:"percentile,omitempty"`
	Text       string   `json:"text"` // in words, or why the table does not fit
}

//go:embed references.json
var referencesJSON []byte

var tables = func() (t []Table) {
	if err := json.Unmarshal(referencesJSON, &t); err != nil {
		panic("norm: references.json: " + err.Error())
	}
	for i := range t {
		for j := range t[i].Rows {
			t[i].Rows[j].text = t[i].words(t[i].Rows[j].Values)
		}
	}
	return t
}()

func (t *Table) words(values []float64) string {
	switch t.Kind {
	case MeanSD:
		return fmt.Sprintf("mean %s, SD %s %s", unit.Compact(values[0], 1), unit.Compact(values[1], 1), t.Unit)
	case Skewed:
		return fmt.Sprintf("mean %s, SD %s %s; capped and skewed, so no percentile", unit.Compact(values[0], 1), unit.Compact(values[1], 1), t.Unit)
	case Value:
		return "printed normal value " + unit.Compact(values[0], 1) + " " + string(t.Unit)
	}
	return ""
}

var byTest = func() map[string][]*Table {
	m := map[string][]*Table{}
	for i := range tables {
		m[tables[i].Test] = append(m[tables[i].Test], &tables[i])
	}
	return m
}()

// Tables returns every reference table. The slice is shared: do not change it.
func Tables() []Table { return tables }

// Stand holds a result, and the best of its trials, both in the test's unit,
// against every table of a test.
func Stand(test string, p Person, result, best float64) []Standing {
	list := byTest[test]
	if len(list) == 0 {
		return nil
	}
	out := make([]Standing, len(list))
	for i, t := range list {
		v := result
		if t.Compares == "best" {
			v = best
		}
		out[i] = t.stand(p, v)
	}
	return out
}

func (t *Table) stand(p Person, v float64) Standing {
	s := Standing{Source: t.Source, Mark: t.Mark, Population: t.Population}
	if t.Kind == Percentiles {
		return t.byPercentiles(s, p, v)
	}
	row, why := t.row(p)
	if row == nil {
		s.Text = "No reference: " + why + "."
		return s
	}
	s.Fits, s.Text = true, row.text
	what := ""
	if t.Compares == "sayers" {
		if p.MassKg <= 0 {
			s.Fits, s.Text = false, "No reference: peak power needs body mass."
			return s
		}
		v = 60.7*v + 45.3*p.MassKg - 2055 // Sayers et al. 1999, squat-jump equation
		what = "about " + unit.Text(v, 0)
	} else if t.Kind == Bands {
		what = unit.Compact(v, 1)
	}
	switch t.Kind {
	case MeanSD:
		s.Percentile = within(Reference{Mean: row.Values[0], SD: row.Values[1]}.percentile(v))
	case Bands:
		n := 0
		for n < len(row.Values) && v >= row.Values[n] {
			n++
		}
		s.Text = fmt.Sprintf("%s %s: %s", what, t.Unit, t.Bands[n])
	}
	return s
}

func (r Reference) percentile(v float64) float64 { return unit.Round(Percentile(r.Z(v)), 0) }

func within(v float64) *float64 {
	v = Clamp(v, 1, 99)
	return &v
}

// row returns the row for a person, or why there is none.
func (t *Table) row(p Person) (*Row, string) {
	why := "no table for this age"
	for i := range t.Rows {
		r := &t.Rows[i]
		switch {
		case (r.From > 0 || r.To > 0) && (p.Age < r.From || p.Age > r.To):
		case r.Sex != "" && p.Sex == "":
			why = "the table goes by sex, which was left out"
		case r.Sex != "" && r.Sex != p.Sex:
			if why == "no table for this age" && len(t.Rows) == 1 {
				why = "the table covers " + t.Population
			}
		case r.Variant != "" && r.Variant != p.Variant:
			why = "the table was made with another way of doing it (" + t.Method + ")"
		default:
			return r, ""
		}
	}
	return nil, why
}

// byPercentiles reads a table of percentiles by straight lines between ages and
// between percentiles (our convention).
func (t *Table) byPercentiles(s Standing, p Person, v float64) Standing {
	if p.Sex == "" {
		s.Text = "No reference: the table goes by sex, which was left out."
		return s
	}
	var lo, hi *Row
	for i := range t.Rows {
		r := &t.Rows[i]
		if r.Sex != p.Sex {
			continue
		}
		if r.Age <= float64(p.Age) {
			lo = r
		}
		if hi == nil && r.Age >= float64(p.Age) {
			hi = r
		}
	}
	if lo == nil || hi == nil {
		s.Text = "No reference: no table for this age."
		return s
	}
	f := 0.0
	if hi.Age > lo.Age {
		f = (float64(p.Age) - lo.Age) / (hi.Age - lo.Age)
	}
	s.Fits = true
	at := make([]float64, len(t.Percents))
	for i := range at {
		at[i] = lo.Values[i] + f*(hi.Values[i]-lo.Values[i])
	}
	last := len(at) - 1
	mid := unit.Compact(at[last/2], 1)
	switch {
	case v < at[0]:
		s.Text = fmt.Sprintf("below the %sth percentile (%s %s); the middle is %s", unit.Compact(t.Percents[0], 0), unit.Compact(at[0], 1), t.Unit, mid)
	case v > at[last]:
		s.Text = fmt.Sprintf("above the %sth percentile (%s %s); the middle is %s", unit.Compact(t.Percents[last], 0), unit.Compact(at[last], 1), t.Unit, mid)
	default:
		i := 0
		for i < last-1 && v > at[i+1] {
			i++
		}
		q := unit.Round(t.Percents[i]+(t.Percents[i+1]-t.Percents[i])*(v-at[i])/(at[i+1]-at[i]), 0)
		s.Percentile = &q
		s.Text = fmt.Sprintf("the middle is %s %s", mid, t.Unit)
	}
	return s
}

// growing is the table that young golfers' grip is read by.
const growing = "grip-life-course"

// YoungGrip returns the middle and the spread of the best squeeze of either hand at an age
// in years under 20, by straight lines between the ages of a published table; the
// spread is that of a normal one with the same tenth and ninetieth percentiles. It is
// false where the sex is left out, and outside the table.
func YoungGrip(age float64, sex string) (Reference, bool) {
	if !(age < 20) {
		return Reference{}, false
	}
	for i := range tables {
		t := &tables[i]
		if t.ID != growing {
			continue
		}
		var lo, hi *Row
		for j := range t.Rows {
			r := &t.Rows[j]
			switch {
			case r.Sex != sex:
			case r.Age <= age:
				lo = r
			case hi == nil:
				hi = r
			}
		}
		if lo == nil || hi == nil {
			return Reference{}, false
		}
		f := (age - lo.Age) / (hi.Age - lo.Age)
		at := func(i int) float64 { return lo.Values[i] + f*(hi.Values[i]-lo.Values[i]) }
		last := len(t.Percents) - 1
		return Reference{Mean: at(last / 2), SD: (at(last) - at(0)) / (2 * distuv.UnitNormal.Quantile(0.9)), Source: t.Source + " (" + t.Mark + ")"}, true
	}
	return Reference{}, false
}

// InSquad returns the percentile of v among the values of a squad, sorted, which
// may hold v itself: 100 · (number below + half the equal ones) / n (our own
// choice). Where less is better it is turned round. ok is false below five
// values.
func InSquad(v float64, squad []float64, less bool) (percentile float64, ok bool) {
	if len(squad) < 5 {
		return 0, false
	}
	below, found := slices.BinarySearch(squad, v)
	equal := 0
	for i := below; found && i < len(squad) && squad[i] == v; i++ {
		equal++
	}
	p := 100 * (float64(below) + float64(equal)/2) / float64(len(squad))
	if less {
		p = 100 - p
	}
	return p, true
}
