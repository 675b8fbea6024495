// Package season lays a golfer's year out in blocks, worked backwards from what is peaked
// for: which weeks rise, which are easier, which lead up to an event, follow it or are lost,
// and what part of the year each day lies in. It knows dates and events and nothing of what
// is trained: package plan fills a block when its turn comes.
//
// The same facts and the same season before give the same season. Replan keeps what is done
// or begun and as many blocks after it as the moved dates allow. Weeks run from Monday to
// Sunday. Arithmetic after the handbook's page of exact arithmetic of the season; what is
// not said there is ours, common practice, no source.
package season

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"dunnock/internal/core/civil"
)

// Event is a competition of one or several days.
type Event struct {
	Name  string     `json:"name"`
	First civil.Date `json:"first"`
	Last  civil.Date `json:"last"`
	Peak  bool       `json:"peak"` // peaked for; otherwise played through
}

// Span is a stretch of days, both ends included.
type Span struct {
	From civil.Date `json:"from"`
	To   civil.Date `json:"to"`
}

// Has reports whether a day lies in it.
func (s Span) Has(day civil.Date) bool { return !day.Before(s.From) && !day.After(s.To) }

// Playing is a stretch with so many rounds a week.
type Playing struct {
	Span
	Rounds int `json:"rounds"`
}

// Facts are what a season is made from.
type Facts struct {
	Start   civil.Date
	End     civil.Date // zero: two weeks behind the last peak, twelve weeks without one
	Events  []Event
	Playing []Playing
	Off     []Span // days nothing is trained on: away, holiday, ill or hurt
	Days    []int  // weekdays of the sessions, 0 Monday to 6
	Locked  []Block
}

// Limits of a season, in weeks.
const (
	withoutPeak = 12
	afterPeak   = 2
	MostWeeks   = 52
)

// Kind is what a block is.
type Kind string

// The kinds of block.
const (
	Training   Kind = "block"
	LeadIn     Kind = "lead-in"    // the days before the first Monday: finding the level
	EventWeek  Kind = "event"      // one week, that of the event
	After      Kind = "after"      // the week behind an event that another follows
	Bridge     Kind = "bridge"     // between two close peaks, with its after-week and a taper of seven days
	Hold       Kind = "hold"       // between two peaks a week apart: rest, range, short and fast
	Transition Kind = "transition" // behind the last peak
	Break      Kind = "break"      // two lost weeks or more
	Return     Kind = "return"     // the way back from a break
)

// Phase is a part of the year.
type Phase string

// The phases.
const (
	OffSeason       Phase = "off-season"
	PreSeason       Phase = "pre-season"
	InSeason        Phase = "in-season"
	Taper           Phase = "taper"
	TransitionPhase Phase = "transition"
)

// Row is what a week of a block holds: a rising week by its number, the easier one, a week
// of the taper, or nothing.
type Row string

// The rows that are no rising week.
const (
	EasierRow Row = "easier"
	TaperRow  Row = "taper"
	LostRow   Row = "lost"
	QuietRow  Row = "quiet" // after, hold, transition
)

// RisingRow is the nth rising week, from 1.
func RisingRow(n int) Row { return Row(fmt.Sprint(n)) }

// Rises reports whether the week rises.
func (r Row) Rises() bool { return r >= "1" && r <= "9" }

// Block is some weeks that belong together.
type Block struct {
	Kind   Kind       `json:"kind"`
	Start  civil.Date `json:"start"` // a Monday, but of a lead-in
	Rows   []Row      `json:"rows"`  // a week each
	Phase  Phase      `json:"phase"` // of its first day
	Peak   *Event     `json:"peak,omitempty"`
	Retest civil.Date `json:"retest"` // zero: none
	Locked bool       `json:"locked,omitempty"`
	// Begun says that a block has started or is done: it stays as it is.
	Begun bool `json:"begun,omitempty"`
}

// Weeks is how long it is.
func (b *Block) Weeks() int { return len(b.Rows) }

