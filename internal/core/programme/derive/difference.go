package derive

import (
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
)

// Difference is one thing in which a programme differs from one before it, in words.
type Difference struct {
	// Where names the weeks and the kind of day, or the part of the programme.
	Where string     `json:"where"`
	Words string     `json:"words"`
	First civil.Date `json:"first,omitzero"` // the first day it is about
}

// Differences says what is different in a programme from one before it, in order of time.
// Weeks, sessions and items are the same where their ids are; otherwise weeks by their
// first day, sessions by their day, items by their exercise. Of programmes that share no
// week, weeks are the same by their number and sessions by their kind of day. What is the
// same in several weeks is said once.
func Differences(was, now *Programme) []Difference {
	d := &differing{}
	d.head(was, now)
	a, b := weeksOf(was), weeksOf(now)
	of := match(len(a), len(b), func(i, k int) bool { return a[i].ID == b[k].ID }, func(i, k int) bool { return a[i].Start == b[k].Start })
	if !slices.ContainsFunc(of, func(i int) bool { return i >= 0 }) {
		// Nothing stands in the same weeks: one block beside another, week by week.
		d.shifted = true
		of = match(len(a), len(b), func(i, k int) bool { return a[i].Number == b[k].Number })
	}
	gone := make([]bool, len(a))
	for i := range gone {
		gone[i] = true
	}
	for k, w := range b {
		if of[k] < 0 {
			d.say(w, "", w.Start, "a week that was not there: "+sessionsWords(w))
			continue
		}
		gone[of[k]] = false
		d.week(a[of[k]], w)
	}
	for i, w := range a {
		if gone[i] {
			d.say(w, "", w.Start, "a week that is gone: "+sessionsWords(w))
		}
	}
	return d.lines()
}

func sessionsWords(w *Week) string {
	if len(w.Sessions) == 1 {
		return "1 session"
	}
	return fmt.Sprintf("%d sessions", len(w.Sessions))
}

func weeksOf(p *Programme) []*Week {
	var out []*Week
	for bi := range p.Blocks {
		for wi := range p.Blocks[bi].Weeks {
			out = append(out, &p.Blocks[bi].Weeks[wi])
		}
	}
	return out
}

// match returns for each of the second list the index in the first it belongs to, −1 where
// there is none: by the first rule that fits, each one once.
func match(was, now int, rules ...func(i, k int) bool) []int {
	out, used := make([]int, now), make([]bool, was)
	for k := range out {
		out[k] = -1
	}
	for _, rule := range rules {
		for k := range out {
			for i := 0; i < was && out[k] < 0; i++ {
				if !used[i] && rule(i, k) {
					out[k], used[i] = i, true
				}
			}
		}
	}
	return out
}

// differing gathers what differs.
type differing struct {
	said    []differs
	shifted bool // no week is the same: days say nothing
}

type differs struct {
	week   int
	letter programme.Letter
	first  civil.Date
	words  string
}

func (d *differing) say(w *Week, letter programme.Letter, on civil.Date, words string) {
	d.said = append(d.said, differs{w.Number, letter, on, words})
}

func (d *differing) head(was, now *Programme) {
	put := func(words string) { d.said = append(d.said, differs{words: words}) }
	if was.SchoolName != now.SchoolName {
		put(fmt.Sprintf("The school is %s, it was %s", now.SchoolName, was.SchoolName))
	}
	if was.StartDate != now.StartDate {
		put(fmt.Sprintf("It starts on %s, it did on %s", now.StartDate.Words(), was.StartDate.Words()))
	}
	emphasis := func(p *Programme) string {
		var out []string
		for i := range p.Blocks {
			out = append(out, p.Blocks[i].Emphasis)
		}
		return strings.Join(out, "; ")
	}
	if a, b := emphasis(was), emphasis(now); a != b {
		put(fmt.Sprintf("Emphasis: %s, it was: %s", b, a))
	}
}

func (d *differing) week(was, now *Week) {
	if was.Start != now.Start && !d.shifted {
		d.say(now, "", now.Start, fmt.Sprintf("the week starts on %s, it did on %s", now.Start.Words(), was.Start.Words()))
	}
	if was.KindWords != now.KindWords {
		d.say(now, "", now.Start, fmt.Sprintf("%s, it was %s", now.KindWords, was.KindWords))
	}
	d.mark(now, "", now.Start, "the week", was.Locked, now.Locked, was.Note, now.Note)
	of := match(len(was.Sessions), len(now.Sessions),
		func(i, k int) bool { return was.Sessions[i].ID == now.Sessions[k].ID },
		func(i, k int) bool { return was.Sessions[i].Date == now.Sessions[k].Date },
		func(i, k int) bool { return was.Sessions[i].Letter == now.Sessions[k].Letter })
	for k := range now.Sessions {
		s := &now.Sessions[k]
		if of[k] < 0 {
			d.say(now, s.Letter, s.Date, fmt.Sprintf("a session more, on %s, of %d items", s.Date.Words(), len(s.Items)))
			continue
		}
		d.session(now, &was.Sessions[of[k]], s)
	}
	for i := range was.Sessions {
		if !slices.Contains(of, i) {
			d.say(now, was.Sessions[i].Letter, was.Sessions[i].Date, fmt.Sprintf("no session on %s any more", was.Sessions[i].Date.Words()))
		}
	}
	homeItems := func(w *Week) []Item {
		var out []Item
		for i := range w.Home {
			out = append(out, w.Home[i].Items...)
		}
		return out
	}
	d.items(now, "at home", now.Start, homeItems(was), homeItems(now))
}

