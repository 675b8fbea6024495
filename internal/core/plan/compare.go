package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/method"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/unit"
)

// Compared is what two schools make of one golfer, side by side.
type Compared struct {
	A SchoolWeek `json:"a"`
	B SchoolWeek `json:"b"`
	// Qualities are every quality with what each gives of it.
	Qualities []ComparedQuality `json:"qualities"`
	// DistancePercent is half of what their minutes by quality differ by, of the mean of
	// their minutes.
	DistancePercent float64 `json:"distancePercent"`
	// Sentences say what differs and why, and what keeps them alike.
	Sentences []string `json:"sentences"`
}

// SchoolWeek is a school's mean rising week.
type SchoolWeek struct {
	School     string             `json:"school"`
	Name       string             `json:"name"`
	Headline   string             `json:"headline"`
	Leaders    []string           `json:"leaders"` // by name
	Minutes    float64            `json:"minutes"` // of its sessions
	Sessions   []ComparedSession  `json:"sessions"`
	Contacts   float64            `json:"contacts"`
	Throws     float64            `json:"throws"`
	Swings     float64            `json:"swings"`
	Zones      map[string]float64 `json:"zones"` // sets
	Broken     []string           `json:"broken"`
	Unanswered []string           `json:"unanswered"`
	Outside    []string           `json:"outside"` // why the school is not for this golfer
}

// ComparedSession is a session of the first week.
type ComparedSession struct {
	Letter  programme.Letter `json:"letter"`
	Title   string           `json:"title"`
	Minutes float64          `json:"minutes"`
}

// ComparedQuality is what two schools ask and give of a quality, a mean rising week.
type ComparedQuality struct {
	Quality string       `json:"quality"`
	Name    string       `json:"name"`
	Unit    string       `json:"unit"`
	A       QualityShare `json:"a"`
	B       QualityShare `json:"b"`

	counted budget.Unit
}

// QualityShare is a quality's part of a week.
type QualityShare struct {
	Level   quality.Level `json:"level"`
	Wanted  float64       `json:"wanted"`
	Dose    float64       `json:"dose"`
	Minutes float64       `json:"minutes"`
	Held    string        `json:"held"`
}

// Compare plans one golfer under two schools. The error names a school there is not, or
// is a *Refusal where no plan may be drafted.
func Compare(f *athlete.File, by *method.Method, a, b string) (*Compared, error) {
	under := func(id string) (*Basis, *Judged, error) {
		own := *f
		own.School = id
		x, err := BasisOf(&own, by)
		if err != nil {
			return nil, nil, err
		}
		j, err := x.Generate("compare")
		return x, j, err
	}
	xa, ja, err := under(a)
	if err != nil {
		return nil, err
	}
	xb, jb, err := under(b)
	if err != nil {
		return nil, err
	}
	out := &Compared{A: weekOf(xa, ja), B: weekOf(xb, jb), Qualities: []ComparedQuality{}}
	for i := range ja.Answer {
		q := &ja.Answer[i]
		at := slices.IndexFunc(jb.Answer, func(x budget.Answer) bool { return x.Quality == q.Quality })
		if at >= 0 {
			out.Qualities = append(out.Qualities, ComparedQuality{
				Quality: q.Quality, Name: q.Name, Unit: q.UnitWords, A: shareOf(q, ja), B: shareOf(&jb.Answer[at], jb),
				counted: q.Unit,
			})
		}
	}
	out.DistancePercent = unit.Round(Distance(ja, jb), 0)
	out.Sentences = out.say(xa, xb)
	return out, nil
}

// risingMean is the mean of what weeks hold over the rising ones.
func risingMean(j *Judged, weeks []float64) float64 {
	sum, n, i := 0.0, 0, 0
	for bi := range j.View.Blocks {
		for wi := range j.View.Blocks[bi].Weeks {
			if j.View.Blocks[bi].Weeks[wi].Kind == programme.Rising && i < len(weeks) {
				sum += weeks[i]
				n++
			}
			i++
		}
	}
	return sum / math.Max(float64(n), 1)
}

func shareOf(x *budget.Answer, j *Judged) QualityShare {
	return QualityShare{x.Level, x.DoseWanted, unit.Round(risingMean(j, x.DosePerWeek), 1), unit.Round(risingMean(j, x.MinutesPerWeek), 0), x.Held}
}

// Distance is how far apart two plans of one golfer are, in %: half the sum of what their
// minutes by quality differ by, of the mean of their minutes.
func Distance(a, b *Judged) float64 {
	minutes := func(j *Judged) (map[string]float64, float64) {
		by, all := map[string]float64{}, 0.0
		for i := range j.Answer {
			m := risingMean(j, j.Answer[i].MinutesPerWeek)
			by[j.Answer[i].Quality] = m
			all += m
		}
		return by, all
	}
	x, allX := minutes(a)
	y, allY := minutes(b)
	sum := 0.0
	for _, q := range append(quality.IDs(), budget.Trunk, budget.SwingSpeed) {
		sum += math.Abs(x[q] - y[q])
	}
	return 100 * sum / 2 / math.Max((allX+allY)/2, 1)
}