// End is its last day.
func (b *Block) End() civil.Date { return b.Start.Monday().Add(7*len(b.Rows) - 1) }

// Rising is how many weeks of it rise.
func (b *Block) Rising() int {
	n := 0
	for _, r := range b.Rows {
		if r.Rises() {
			n++
		}
	}
	return n
}

// Season is blocks without gaps between them.
type Season struct {
	Start  civil.Date `json:"start"`
	End    civil.Date `json:"end"`
	Blocks []Block    `json:"blocks"`
	Notes  []string   `json:"notes"` // what was assumed, and what is proposed
}

// NextPeak is the first event that is peaked for; nil where there is none.
func (s *Season) NextPeak() *Event {
	for i := range s.Blocks {
		if s.Blocks[i].Peak != nil {
			return s.Blocks[i].Peak
		}
	}
	return nil
}

// An Error says which fact cannot be.
type Error struct{ Field, Text string }

func (e *Error) Error() string { return e.Text }

// Check says what cannot be about the facts.
func (f *Facts) Check() error {
	switch {
	case f.Start.IsZero():
		return &Error{"start", "a season has a first day"}
	case len(f.Days) == 0:
		return &Error{"days", "a season needs days to train on: set them in Intake"}
	case !f.End.IsZero() && f.End.Before(f.Start):
		return &Error{"end", "a season ends behind its first day"}
	}
	for _, e := range f.Events {
		if e.Last.Before(e.First) {
			return &Error{"events", e.Name + " ends before it begins"}
		}
	}
	return nil
}

// Plan lays a season out.
func Plan(f Facts) (*Season, error) { return Replan(f, nil, civil.Date{}) }

// Replan lays a season out anew where dates have moved: what has begun by today stays, and
// of the blocks behind it as many as leave the way to the moved date long enough.
func Replan(f Facts, old *Season, today civil.Date) (*Season, error) {
	if err := f.Check(); err != nil {
		return nil, err
	}
	l := newLayout(f, old, today)
	l.lay()
	return l.season(), nil
}

// layout is a season being laid out. Weeks are counted from the first Monday.
type layout struct {
	f     Facts
	first civil.Date // Monday of week 0
	n     int        // weeks
	peaks []peak
	lost  []bool
	old   []Block // blocks of the season before that may be kept
	out   []Block
	notes []string
}

// peak is an event that is peaked for, with the week it closes.
type peak struct {
	Event
	close int
	last  civil.Date // of its days, and of those it was put together with
}

func newLayout(f Facts, old *Season, today civil.Date) *layout {
	l := &layout{f: f, first: f.Start.Monday()}
	if d := f.Start.Weekday(); d == time.Friday || d == time.Saturday || d == time.Sunday {
		l.first = l.first.Add(7)
	}
	events := slices.Clone(f.Events)
	slices.SortStableFunc(events, func(a, b Event) int { return cmp.Or(a.First.Sub(b.First), cmp.Compare(a.Name, b.Name)) })
	l.f.Events = events
	end := f.End
	for _, e := range events {
		switch {
		case !e.Peak:
		case e.First.Before(f.Start):
			l.note("%s lies before the season begins: it is not peaked for.", e.Name)
		default:
			if f.End.IsZero() {
				end = l.first.Add(7*(l.closing(e)+1+afterPeak) - 1)
			}
			l.peaks = append(l.peaks, peak{e, l.closing(e), e.Last})
		}
	}
	if end.IsZero() {
		end = l.first.Add(7*withoutPeak - 1)
	}
	l.n = min(max(end.Sub(l.first)/7+1, 1), MostWeeks)
	l.peaks = slices.DeleteFunc(l.peaks, func(p peak) bool { return p.close >= l.n })
	l.merge()
	l.findLost()
	for i := range f.Locked {
		b := f.Locked[i]
		b.Locked = true
		l.old = append(l.old, b)
	}
	if old != nil {
		for i := range old.Blocks {
			b := old.Blocks[i]
			b.Begun = b.Begun || !today.IsZero() && !b.Start.After(today)
			l.old = append(l.old, b)
		}
	}
	return l
}

