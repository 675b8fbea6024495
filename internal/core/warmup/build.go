package warmup

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
)

// Problem is what is wrong with a request and where.
type Problem struct{ Path, Text string }

// Validate says what is impossible about a request.
func (r *Request) Validate() []Problem {
	var out []Problem
	bad := func(path, format string, args ...any) { out = append(out, Problem{path, fmt.Sprintf(format, args...)}) }
	if !slices.Contains(Purposes(), r.Purpose) {
		bad("purpose", "use training, range, tee, strength or after, not %q", r.Purpose)
	}
	if !slices.Contains(Places(), r.Place) {
		bad("place", "use gym, range, tee or car-park, not %q", r.Place)
	}
	switch {
	case r.Minutes < 1:
		bad("minutes", "nothing can be warmed up in %d minutes: give 3 to %d, or walk briskly and swing the first one at 85%%", r.Minutes, mostMinutes)
	case r.Minutes > mostMinutes:
		bad("minutes", "at most %d minutes: longer tires before it helps", mostMinutes)
	}
	if !(r.CeilingM >= 0 && r.CeilingM <= 50) {
		bad("ceilingM", "a ceiling is up to 50 m high, 0 in the open")
	}
	if !(r.ClearM >= 0 && r.ClearM <= 100) {
		bad("clearM", "free room all round is 0 to 100 m")
	}
	if c := r.Celsius; c != nil && !(*c >= -40 && *c <= 55) {
		bad("celsius", "it is between -40 and 55 °C, not %g", *c)
	}
	if !slices.Contains([]string{OwnDriver, IronsOnly, NoClub}, r.Clubs) {
		bad("clubs", "use irons, none, or leave it out")
	}
	if r.Group < 0 || r.Group > 60 {
		bad("group", "a group is up to 60")
	}
	if r.Walk < 0 || r.Walk > 120 || r.Wait < 0 || r.Wait > 180 {
		bad("walk", "a walk takes up to 120 minutes and a wait up to 180")
	}
	if r.Tee != "" {
		if _, err := clock(r.Tee); err != nil {
			bad("tee", "%v", err)
		}
	}
	if len(r.Kit) > 60 {
		bad("kit", "at most 60 pieces of kit")
	}
	for _, p := range r.Readiness.Validate() {
		bad("readiness."+p.Path, "%s", p.Text)
	}
	return out
}

// Build makes the warm-up a request asks for. It fails with a *Refusal where nothing is
// to be done today; a request that Validate finds fault with makes no sense here.
func Build(p *Person, r Request) (*WarmUp, error) {
	w, err := build(p, r)
	if err != nil {
		return nil, err
	}
	if r.Purpose == Tee && r.Minutes > lateMinutes && r.Tee != "" {
		less := r
		less.Minutes -= lateMinutes
		if late, err := build(p, less); err == nil {
			w.IfLate = &Late{lateMinutes, missing(w, late)}
		}
	}
	return w, nil
}

// builder holds what a warm-up is made of on the way.
type builder struct {
	p   *Person
	r   Request
	out *WarmUp
	// left are seconds that no phase has taken.
	left int
	used map[string]bool
	// Lines that a limit rules out, by the limit in words, in the order they were met.
	limits  []string
	without map[string][]string
}

// leaveOut writes down that a limit rules a line out.
func (b *builder) leaveOut(limit, line string) {
	if b.without == nil {
		b.without = map[string][]string{}
	}
	if !slices.Contains(b.limits, limit) {
		b.limits = append(b.limits, limit)
	}
	if !slices.Contains(b.without[limit], line) {
		b.without[limit] = append(b.without[limit], line)
	}
}

