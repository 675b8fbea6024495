package plan

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/budget"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
	"dunnock/internal/core/warmup"
)

// Basis is what the plans of one golfer are made from and judged by: the file,
// the method, the read and the facts, worked out once. It does not change.
type Basis struct {
	Read  *quality.Read
	Facts rulebook.Facts

	file   *athlete.File
	by     *method.Method
	school *school.School     // as it is in the block
	base   *school.School     // with all its stages
	needs  map[string]float64 // quality → what an exercise gains by serving it
	massKg float64            // 0 when it was not weighed
	before *programme.Before  // of the programme before; nil: none
	turned *turn              // what a retest of it means; nil: there was none
	liftOn civil.Date         // when the tested lift was tested
	// working are the maxima that what was done has set, by exercise.
	working map[string]programme.Weight
}

// After returns the basis of the programme that follows another: it goes on from what that
// held, and where the school's stages follow each other block by block, in the next.
func (b *Basis) After(last *programme.Programme) *Basis {
	before := last.Following(b.start())
	out := *b
	if before != nil && before.School == b.school.ID && b.base.Next == school.ByBlock {
		out = *basisOf(b.file, b.by, b.base.At(before.Blocks))
		out.base = b.base
	}
	out.before = before
	return out.workingOf(last)
}

// BasisOf reads a golfer's file by a method. The error names a school there is
// not.
func BasisOf(f *athlete.File, by *method.Method) (*Basis, error) {
	s, err := by.Schools.Find(f.School)
	if err != nil {
		return nil, err
	}
	out := basisOf(f, by, s.At(0))
	out.base = s
	return out, nil
}

// basisOf is the basis under a school as it is in one block.
func basisOf(f *athlete.File, by *method.Method, s *school.School) *Basis {
	b := &Basis{Read: quality.Compute(f, s, nil), file: f, by: by, school: s, needs: map[string]float64{}}
	start := b.start()
	age := f.Athlete.BirthDate.YearsOn(start)
	limits := by.Rules.Limits()
	b.Facts = rulebook.Facts{
		By: limits, Level: f.Athlete.Level(), Tier: f.Athlete.Level().Tier(),
		Junior: age < limits.Junior.Age, Senior: age >= limits.Senior.Age,
		Clearance: f.ClearanceOn(f.AsOf), Limits: f.LimitsOn(start), Kit: f.Training.Kit, HomeKit: f.Training.KitAt[athlete.AtHome], Competitions: athlete.DaysOfPlay(f.Competitions),
		TestedLift: testedLift, OtherShare: s.OtherSideShare, Special: s.SpecialPercent,
	}
	if f.OtherSideShare != nil {
		b.Facts.OtherShare = *f.OtherSideShare
	}
	b.Facts.Overhead = b.overhead()
	b.whatMayBeDone()
	b.Facts.NearSpurt = b.Facts.Junior && (b.Read.Maturity == nil || b.Read.Maturity.NearSpurt)
	b.Facts.Ramp = len(f.Ramp())
	if f.LongOff() {
		b.Facts.Tier = athlete.Novice // the doses of one who begins
	}
	if b.Read.Strength != nil {
		b.Facts.OneRM = b.Read.Strength.OneRM
	}
	for _, t := range b.Read.Tests {
		if t.Test == "trap-bar-lift" {
			b.liftOn = t.Date
			if f.StaleLoad(t.Date) {
				b.Facts.OneRM = 0 // after a lay-off an older lift sets no loads
			}
		}
		if t.Test == "mass" && len(t.Sides) == 1 && t.Sides[0].Result != nil {
			b.massKg = *t.Sides[0].Result
		}
	}
	b.Facts.Thin = b.thin()
	b.Facts.WarmUp = warmup.CountsIn(warmup.PersonOf(f, b.Read, b.Facts.OtherShare), warmup.SessionRequest(true, true, f.Training.Kit))
	for _, q := range b.Read.Qualities {
		b.needs[q.ID] = s.Weigh().Relevance * q.Relevance
		if q.Status == quality.Ranked {
			b.needs[q.ID] += max(0, q.Need)
		}
	}
	return b
}

// stage is the school's, as the golfer is in it.
func (b *Basis) stage() *school.Stage { return &b.school.Stages[b.Read.Stage] }

// thin finds what leads or is built on one test alone that is old by the start of the
// programme, or beside which the quality's other tests are missing.
func (b *Basis) thin() []rulebook.Thin {
	var out []rulebook.Thin
	for _, q := range b.Read.Qualities {
		if q.Level != quality.Lead && q.Level != quality.Build || q.Verdict != quality.ClearlyShort {
			continue
		}
		var only *quality.TestRead
		n := 0
		for i := range b.Read.Tests {
			if t := &b.Read.Tests[i]; t.Quality == q.ID && t.Status == quality.Measured && t.Gap != nil {
				only = t
				n++
			}
		}
		if n != 1 {
			continue
		}
		switch age := b.start().Sub(only.Date); {
		case age > b.Facts.By.Coverage.Days:
			out = append(out, rulebook.Thin{Quality: q.ID, Test: only.Name, Why: fmt.Sprintf("%s rests on one test alone, %s of %s: %d days before the programme starts.", upper(q.Name), strings.ToLower(only.Name), only.Date.Words(), age)})
		case q.Coverage < 1:
			out = append(out, rulebook.Thin{Quality: q.ID, Test: only.Name, Why: fmt.Sprintf("%s rests on one test alone, %s: its other tests are missing.", upper(q.Name), strings.ToLower(only.Name))})
		}
	}
	return out
}

