package programme_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
)

// The later version stands: over one of the same day, from its first day on over one that
// began before, and over whole ones that begin within its weeks; a block issued ahead stays.
func TestWhichVersionStands(t *testing.T) {
	day := civil.MustParse("2026-11-30")
	v := func(number, first int) programme.Version {
		return programme.Version{Number: number, First: day.Add(first), Weeks: 4}
	}
	by := func(versions []programme.Version, on int) (numbers []int) {
		for _, x := range programme.Standing(versions) {
			if x.Stands(day.Add(on)) {
				numbers = append(numbers, x.Number)
			}
		}
		return numbers
	}
	assert.Empty(t, programme.Standing(nil))
	for name, x := range map[string]struct {
		versions []programme.Version
		on       int
		want     []int
	}{
		"before the first":             {[]programme.Version{v(1, 0)}, -1, nil},
		"on its first day":             {[]programme.Version{v(1, 0)}, 0, []int{1}},
		"issued again":                 {[]programme.Version{v(2, 0), v(1, 0)}, 3, []int{2}},
		"the block before":             {[]programme.Version{v(1, 0), v(2, 28)}, 27, []int{1}},
		"the next block":               {[]programme.Version{v(1, 0), v(2, 28)}, 28, []int{2}},
		"changed from the middle":      {[]programme.Version{v(1, 0), v(2, 14)}, 13, []int{1}},
		"and from there on":            {[]programme.Version{v(1, 0), v(2, 14)}, 20, []int{2}},
		"a later one for earlier days": {[]programme.Version{v(1, 0), v(2, 28), v(3, 14)}, 30, []int{3}},
		"leaves what was before it":    {[]programme.Version{v(1, 0), v(2, 28), v(3, 14)}, 5, []int{1}},
		"the running block again":      {[]programme.Version{v(1, 0), v(2, 28), v(3, 0)}, 10, []int{3}},
		"leaves the block ahead":       {[]programme.Version{v(1, 0), v(2, 28), v(3, 0)}, 30, []int{2}},
		"and again the block ahead":    {[]programme.Version{v(1, 0), v(2, 28), v(3, 0), v(4, 28)}, 30, []int{4}},
		"and both end where they did":  {[]programme.Version{v(1, 0), v(2, 28), v(3, 0), v(4, 28)}, 27, []int{3}},
	} {
		assert.Equal(t, x.want, by(x.versions, x.on), name)
	}
}
