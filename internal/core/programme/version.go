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
	Until  civil.Date
}

// Stands reports whether a day of the version is trained by it.
func (v Version) Stands(day civil.Date) bool {
	return !day.Before(v.First) && (v.Until.IsZero() || day.Before(v.Until))
}

// Standing returns which of a golfer's versions are trained by, in order of time. One that
// was issued later stands instead of what it was issued over, from its first day on, and
// instead of whole versions that begin behind that day.
func Standing(versions []Version) []Version {
	sorted := slices.SortedFunc(slices.Values(versions), func(a, b Version) int { return cmp.Compare(a.Number, b.Number) })
	var out []Version
	for _, v := range sorted {
		for len(out) > 0 && !out[len(out)-1].First.Before(v.First) {
			out = out[:len(out)-1]
		}
		if len(out) > 0 {
			out[len(out)-1].Until = v.First
		}
		v.Until = civil.Date{}
		out = append(out, v)
	}
	return out
}