func (l *layout) note(format string, args ...any) {
	if n := fmt.Sprintf(format, args...); !slices.Contains(l.notes, n) {
		l.notes = append(l.notes, n)
	}
}

// closing is the week a peak closes: that of its first day from Friday on, else the one
// before.
func (l *layout) closing(e Event) int {
	w := e.First.Sub(l.first)
	if w < 0 {
		return 0
	}
	w /= 7
	if d := e.First.Weekday(); d == time.Friday || d == time.Saturday || d == time.Sunday {
		return w
	}
	return max(w-1, 0)
}

// merge makes one of peaks that close in the same week.
func (l *layout) merge() {
	var out []peak
	for _, p := range l.peaks {
		if len(out) > 0 && p.close == out[len(out)-1].close {
			was := &out[len(out)-1]
			l.note("%s and %s are one peak: they are days apart, and what lies between is held.", was.Name, p.Name)
			was.last = p.last
			continue
		}
		out = append(out, p)
	}
	l.peaks = out
}

// free is on how many of the session days of a week anything can be trained.
func (l *layout) free(week int) int {
	n := 0
	for d := range 7 {
		day := l.first.Add(7*week + d)
		if slices.Contains(l.f.Days, d) && !day.Before(l.f.Start) && !slices.ContainsFunc(l.f.Off, func(s Span) bool { return s.Has(day) }) {
			n++
		}
	}
	return n
}

// findLost marks weeks with a day for fewer than half the sessions; the last two before a
// peak never are: the taper uses what is there.
func (l *layout) findLost() {
	l.lost = make([]bool, l.n)
	for w := range l.n {
		l.lost[w] = l.free(w) < (len(l.f.Days)+1)/2 && l.f.Start.Before(l.first.Add(7*w+1))
	}
	for _, p := range l.peaks {
		for w := max(p.close-1, 0); w <= p.close; w++ {
			l.lost[w] = false
		}
	}
}

// breakFrom returns the end (exclusive) of a break that begins in a week: two lost weeks or
// more in a row.
func (l *layout) breakFrom(week int) (end int, ok bool) {
	for end = week; end < l.n && l.lost[end]; end++ {
	}
	return end, end-week >= leastBreak
}

const leastBreak = 2

// lay goes through the weeks from anchor to anchor: a peak, a break, a locked block, the end.
func (l *layout) lay() {
	if l.f.Start.Before(l.first) {
		l.out = append(l.out, Block{Kind: LeadIn, Start: l.f.Start, Rows: []Row{QuietRow}})
	}
	at := 0
	var last *peak
	for at < l.n {
		if b := l.fixed(at); b != nil {
			l.out = append(l.out, *b)
			at += b.Weeks()
			continue
		}
		if end, ok := l.breakFrom(at); ok {
			l.quiet(Break, at, end-at, LostRow)
			at, last = end, nil
			at += l.comeBack(l.lengthBack(end), end)
			continue
		}
		at += l.stretch(at, &last)
	}
}

// lengthBack is how many weeks the break that ends in a week was long.
func (l *layout) lengthBack(end int) int {
	n := 0
	for w := end - 1; w >= 0 && l.lost[w]; w-- {
		n++
	}
	return n
}

// comeBack lays the way back from a break of so many weeks, and returns its length: from
// 3, 9 and 27 weeks a block of 2, 3 and 4.
func (l *layout) comeBack(weeks, at int) int {
	n := 0
	switch {
	case weeks >= 27:
		n = 4
	case weeks >= 9:
		n = 3
	case weeks >= 3:
		n = 2
	}
	if _, to := l.anchor(at); n > to-at {
		n = max(to-at, 0)
	}
	if n == 0 {
		return 0
	}
	l.out = append(l.out, Block{Kind: Return, Start: l.first.Add(7 * at), Rows: rows(n, false)})
	return n
}