// whatMayBeDone says which short joints something may be done for, and whether any
// fast work is left by the limits.
func (b *Basis) whatMayBeDone() {
	allowed := func(fits func(*library.Exercise) bool) bool {
		for i := range b.by.Exercises.All() {
			e := &b.by.Exercises.All()[i]
			if rule, _ := b.Facts.Forbidden(e); fits(e) && (rule == "" || rule == "KIT") {
				return true
			}
		}
		return false
	}
	for _, r := range b.Read.Ranges {
		if allowed(func(e *library.Exercise) bool { return e.Fits(library.SlotRange) && slices.Contains(e.Targets, r.Test) }) {
			b.Facts.Restricted = append(b.Facts.Restricted, rulebook.Joint{Test: r.Test, Side: string(r.Side), Name: upper(r.For)})
		}
	}
	b.Facts.NoFast = !allowed(func(e *library.Exercise) bool {
		return e.Fits(library.SlotSwings) || e.Fits(library.SlotThrow) || e.Fits(library.SlotJump)
	})
}

// overhead is how far the golfer's arms go up without pain, in degrees: what the
// coach said, or the less of the two sides of the shoulder test; 0 when unknown.
func (b *Basis) overhead() float64 {
	if d := b.file.OverheadDegrees; d > 0 {
		return d
	}
	least := 0.0
	for _, t := range b.Read.Tests {
		if t.Test != "shoulder-flexion" || t.Status != quality.Measured {
			continue
		}
		for _, s := range t.Sides {
			if least == 0 || *s.Result < least {
				least = *s.Result
			}
		}
	}
	return least
}

func (b *Basis) start() civil.Date {
	if b.file.StartDate.IsZero() {
		return b.file.AsOf
	}
	return b.file.StartDate
}

// A Judged programme is a document, what it comes to, and how the rules judge it.
type Judged struct {
	Doc   *programme.Programme
	View  *derive.Programme
	Rules []rulebook.Result
	// Answer is what it gives beside what it was asked for; none for documents of
	// before.
	Answer []budget.Answer
}

// Judge judges a document by the golfer's file as it is now.
func (b *Basis) Judge(doc *programme.Programme) *Judged {
	view, rules := b.by.Judge(doc, b.workingOf(doc).Facts)
	heldByLocks(doc, rules)
	return &Judged{doc, view, rules, budget.Doses().Given(view, b.by.Exercises, b.person())}
}

// Stamp returns a copy of a document that names the exercises and rules it is
// judged by now.
func (b *Basis) Stamp(doc *programme.Programme) *programme.Programme {
	out := doc.Clone()
	out.LibraryVersion, out.RulebookVersion = b.by.Exercises.Version(), b.by.Rules.Version()
	return out
}

// LoadStepKg is the smallest step of a loaded bar with the golfer's plates.
func (b *Basis) LoadStepKg() float64 { return loadStep(b.file.Training) }

// Method is what the golfer's plans are made by.
func (b *Basis) Method() *method.Method { return b.by }

// Person is what the golfer's doses depend on beside the read.
func (b *Basis) Person() budget.Person { return b.person() }

// Limited is the basis with one more limit.
func (b *Basis) Limited(l athlete.Limit) *Basis {
	f := *b.file
	f.Limits = append(slices.Clone(b.file.Limits), l)
	out := basisOf(&f, b.by, b.school)
	out.base, out.before, out.turned, out.working = b.base, b.before, b.turned, b.working
	return out
}

// StepOf is what the load of an exercise is put together from: the empty bar, 0 where there
// is none, and the smallest step, in kg.
func (b *Basis) StepOf(e *library.Exercise) (bar, step float64) {
	p := b.planner(Brief{})
	if s, ok := startOf(e); e.LoadBasis == "trap-bar-lift" || ok && slices.Contains([]string{"barbell", "trap bar"}, s.Kit) || slices.Contains(e.Kit, "barbell") {
		return p.bar()
	}
	if t := b.file.Training; t.DumbbellStep > 0 {
		return 0, t.DumbbellStep
	}
	return 0, dumbbellStep
}

// dumbbellStep is the smallest step of dumbbells that are not known, kg.
const dumbbellStep = 2.0

// Free reports whether a day may be trained on: it is not away, nor a day of play.
func (b *Basis) Free(day civil.Date) bool {
	if slices.ContainsFunc(b.Facts.Competitions, func(c athlete.Competition) bool { return c.Date == day }) {
		return false
	}
	return !slices.ContainsFunc(b.file.Away, func(a athlete.Away) bool { return !a.Trains && !day.Before(a.From) && !day.After(a.To) })
}

// workingOf returns the basis with the working maxima a document holds: a tested lift's is what
// was lifted since, where that is newer than the test.
func (b *Basis) workingOf(doc *programme.Programme) *Basis {
	if doc == nil || len(doc.Working) == 0 {
		return b
	}
	out := *b
	out.working = doc.Working
	if m, ok := doc.Working[testedLift]; ok && m.On.After(b.liftOn) && !b.file.StaleLoad(m.On) {
		out.Facts.OneRM, out.Facts.OneRMSince = m.Kg, m.On
	}
	return &out
}

// WithDone is the basis with what weeks that are over came to by line, by the week's id: the
// rules measure the weeks behind them against it.
func (b *Basis) WithDone(done map[programme.ID]map[rulebook.Line]int) *Basis {
	out := *b
	out.Facts.Done = done
	return &out
}
