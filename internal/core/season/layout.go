package season

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"dunnock/internal/core/civil"
)

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
			l.cutShort(&out, at)
			l.endsIn(&out, at)
			return &out
		}
	}
	return nil
}

// cutShort ends a block that has begun where a break begins in it: what is left is laid anew
// behind the break.
func (l *layout) cutShort(b *Block, at int) {
	for w := at + 1; w < at+len(b.Rows) && !b.Locked; w++ {
		if _, breaks := l.breakFrom(w); breaks {
			b.Rows = b.Rows[:w-at]
			b.Peak, b.Retest = nil, civil.Date{}
			return
		}
	}
}

// endsIn lets a locked block lead up to a peak that closes its last week; one that closes in
// the middle of it is said.
func (l *layout) endsIn(b *Block, at int) {
	if !b.Locked {
		return
	}
	for i := range l.peaks {
		switch p := &l.peaks[i]; {
		case p.close == at+len(b.Rows)-1:
			b.Peak, b.Rows = &p.Event, rows(len(b.Rows), true)
			if len(b.Rows) == 1 {
				b.Kind = EventWeek
			}
		case p.close >= at && p.close < at+len(b.Rows):
			l.note("%s lies in the middle of the block from %s: that is held by your lock.", p.Name, b.Start.Words())
		}
	}
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
		switch {
		case before.Peak.Main != p.Main && p.Main:
			l.note("Two bridges of three weeks and less follow each other: play %s through, %s matters more.", before.Peak.Name, p.Name)
		case before.Peak.Main != p.Main:
			l.note("Two bridges of three weeks and less follow each other: play %s through, %s matters more.", p.Name, before.Peak.Name)
		default:
			l.note("Two bridges of three weeks and less follow each other: play one of %s and %s through.", before.Peak.Name, p.Name)
		}
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
		if b.Retest.IsZero() || !b.Begun {
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