func (l *layout) quiet(kind Kind, at, weeks int, row Row) {
	l.out = append(l.out, Block{Kind: kind, Start: l.first.Add(7 * at), Rows: slices.Repeat([]Row{row}, weeks)})
}

// fixed is a block of before that begins in a week and stays whatever moves: one that has
// begun, or is locked.
func (l *layout) fixed(at int) *Block {
	for i := range l.old {
		b := &l.old[i]
		if (b.Locked || b.Begun) && b.Start == l.first.Add(7*at) && b.Kind != LeadIn && b.Kind != Break {
			out := *b
			out.Rows = b.Rows[:min(len(b.Rows), l.n-at)]
			return &out
		}
	}
	return nil
}

// anchor returns the next anchor from a week on: the peak, if it is one, and the first week
// that does not belong to the way to it.
func (l *layout) anchor(at int) (*peak, int) {
	to := l.n
	var found *peak
	for i := range l.peaks {
		if p := &l.peaks[i]; p.close >= at {
			to, found = p.close+1, p
			break
		}
	}
	for w := at; w < to; w++ {
		_, breaks := l.breakFrom(w)
		if breaks || w > at && l.fixed(w) != nil {
			return nil, w
		}
	}
	return found, to
}

// stretch lays the way from a week to the next anchor, what follows the last peak first.
// It returns how many weeks it laid; last is the peak behind which it begins, and becomes
// the one it leads to.
func (l *layout) stretch(at int, last **peak) int {
	p, to := l.anchor(at)
	from := at
	behind := *last != nil && (*last).close == at-1
	switch {
	case behind && p != nil && p.close-(*last).close <= 1:
		l.quiet(Hold, at, to-at, QuietRow)
		l.note("%s and %s are a week apart: one peak, and what lies between is held.", (*last).Name, p.Name)
		*last = p
		return to - from
	case behind && p != nil && p.close-(*last).close <= 5:
		l.bridge(at, p)
		*last = p
		return to - from
	case behind && p != nil:
		l.quiet(After, at, 1, QuietRow)
		at++
	case behind && to-at >= 1:
		n := min(afterPeak, to-at)
		l.quiet(Transition, at, n, QuietRow)
		at += n
	}
	at = l.keep(at, to, p != nil)
	for _, n := range lengths(to-at, p != nil) {
		b := Block{Kind: Training, Start: l.first.Add(7 * at), Rows: rows(n, false)}
		if p != nil && at+n == to {
			b.Peak, b.Rows = &p.Event, rows(n, true)
			if n == 1 {
				b.Kind = EventWeek
			}
		}
		l.loseWeek(&b, at)
		l.out = append(l.out, b)
		at += n
	}
	*last = p
	return to - from
}

// bridge is the weeks between two close peaks: the after-week, weeks that rise, and a taper
// of seven days.
func (l *layout) bridge(at int, p *peak) {
	g := p.close - at + 1
	list := []Row{QuietRow}
	for n := range g - 2 {
		list = append(list, RisingRow(n+1))
	}
	list = append(list, TaperRow)
	l.out = append(l.out, Block{Kind: Bridge, Start: l.first.Add(7 * at), Rows: list, Peak: &p.Event})
	if before := l.lastBlock(1); before != nil && before.Kind == Bridge && g <= 3 && before.Weeks() <= 3 {
		l.note("Two bridges of three weeks and less follow each other: play one of %s and %s through.", before.Peak.Name, p.Name)
	}
}

// lastBlock is the nth block from the end, from 0.
func (l *layout) lastBlock(n int) *Block {
	if i := len(l.out) - 1 - n; i >= 0 {
		return &l.out[i]
	}
	return nil
}