func (d *differing) mark(w *Week, letter programme.Letter, on civil.Date, what string, wasLocked, locked bool, wasNote, note string) {
	switch {
	case locked && !wasLocked:
		d.say(w, letter, on, what+" is locked")
	case wasLocked && !locked:
		d.say(w, letter, on, what+" is not locked any more")
	}
	switch {
	case note == wasNote:
	case note == "":
		d.say(w, letter, on, what+" has no note any more")
	default:
		d.say(w, letter, on, fmt.Sprintf("a note on %s: %s", what, note))
	}
}

func (d *differing) session(w *Week, was, now *Session) {
	if was.Date != now.Date && !d.shifted {
		d.say(w, now.Letter, now.Date, fmt.Sprintf("on %s, it was on %s", now.Date.Words(), was.Date.Words()))
	}
	if was.Letter != now.Letter {
		d.say(w, now.Letter, now.Date, fmt.Sprintf("it was day %s", was.Letter))
	}
	d.mark(w, now.Letter, now.Date, "the session", was.Locked, now.Locked, was.Note, now.Note)
	d.items(w, now.Letter, now.Date, was.Items, now.Items)
}

func (d *differing) items(w *Week, letter programme.Letter, on civil.Date, was, now []Item) {
	of := match(len(was), len(now),
		func(i, k int) bool { return was[i].ID == now[k].ID },
		func(i, k int) bool { return was[i].Exercise == now[k].Exercise && was[i].Slot == now[k].Slot },
		func(i, k int) bool { return was[i].Exercise == now[k].Exercise })
	var came []*Item
	for k := range now {
		if of[k] < 0 {
			came = append(came, &now[k])
			continue
		}
		d.item(w, letter, on, &was[of[k]], &now[k])
	}
	var went []*Item
	for i := range was {
		if !slices.Contains(of, i) {
			went = append(went, &was[i])
		}
	}
	// What came where something of its slot went has taken its place.
	for _, it := range came {
		at := slices.IndexFunc(went, func(o *Item) bool { return o.Slot == it.Slot })
		if at < 0 {
			d.say(w, letter, on, fmt.Sprintf("%s is new: %s", it.Name, doseAndLoad(it)))
			continue
		}
		d.say(w, letter, on, fmt.Sprintf("%s instead of %s: %s", it.Name, went[at].Name, doseAndLoad(it)))
		went = slices.Delete(went, at, at+1)
	}
	for _, it := range went {
		d.say(w, letter, on, fmt.Sprintf("%s is gone", it.Name))
	}
	if len(came) == 0 && len(went) == 0 && !slices.IsSorted(of) {
		d.say(w, letter, on, "the items stand in another order")
	}
}

func doseAndLoad(it *Item) string { return strings.TrimSuffix(join(it.DoseText, it.LoadText), ", ") }

func (d *differing) item(w *Week, letter programme.Letter, on civil.Date, was, now *Item) {
	if a, b := doseAndLoad(was), doseAndLoad(now); a != b {
		d.say(w, letter, on, fmt.Sprintf("%s: %s, it was %s", now.Name, b, a))
	}
	note := was.Note
	if was.Note != now.Note {
		note = now.Note
	}
	d.mark(w, letter, on, now.Name, was.Locked, now.Locked, was.Note, note)
}

// lines are the differences in order of time, what is the same in several weeks once.
func (d *differing) lines() []Difference {
	type line struct {
		differs
		weeks []int
	}
	var lines []*line
	for _, s := range d.said {
		at := slices.IndexFunc(lines, func(l *line) bool {
			return l.words == s.words && l.letter == s.letter && !l.first.IsZero() && !s.first.IsZero()
		})
		if at < 0 {
			lines = append(lines, &line{s, []int{s.week}})
			continue
		}
		if !slices.Contains(lines[at].weeks, s.week) {
			lines[at].weeks = append(lines[at].weeks, s.week)
		}
	}
	slices.SortStableFunc(lines, func(a, b *line) int { return a.first.Sub(b.first) })
	out := []Difference{}
	for _, l := range lines {
		where := "The programme"
		if !l.first.IsZero() {
			where = weeksWords(l.weeks)
			switch {
			case l.letter == "at home":
				where += ", at home"
			case l.letter != "":
				where += ", day " + string(l.letter)
			}
		}
		out = append(out, Difference{where, upper(l.words) + ".", l.first})
	}
	return out
}

// weeksWords names weeks: "Week 2", "Weeks 1 to 3", "Weeks 1, 3".
func weeksWords(weeks []int) string {
	slices.Sort(weeks)
	switch n := len(weeks); {
	case n == 1:
		return fmt.Sprintf("Week %d", weeks[0])
	case weeks[n-1]-weeks[0] == n-1:
		return fmt.Sprintf("Weeks %d to %d", weeks[0], weeks[n-1])
	}
	var words []string
	for _, w := range weeks {
		words = append(words, fmt.Sprint(w))
	}
	return "Weeks " + strings.Join(words, ", ")
}
