// Package label reads what people write over a column or beside a row of
// results: which test it is, which side, which trial, in which unit, and whether
// the numbers under it were worked out from others. Names are understood as the
// battery writes them, as trainers usually write them (also.json: common practice,
// no source), and with the slips hands make; what is only near is marked, so that
// somebody looks at it before it counts.
//
// It knows nothing of files and screens: package formats brings it headers, a
// sheet brings it what was pasted.
package label

import (
	_ "embed"
	"encoding/json"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
	text "dunnock/internal/core/words"
)

// Hand is a side as most sheets name it; whose lead it is depends on the golfer.
type Hand string

// The hands.
const (
	Left  Hand = "left"
	Right Hand = "right"
)

// Label is what a heading means. What it does not say is empty.
type Label struct {
	Test *measure.Test
	// Near is set where the test's name is not one we write or list: it has to be
	// looked at.
	Near bool
	Side measure.Side
	Hand Hand
	// Both is set where both sides are named, "L/R": the cells hold two values, that
	// of Hand or Side first.
	Both bool
	// Trial is from 1; 0 where no trial is named.
	Trial int
	Unit  unit.Unit
	// Summary is set where the numbers were worked out from others: a mean, a best,
	// a difference.
	Summary bool
	rest    []string
}

// SideFor is the side of a test the label speaks of, for a golfer who plays from
// the right or from the left; "" where the label names none.
func (l Label) SideFor(t *measure.Test, playsRight bool) measure.Side {
	if l.Side != "" || l.Hand == "" {
		return l.Side
	}
	return l.Hand.SideOf(t, playsRight)
}

// SideOf is the side of a test a hand is, for a golfer who plays from the right or
// from the left; "" of a test without sides. The lead limb of who plays from the
// right is the left one; they turn to the left toward the target; their own side to
// swing from is the right.
func (h Hand) SideOf(t *measure.Test, playsRight bool) measure.Side {
	if t.Kind == measure.Unsided {
		return ""
	}
	first := (h == Left) == playsRight
	if t.Kind == measure.Swings {
		first = !first
	}
	sides := t.Kind.Sides()
	if first {
		return sides[0]
	}
	return sides[1]
}

// Reader reads labels for one battery. It does not change once made.
type Reader struct {
	names []name
	words []string                 // of all names, each once
	exact map[string]*measure.Test // by the words of a name
}

// name is one way of writing a test's name.
type name struct {
	test  *measure.Test
	words []string
	at    []int // where each stands among the reader's
}

//go:embed also.json
var alsoJSON []byte

var also = sync.OnceValue(func() map[string][]string {
	m := map[string][]string{}
	if err := json.Unmarshal(alsoJSON, &m); err != nil {
		panic("label: also.json: " + err.Error())
	}
	return m
})

// New returns a reader of labels for a battery's tests.
func New(b *measure.Battery) *Reader {
	r := &Reader{exact: map[string]*measure.Test{}}
	at := map[string]int{}
	for i := range b.Tests() {
		t := &b.Tests()[i]
		if t.Rule == measure.Derived {
			continue
		}
		for _, text := range append([]string{t.Name, strings.ReplaceAll(t.ID, "-", " ")}, also()[t.ID]...) {
			n := name{test: t, words: split(text)}
			for _, w := range n.words {
				if _, known := at[w]; !known {
					at[w] = len(r.words)
					r.words = append(r.words, w)
				}
				n.at = append(n.at, at[w])
			}
			r.names = append(r.names, n)
			if k := strings.Join(n.words, " "); r.exact[k] == nil {
				r.exact[k] = t
			}
		}
	}
	return r
}

// Test is the test of a name of the battery's own, or of an id.
func (r *Reader) Test(id string) (*measure.Test, bool) {
	for _, n := range r.names {
		if n.test.ID == id {
			return n.test, true
		}
	}
	return nil, false
}

// Exactly is the test that is called by a name as we write it or list it.
func (r *Reader) Exactly(name string) (*measure.Test, bool) {
	t := r.exactly(split(name))
	return t, t != nil
}