// keep keeps the longest run of blocks of before, none with a peak's taper, that leaves the
// way to the anchor long enough: three weeks to a peak, else none or two. It returns the
// week behind them.
func (l *layout) keep(at, to int, peak bool) int {
	enough := func(left int) bool {
		if peak {
			return left >= 3
		}
		return left == 0 || left >= 2
	}
	best, run, w := 0, []Block(nil), at
	for {
		i := slices.IndexFunc(l.old, func(b Block) bool {
			return b.Kind == Training && b.Peak == nil && b.Start == l.first.Add(7*w)
		})
		if i < 0 || w+l.old[i].Weeks() > to {
			break
		}
		run = append(run, l.old[i])
		w += l.old[i].Weeks()
		if enough(to - w) {
			best = len(run)
		}
	}
	for _, b := range run[:best] {
		l.out = append(l.out, b)
		at += b.Weeks()
	}
	return at
}

// lengths cuts a stretch of so many weeks into blocks.
func lengths(weeks int, toPeak bool) []int {
	switch {
	case weeks <= 0:
		return nil
	case weeks <= 3:
		return []int{weeks}
	}
	a, b := weeks/4, weeks%4
	out := slices.Repeat([]int{4}, a-1)
	switch {
	case b == 0:
		return append(out, 4)
	case b == 1 && toPeak:
		return append(out, 5)
	case b == 1:
		return append(out, 3, 2)
	case b == 2:
		return append(out, 3, 3)
	case toPeak:
		return append(out, 3, 4)
	}
	return append(out, 4, 3)
}

// rows is what each week of a block holds; the last two of one that ends in a peak are its
// taper.
func rows(weeks int, toPeak bool) []Row {
	var out []Row
	switch {
	case toPeak:
		for n := range max(weeks-2, 0) {
			out = append(out, RisingRow(n+1))
		}
		return append(out, slices.Repeat([]Row{TaperRow}, min(weeks, 2))...)
	case weeks == 1:
		return []Row{RisingRow(1)}
	}
	for n := range weeks - 1 {
		out = append(out, RisingRow(n+1))
	}
	return append(out, EasierRow)
}

// loseWeek lays a block with one lost week: the dates stay. Among its last two the lost one
// is the easier week and the other repeats the last that rose; else the next week repeats,
// and the top one falls out.
func (l *layout) loseWeek(b *Block, at int) {
	n := len(b.Rows)
	for i := range b.Rows {
		if !l.lost[at+i] || b.Rows[i] == TaperRow {
			continue
		}
		if b.Peak == nil && n >= 2 && i >= n-2 {
			b.Rows[n-2+(n-1-i)] = RisingRow(max(n-2, 1))
		} else {
			for k := i + 1; k < n && b.Rows[k].Rises(); k++ {
				b.Rows[k] = RisingRow(max(k, 1))
			}
		}
		b.Rows[i] = LostRow
		return
	}
}

// season completes the blocks: phases, retests.
func (l *layout) season() *Season {
	s := &Season{Start: l.f.Start, End: l.first.Add(7*l.n - 1), Blocks: l.out, Notes: append([]string{}, l.notes...)}
	for i := range s.Blocks {
		b := &s.Blocks[i]
		b.Phase = s.phaseOf(b, i, &l.f)
		if !b.Begun && !b.Locked {
			b.Retest = l.retest(b)
		}
	}
	return s
}

// retest is when a block is tested: on the last session day of its easier week, or from the
// third day behind its event on.
func (l *layout) retest(b *Block) civil.Date {
	sessions := func(day civil.Date) bool {
		return slices.Contains(l.f.Days, (int(day.Weekday())+6)%7) && !slices.ContainsFunc(l.f.Off, func(s Span) bool { return s.Has(day) })
	}
	switch {
	case b.Kind == LeadIn || b.Kind == After || b.Kind == Hold || b.Kind == Transition || b.Kind == Break:
		return civil.Date{}
	case b.Peak != nil:
		for d := 3; d < 14; d++ {
			if day := b.Peak.Last.Add(d); sessions(day) {
				return day
			}
		}
		return civil.Date{}
	}
	for day := b.End(); !day.Before(b.Start); day = day.Add(-1) {
		if sessions(day) {
			return day
		}
	}
	return civil.Date{}
}