func weekOf(b *Basis, j *Judged) SchoolWeek {
	w := SchoolWeek{
		School: b.school.ID, Name: b.school.Name, Headline: b.Read.Headline, Leaders: []string{}, Zones: map[string]float64{}, Sessions: []ComparedSession{},
		Broken: []string{}, Unanswered: []string{}, Outside: b.Outside(),
	}
	for _, q := range b.Read.Leaders {
		w.Leaders = append(w.Leaders, quality.Name(q))
	}
	n := 0.0
	for bi := range j.View.Blocks {
		for wi := range j.View.Blocks[bi].Weeks {
			week := &j.View.Blocks[bi].Weeks[wi]
			if week.Kind != programme.Rising {
				continue
			}
			if n == 0 {
				for _, s := range week.Sessions {
					w.Sessions = append(w.Sessions, ComparedSession{s.Letter, s.Title, s.Minutes})
				}
			}
			n++
			w.Minutes += week.Totals.Minutes
			w.Contacts += float64(week.Totals.Contacts)
			w.Throws += float64(week.Totals.Throws)
			w.Swings += float64(week.Totals.Swings)
			for z, sets := range week.Totals.Sets {
				w.Zones[z] += float64(sets)
			}
		}
	}
	for _, v := range []*float64{&w.Minutes, &w.Contacts, &w.Throws, &w.Swings} {
		*v = unit.Round(*v/math.Max(n, 1), 0)
	}
	for z := range w.Zones {
		w.Zones[z] = unit.Round(w.Zones[z]/math.Max(n, 1), 1)
	}
	for _, r := range j.Rules {
		if r.Status == rulebook.Broken {
			w.Broken = append(w.Broken, strings.TrimSuffix(r.Rule+": "+r.Text, "."))
		}
	}
	for _, u := range j.Doc.Unanswered {
		w.Unanswered = append(w.Unanswered, u.Finding+" "+u.Why)
	}
	return w
}

// worthSaying is from which share of the larger dose a difference is said.
const worthSaying = 0.2

// say puts the differences into words: what leads and why, then the largest differences
// of dose, then what keeps the two alike.
func (c *Compared) say(a, b *Basis) []string {
	var out []string
	leads := func(w *SchoolWeek) string {
		if len(w.Leaders) == 0 {
			return "nothing"
		}
		return strings.Join(w.Leaders, " and ")
	}
	if x, y := leads(&c.A), leads(&c.B); x == y {
		out = append(out, fmt.Sprintf("Both lead with %s: %s", x, lower(c.A.Headline)))
	} else {
		out = append(out, fmt.Sprintf("%s leads with %s, %s with %s: %s", c.A.Name, x, c.B.Name, y, lower(why(a, b))))
	}
	list := slices.Clone(c.Qualities)
	differs := func(q *ComparedQuality) float64 { return math.Abs(q.A.Minutes - q.B.Minutes) }
	slices.SortStableFunc(list, func(x, y ComparedQuality) int { return int(1000 * (differs(&y) - differs(&x))) })
	said := 0
	for i := range list {
		q := &list[i]
		more, less, who := q.A.Dose, q.B.Dose, c.A.Name
		other := c.B.Name
		if less > more {
			more, less, who, other = less, more, c.B.Name, c.A.Name
		}
		if d := unit.Round(more-less, 1); said < 4 && more > 0 && d >= worthSaying*more {
			out = append(out, fmt.Sprintf("%s gives %s %s more %s a week than %s.", who, lower(q.Name), unit.Compact(d, 1), q.counted.Counted(d), other))
			said++
		}
	}
	held := map[string]bool{}
	for _, q := range c.Qualities {
		if q.A.Held != "" && q.A.Held == q.B.Held && !held[q.A.Held] {
			held[q.A.Held] = true
			out = append(out, fmt.Sprintf("Alike: %s.", lower(strings.TrimSuffix(q.A.Held, "."))))
		}
	}
	if said == 0 {
		out = append(out, "Their weeks are alike: what the read asks for takes the minutes there are.")
	}
	return out
}

// why is what makes the second school lead otherwise.
func why(a, b *Basis) string {
	for _, x := range []*Basis{b, a} {
		for _, q := range x.Read.Qualities {
			if q.Outsider {
				return fmt.Sprintf("%s lets %s wait.", x.school.Name, q.Name)
			}
		}
	}
	for _, id := range b.Read.Leaders {
		for _, q := range b.Read.Qualities {
			if q.ID == id {
				return fmt.Sprintf("%s weighs %s %s.", b.school.Name, q.Name, unit.Compact(q.Relevance, 1))
			}
		}
	}
	return b.school.Logic
}

func lower(s string) string {
	if len(s) > 1 && s[1] >= 'a' && s[1] <= 'z' {
		return strings.ToLower(s[:1]) + s[1:]
	}
	return s
}