var (
	bracket = regexp.MustCompile(`[(\[]([^)\]]*)[)\]]`)
	ordinal = regexp.MustCompile(`^(?:#|t|r|trial|try|rep|attempt|set)?([0-9]{1,2})(?:st|nd|rd|th)?$`)
)

var (
	hands = map[string]Hand{
		"l": Left, "lt": Left, "lft": Left, "left": Left, "lh": Left, "lhs": Left, "links": Left,
		"r": Right, "rt": Right, "rgt": Right, "right": Right, "rh": Right, "rhs": Right, "rechts": Right,
	}
	sides = map[string]measure.Side{
		"lead": measure.Side(measure.Lead), "trail": measure.Side(measure.Trail), "toward": "toward", "towards": "toward", "away": "away", "playing": "playing", "other": "other",
	}
	counted   = []string{"trial", "try", "attempt", "rep", "set", "no", "nr", "#"}
	summaries = []string{"avg", "ave", "average", "mean", "best", "max", "median", "sum", "total", "diff", "difference", "asymmetry", "asym", "sd", "cv", "change", "delta", "score"}
	filler    = []string{"test", "result", "value", "side", "hand", "leg", "arm", "in", "of", "the", "and", "deg", "pb", "foot", "limb", "measured"}
)

// Read says what a heading means; ok is false where nothing of it is understood.
func (r *Reader) Read(text string) (l Label, ok bool) {
	text = strings.ToLower(text)
	for _, m := range bracket.FindAllStringSubmatch(text, -1) {
		if u, err := unit.Parse(m[1]); err == nil && u != "" {
			l.Unit = u
			text = strings.Replace(text, m[0], " ", 1)
		}
	}
	words := split(text)
	// The whole of it first: "Grip 2" is a trial of the grip, "Turn 2" may be a name.
	if t := r.exactly(words); t != nil {
		l.Test = t
		return l, true
	}
	l.sort(words)
	l.Test, l.Near = r.find(l.rest)
	if n := len(l.rest) - 1; (l.Test == nil || l.Near) && l.Unit == "" && n >= 0 {
		if u, err := unit.Parse(l.rest[n]); err == nil && u != "" {
			if t, near := r.find(l.rest[:n]); t != nil || n == 0 {
				l.Unit, l.rest, l.Test, l.Near = u, l.rest[:n], t, near
			}
		}
	}
	ok = l.Test != nil || len(l.rest) == 0 && (l.Side != "" || l.Hand != "" || l.Trial > 0 || l.Unit != "" || l.Summary)
	if !ok {
		return Label{Unit: l.Unit}, false
	}
	return l, true
}

// With is a label completed by another: what it does not say itself is taken from
// there.
func (l Label) With(o Label) Label {
	if l.Test == nil {
		l.Test, l.Near = o.Test, o.Near
	}
	if l.Side == "" && l.Hand == "" {
		l.Side, l.Hand, l.Both = o.Side, o.Hand, o.Both
	}
	if l.Trial == 0 {
		l.Trial = o.Trial
	}
	if l.Unit == "" {
		l.Unit = o.Unit
	}
	l.Summary = l.Summary || o.Summary
	return l
}

// sort puts the words that say side, trial and summary where they belong; what
// is left is the test's name.
func (l *Label) sort(words []string) {
	l.rest = nil
	words = apart(words)
	for i := 0; i < len(words); i++ {
		w := words[i]
		h, isHand := hands[w]
		s, isSide := sides[w]
		number := ordinal.FindStringSubmatch(w)
		switch {
		case isHand && l.Hand == "":
			l.Hand = h
		case isSide && l.Side == "":
			l.Side = s
		case isHand && l.Side == "" && h != l.Hand, isSide && l.Hand == "" && s != l.Side:
			l.Both = true
		case slices.Contains(counted, w) && i+1 < len(words) && ordinal.MatchString(words[i+1]):
			// It says that the next word is a trial.
		case number != nil && l.Trial == 0 && number[1] != "0" && (i == len(words)-1 || len(w) > len(number[1]) || i > 0 && slices.Contains(counted, words[i-1])):
			l.Trial, _ = strconv.Atoi(number[1])
		case slices.Contains(summaries, w):
			l.Summary = true
		case slices.Contains(filler, w):
		default:
			l.rest = append(l.rest, w)
		}
	}
}

