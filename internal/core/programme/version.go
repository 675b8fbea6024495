package programme

import (
	"cmp"
	"slices"

	"dunnock/internal/core/civil"
)

// Version is an issued programme and the days it stands for: from its first day to the day
// before Until, or for ever where that is zero.
type Version struct {
	ID     string
	Number int // later versions have higher ones
	First  civil.Date
	Weeks  int // of its document
	Until  civil.Date
}

// Stands reports whether a day of the version is trained by it.
func (v Version) Stands(day civil.Date) bool {
	return !day.Before(v.First) && (v.Until.IsZero() || day.Before(v.Until))
}

// Standing returns which of a golfer's versions are trained by, in order of time. One that
// was issued later stands instead of what it was issued over, from its first day on, and
// instead of whole versions that begin within its weeks. A block issued ahead that begins
// behind its last week stays.
func Standing(versions []Version) []Version {
	sorted := slices.SortedFunc(slices.Values(versions), func(a, b Version) int { return cmp.Compare(a.Number, b.Number) })
	var out []Version
	for _, v := range sorted {
		over := v.First.Monday().Add(7 * v.Weeks)
		out = slices.DeleteFunc(out, func(x Version) bool {
			return x.First == v.First || x.First.After(v.First) && x.First.Before(over)
		})
		out = append(out, v)
	}
	slices.SortFunc(out, func(a, b Version) int { return a.First.Sub(b.First) })
	for i := range out {
		out[i].Until = civil.Date{}
		if i+1 < len(out) {
			out[i].Until = out[i+1].First
		}
	}
	return out
}