func build(who *Person, r Request) (*WarmUp, error) {
	if who.RedFlag != "" {
		return nil, &Refusal{who.RedFlag}
	}
	if stop := r.Readiness.Stop(); stop != "" {
		return nil, &Refusal{stop}
	}
	p := *who
	p.Limits = append(slices.Clone(who.Limits), r.Readiness.Limits()...)
	b := &builder{p: &p, r: r, used: map[string]bool{}, out: &WarmUp{Request: r, Title: title(&p, &r), Items: []Item{}, Dropped: []string{}, Notes: []string{}}}
	minutes := b.minutes()
	switch {
	case r.Purpose == After:
		b.after(minutes)
	case minutes < leastMinutes:
		b.hurried(60 * minutes)
	default:
		b.whole(minutes)
	}
	b.out.name()
	b.out.TotalSeconds = total(b.out.Items)
	if b.out.FreeSeconds = 60*r.Minutes - b.out.TotalSeconds; b.out.FreeSeconds >= 60 && minutes >= leastMinutes {
		b.note("%s free: more would only tire.", inMinutes(b.out.FreeSeconds))
	}
	b.tee()
	b.together()
	for _, limit := range b.limits {
		b.note("%s: without %s.", upper(limit), join(b.without[limit]))
	}
	b.out.Rules = Judge(who, b.out)
	return b.out, nil
}

func (b *builder) note(format string, args ...any) {
	if n := fmt.Sprintf(format, args...); !slices.Contains(b.out.Notes, n) {
		b.out.Notes = append(b.out.Notes, n)
	}
}

func (b *builder) drop(what string) {
	if !slices.Contains(b.out.Dropped, what) {
		b.out.Dropped = append(b.out.Dropped, what)
	}
}

func inMinutes(s int) string {
	if s%60 == 0 {
		return fmt.Sprintf("%d min", s/60)
	}
	return fmt.Sprintf("%d:%02d min", s/60, s%60)
}

// minutes are those that are used: what is too much for the purpose or the weather stays
// free.
func (b *builder) minutes() int {
	most, why := b.r.Minutes, ""
	cap := func(m int, because string) {
		if m < most {
			most, why = m, because
		}
	}
	switch {
	case b.r.Purpose == After:
		cap(mostAfter, "after play")
	case b.r.Purpose == Strength:
		cap(mostStrength, "before strength")
	case !b.ballSession() && !b.drillSession():
		cap(mostWithout, "without balls")
	}
	if c := b.r.Celsius; c != nil {
		if *c >= veryHot {
			cap(mostVeryHot, "in such heat")
		} else if *c >= hot {
			cap(mostHot, "in the heat")
		}
		if *c >= veryHot {
			b.note("Heat: shade and water, and stop at the first dizziness; the local heat policy wins.")
		}
	}
	if why != "" {
		b.note("At most %d minutes %s.", most, why)
	}
	return most
}

// ballSession reports whether most of the time is balls.
func (b *builder) ballSession() bool {
	return b.r.Purpose == Range && b.r.Balls && b.r.Clubs != NoClub && b.r.Minutes >= 8
}

// drillSession reports whether rounds of drills take most of the time.
func (b *builder) drillSession() bool {
	return b.r.Drills && b.r.Minutes >= 15 && (b.r.Purpose == Range || b.r.Purpose == Training)
}

// whole fills the phases.
func (b *builder) whole(minutes int) {
	s := rowOf(minutes)
	room := 60 * minutes
	balls := b.ballSession()
	if balls || b.drillSession() {
		s = rowOf(min(max(minutes/2, 4), 15))
		s.ladder = 0
		s.ladder = room - s.sum()
	}
	ladder, why := b.ladder(balls)
	if ladder == nil {
		if why != "" {
			b.note("No swings: %s.", why)
		}
		s.activate += s.ladder / 2
		s.joints += s.ladder - s.ladder/2
		s.ladder = 0
	}
	b.weather(&s, minutes)
	b.left = room - s.sum()
	b.raise(s.raise)
	b.joints(s.joints, minutes)
	b.phase(Activate, s.activate, activateS)
	b.phase(Separate, s.separate, separateS)
	b.jumps(s.jump)
	if ladder != nil {
		b.swings(ladder, s.ladder)
	}
	b.more(minutes)
	b.evenRaise()
	if slices.ContainsFunc(b.out.Items, func(it Item) bool { return it.Step == "drill" }) {
		b.balance()
	}
	slices.SortStableFunc(b.out.Items, func(x, y Item) int {
		return cmp.Compare(slices.Index(Phases(), x.Phase), slices.Index(Phases(), y.Phase))
	})
	timeSwings(b.out.Items)
}

