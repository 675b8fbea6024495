// Package naming says which golfer is meant by a name as somebody wrote it: last
// name first, with initials, with a slip of the hand. What is written in full in
// another order is the same name; everything else is only near, and somebody has
// to say once whom it means.
package naming

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"dunnock/internal/core/words"
)

// Person is somebody with the names they go by, the one they are called by first.
type Person struct {
	ID    string
	Names []string
}

// Match is who may be meant.
type Match struct {
	// Same are those with this very name, however its words are ordered.
	Same []Person
	// Near are those with a name like it, the nearest first, at most maxNear; empty
	// where Same is not.
	Near []Person
}

const (
	maxNear  = 5
	maxWords = 8
)

// Book finds people by name. It does not change once made.
type Book struct {
	people []entry
	same   map[string][]int
	// like are people by what a part of a name that is near to one of theirs has in
	// common with it.
	like map[string][]int
}

type entry struct {
	person Person
	names  [][]string
}

// New returns a book of people.
func New(people []Person) *Book {
	b := &Book{same: map[string][]int{}, like: map[string][]int{}}
	put := func(m map[string][]int, k string, i int) {
		if at := m[k]; len(at) == 0 || at[len(at)-1] != i {
			m[k] = append(at, i)
		}
	}
	for i, p := range people {
		e := entry{person: p}
		for _, n := range p.Names {
			w := split(n)
			if len(w) == 0 {
				continue
			}
			e.names = append(e.names, w)
			put(b.same, key(w), i)
			put(b.like, initialsOf(w), i)
			for _, part := range w {
				for _, k := range marks(part) {
					put(b.like, k, i)
				}
			}
		}
		b.people = append(b.people, e)
	}
	return b
}

// marks are what a part of a name shares with one that is near to it: a slip of the
// hand leaves the beginning, the end or both outer letters as they were.
func marks(part string) []string {
	r := []rune(part)
	n := len(r)
	if n < 3 {
		return []string{"=" + part}
	}
	return []string{"^" + string(r[:2]), "$" + string(r[n-2:]), "~" + string([]rune{r[0], r[n-1]})}
}

// initialsOf is the first letters of a name's parts, as a key.
func initialsOf(w []string) string {
	out := []rune{'*'}
	for _, part := range w {
		out = append(out, []rune(part)[0])
	}
	return string(out)
}

// common is how many people share a mark that tells nothing: "Guest 1", "Guest 2".
const common = 400

// candidates are those whose names have a part that may be near to one of these.
// Marks that very many share are passed over: the other part of the name tells.
func (b *Book) candidates(w []string) []int {
	seen := map[int]bool{}
	look := func(k string) {
		if at := b.like[k]; len(at) <= common {
			for _, i := range at {
				seen[i] = true
			}
		}
	}
	for _, part := range w {
		for _, k := range marks(part) {
			look(k)
		}
	}
	if len(w) == 1 {
		look("*" + w[0])
	}
	return slices.Sorted(maps.Keys(seen))
}

// Find says who is meant by a name.
func (b *Book) Find(written string) Match {
	w := split(written)
	var m Match
	if len(w) == 0 {
		return m
	}
	for _, i := range b.same[key(w)] {
		m.Same = append(m.Same, b.people[i].person)
	}
	if m.Same != nil {
		return m
	}
	type scored struct {
		at    int
		score float64
	}
	var near []scored
	for _, i := range b.candidates(w) {
		best := 0.0
		for _, n := range b.people[i].names {
			best = max(best, alike(w, n))
		}
		if best > 0 {
			near = append(near, scored{i, best})
		}
	}
	slices.SortStableFunc(near, func(x, y scored) int { return cmp.Compare(y.score, x.score) })
	for _, s := range near[:min(len(near), maxNear)] {
		m.Near = append(m.Near, b.people[s.at].person)
	}
	return m
}

// Same reports whether two names are the same whatever the order of their words.
func Same(a, b string) bool {
	x, y := split(a), split(b)
	return len(x) > 0 && key(x) == key(y)
}

// key is the words of a name in an order of their own.
func key(w []string) string {
	w = slices.Sorted(slices.Values(w))
	return strings.Join(w, " ")
}

// How near a part of a name is to a part of another.
const (
	whole   = 1.0
	slip    = 0.8
	short   = 0.6 // "Tom" for Thomas, cut short
	initial = 0.5
	missing = 0.3 // a part the other does not have: a middle name
)

// alike is how near two names are, 0 for not at all: every part of the one with
// fewer has a fellow in the other, and one of them at least is more than an
// initial. Two initials alone are near to the name that begins so.
func alike(a, b []string) float64 {
	if len(a) > len(b) {
		a, b = b, a
	}
	if len(a) == 1 && len([]rune(a[0])) == len(b) && len(b) > 1 && initials(a[0], b) {
		return initial
	}
	used := make([]bool, len(b))
	sum, strongest := 0.0, 0.0
	for _, w := range a {
		at, best := -1, 0.0
		for j, v := range b {
			if s := fellow(w, v); !used[j] && s > best {
				at, best = j, s
			}
		}
		if at < 0 {
			return 0
		}
		used[at] = true
		sum += best
		strongest = max(strongest, best)
	}
	if strongest <= initial || len(a) == 1 && strongest < slip {
		return 0
	}
	return (sum + missing*float64(len(b)-len(a))) / float64(len(b))
}

func initials(letters string, names []string) bool {
	for i, r := range []rune(letters) {
		if first := []rune(names[i])[0]; first != r {
			return false
		}
	}
	return true
}

func fellow(a, b string) float64 {
	x, y := []rune(a), []rune(b)
	if len(x) > len(y) {
		x, y, a, b = y, x, b, a
	}
	switch {
	case a == b:
		return whole
	case !unicode.IsLetter(x[0]) || !unicode.IsLetter(y[0]):
		return 0 // numbers are the same or they are not
	case len(x) == 1 && x[0] == y[0]:
		return initial
	case len(x) >= 4 && words.Within(a, b, 1), len(x) >= 8 && words.Within(a, b, 2):
		return slip
	case len(x) >= 3 && strings.HasPrefix(b, a):
		return short
	}
	return 0
}

// split is the words of a name without case, marks and accents; of "Brae, Torquil"
// the same as of "Torquil Brae" but for the order. What stands in brackets is no
// part of it.
func split(name string) []string {
	if i := strings.IndexAny(name, "(["); i > 0 {
		name = name[:i]
	}
	folded := strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Mn, r) {
			return -1
		}
		return unicode.ToLower(r)
	}, norm.NFD.String(name))
	w := strings.FieldsFunc(folded, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '\'' && r != '’' })
	return w[:min(len(w), maxWords)]
}