var handTrial = regexp.MustCompile(`^(l|r|lt|rt|left|right)([1-9])$`)

// apart sets a hand and a trial that are written as one word apart: "L1".
func apart(words []string) []string {
	var out []string
	for _, w := range words {
		if m := handTrial.FindStringSubmatch(w); m != nil {
			out = append(out, m[1], "trial", m[2])
			continue
		}
		out = append(out, w)
	}
	return out
}

func (r *Reader) exactly(words []string) *measure.Test { return r.exact[strings.Join(words, " ")] }

// Two names are near enough from this share of their words on; the best must be
// better than the next test by the margin.
const (
	nearEnough = 0.6
	margin     = 0.1
	maxName    = 8 // words; no test has more
)

// find is the test whose name the words are nearest to.
func (r *Reader) find(words []string) (t *measure.Test, near bool) {
	if len(words) == 0 || len(words) > maxName {
		return nil, false
	}
	if t := r.exactly(words); t != nil {
		return t, false
	}
	// Names share their words: each is compared once.
	like := make([][]float64, len(words))
	for i, w := range words {
		like[i] = make([]float64, len(r.words))
		for j, v := range r.words {
			like[i][j] = fellow(w, v)
		}
	}
	best, next := 0.0, 0.0
	for _, n := range r.names {
		s := alike(like, n.at)
		switch {
		case s > best && n.test != t:
			next, best, t = best, s, n.test
		case s > best:
			best = s
		case n.test != t && s > next:
			next = s
		}
	}
	if best < nearEnough || best-next < margin {
		return nil, false
	}
	return t, true
}

// alike is the share of two names' words that have a fellow in the other: like says
// of each word of the one how far it is the same as any, at which of these the other
// is made of.
func alike(like [][]float64, at []int) float64 {
	var used [maxWords]bool
	matched := 0.0
	for _, row := range like {
		fellow, best := -1, 0.0
		for j, v := range at {
			if s := row[v]; !used[j] && s > best {
				fellow, best = j, s
			}
		}
		if fellow >= 0 {
			used[fellow] = true
			matched += best
		}
	}
	return 2 * matched / float64(len(like)+len(at))
}

// fellow says how far two words are the same: whole, cut short, or with a slip of
// the hand.
func fellow(a, b string) float64 {
	short, long := a, b
	if len(short) > len(long) {
		short, long = long, short
	}
	switch {
	case a == b:
		return 1
	case strings.TrimSuffix(long, "s") == short:
		return 1
	case len(short) >= 3 && strings.HasPrefix(long, short):
		return 0.85
	case len(long)-len(short) > 2: // and never the cost of comparing what somebody pasted as one word
	case len(short) >= 4 && text.Within(a, b, 1), len(short) >= 10 && text.Within(a, b, 2):
		return 0.85
	}
	return 0
}

// split takes a text apart into words: letters and digits, lower case, at most
// a few of them.
func split(text string) []string {
	words := strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !strings.ContainsRune("#°%", r)
	})
	return words[:min(len(words), maxWords)]
}

const maxWords = 16

var unitInBrackets = regexp.MustCompile(`[(\[]([^)\]]+)[)\]]`)

// UnitOf is the unit a column is headed with, in brackets or as its last word, or
// "".
func UnitOf(heading string) unit.Unit {
	heading = strings.ToLower(heading)
	if x := unitInBrackets.FindStringSubmatch(heading); x != nil {
		if u, err := unit.Parse(x[1]); err == nil {
			return u
		}
	}
	parts := strings.FieldsFunc(heading, func(r rune) bool { return strings.ContainsRune(" _-.,", r) })
	if len(parts) < 2 {
		return ""
	}
	switch last := parts[len(parts)-1]; last {
	case "m", "s", "n", "v", "w", "in", "min", "rep", "reps": // words and sides too
		return ""
	default:
		u, err := unit.Parse(last)
		if err != nil {
			return ""
		}
		return u
	}
}