// evenRaise rounds the raise up to whole fives where seconds are left: nobody walks 83.
func (b *builder) evenRaise() {
	for i := range b.out.Items {
		it := &b.out.Items[i]
		if more := (evenS - it.Seconds%evenS) % evenS; it.Phase == Raise && more > 0 && more <= b.left {
			it.Seconds += more
			b.left -= more
		}
	}
}

const evenS = 5

// weather lengthens the raise in the cold and from 60 on, and shortens it in the heat.
func (b *builder) weather(s *seconds, minutes int) {
	want := s.raise
	if c := b.r.Celsius; c != nil && *c < cold {
		switch {
		case minutes >= 6:
			want = max(want, coldRaise)
		case minutes >= 4:
			want = max(want, coldRaise4)
		}
	} else if c != nil && *c >= hot {
		s.joints += max(s.raise-leastRaise, 0)
		s.raise, want = min(s.raise, leastRaise), min(s.raise, leastRaise)
	}
	if b.p.Senior && minutes >= 4 && !(b.r.Celsius != nil && *b.r.Celsius >= hot) {
		want += seniorRaise
	}
	take := func(from *int, floor int) {
		if n := min(want-s.raise, *from-floor); n > 0 {
			*from -= n
			s.raise += n
		}
	}
	take(&s.jump, 0)
	take(&s.separate, min(s.separate, floorSeparate))
	take(&s.activate, min(s.activate, floorActivate))
	if s.ladder > 0 {
		take(&s.ladder, min(s.ladder, leastLadder))
	}
}

// phaseWords name the lines of a phase when some of them go.
var phaseWords = map[Phase]string{Joints: "joint lines", Activate: "of activation", Separate: "of separation", Jump: "jumps", Ladder: "swings"}

// missing is what one warm-up holds more than another, phase by phase, in words.
func missing(more, less *WarmUp) []string {
	count := func(w *WarmUp) map[Phase]int {
		out := map[Phase]int{}
		for i := range w.Items {
			switch it := &w.Items[i]; {
			case it.Wait:
			case it.Swings > 0:
				out[Ladder] += it.Swings
			case it.Phase == Raise:
				out[Raise] += it.Seconds
			default:
				out[it.Phase]++
			}
		}
		return out
	}
	was, is := count(more), count(less)
	out := []string{}
	if d := was[Raise] - is[Raise]; d > 0 {
		out = append(out, fmt.Sprintf("%d s of the raise", d))
	}
	for _, p := range Phases() {
		switch d := was[p] - is[p]; {
		case d <= 0 || p == Raise:
		case is[p] == 0:
			out = append(out, fmt.Sprintf("all %d %s", was[p], phaseWords[p]))
		default:
			out = append(out, fmt.Sprintf("%d of %d %s", d, was[p], strings.TrimPrefix(phaseWords[p], "of ")))
		}
	}
	return out
}

// title says what a warm-up is.
func title(p *Person, r *Request) string {
	who := ""
	if r.Group > 1 {
		who = ", group of " + fmt.Sprint(r.Group)
		if p.Junior {
			who = ", juniors" + strings.TrimPrefix(who, ", group")
		}
	}
	names := map[Purpose]string{
		Training: "Before training", Range: "To the range", Tee: "To the tee", Strength: "Before strength", After: "After the round",
	}
	at := map[Place]string{Gym: "in the gym", OnRange: "on the range", TeeBox: "by the tee", CarPark: "in the car park"}[r.Place]
	return fmt.Sprintf("%s, %d minutes %s%s", names[r.Purpose], r.Minutes, at, who)
}
