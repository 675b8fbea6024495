package plan_test

import (
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/school"
	"dunnock/internal/core/testkit"
)

// unlimited are golfers of level 2 to 4 without limits, with full kit and 3 × 60 minutes.
func unlimited(n int) []*athlete.File {
	var out []*athlete.File
	for seed := uint64(0); len(out) < n; seed++ {
		r := rand.New(rand.NewPCG(seed, 13))
		f := drawn(r)
		f.Athlete.BirthDate = testkit.Day.Add(-(20*366 + r.IntN(35*365)))
		f.Athlete.TrainingMonths, f.Athlete.Advanced = []int{8, 20, 40, 90}[r.IntN(4)], r.IntN(2) == 0
		f.Limits, f.Competitions = nil, nil
		f.Training.Kit, f.Training.Sessions, f.Training.Minutes, f.Training.Days = testkit.FullKit(), 3, 60, []string{"mon", "wed", "fri"}
		f.OffWeeks, f.AcceptedJoints, f.Pinches = 0, nil, nil
		for i := range f.Screens {
			for k := range f.Screens[i].Trials {
				f.Screens[i].Trials[k].Pain = 0
			}
		}
		b, err := plan.BasisOf(f, method.Shipped())
		if err == nil && b.Facts.Level >= 2 && len(b.Facts.Limits) == 0 && b.Facts.Clearance.MayExert() {
			out = append(out, f)
		}
	}
	return out
}

// second is a golfer's second block under a school.
func second(t *testing.T, f *athlete.File, id string) *plan.Judged {
	t.Helper()
	own := *f
	own.School = id
	b, err := plan.BasisOf(&own, method.Shipped())
	require.NoError(t, err)
	j, err := b.Generate("t")
	require.NoError(t, err)
	return next(t, &own, &plan.Result{Doc: j.Doc})
}

// risingOf is the mean of a rising week.
func risingOf(j *plan.Judged, of func(minutes map[string]float64, swings float64) float64) float64 {
	sum, n, i := 0.0, 0.0, 0
	for bi := range j.View.Blocks {
		for wi := range j.View.Blocks[bi].Weeks {
			w := &j.View.Blocks[bi].Weeks[wi]
			if w.Kind == programme.Rising {
				minutes := map[string]float64{}
				for _, a := range j.Answer {
					minutes[a.Quality] = a.MinutesPerWeek[i]
				}
				sum += of(minutes, float64(w.Totals.Swings))
				n++
			}
			i++
		}
	}
	return sum / max(n, 1)
}

// Schools differ where they claim to (handbook: schools, compare; minimal differences over
// unlimited golfers of levels 2 to 4, three hours a week, second block).
func TestSchoolsDifferWhereTheyClaimTo(t *testing.T) {
	n := 40
	if os.Getenv("DUNNOCK_GOLFERS") != "" {
		n, _ = strconv.Atoi(os.Getenv("DUNNOCK_GOLFERS"))
	}
	golfers := unlimited(n)
	of := func(names ...string) func(map[string]float64, float64) float64 {
		return func(m map[string]float64, _ float64) float64 {
			sum := 0.0
			for _, q := range names {
				sum += m[q]
			}
			return sum
		}
	}
	swings := func(_ map[string]float64, n float64) float64 { return n }
	type sum struct{ s, vh, r, m, w float64 }
	sums := map[string]*sum{}
	far := map[string]int{}
	plans := make([]map[string]*plan.Judged, len(golfers))
	for i, f := range golfers {
		plans[i] = map[string]*plan.Judged{}
		for _, s := range school.Shipped().All() {
			j := second(t, f, s.ID)
			plans[i][s.ID] = j
			if sums[s.ID] == nil {
				sums[s.ID] = &sum{}
			}
			x := sums[s.ID]
			x.s += risingOf(j, of(quality.MaximalStrength))
			x.vh += risingOf(j, of(quality.VerticalPower, quality.HorizontalPower))
			x.r += risingOf(j, of(quality.RotationalPower))
			x.m += risingOf(j, of(quality.Mobility))
			x.w += risingOf(j, swings)
		}
		for a := range plans[i] {
			for b := range plans[i] {
				if a < b && plan.Distance(plans[i][a], plans[i][b]) >= 8 {
					far[a+" "+b]++
				}
			}
		}
	}
	base := sums["measured-gap"]
	for id, x := range sums {
		t.Logf("%-18s S %.2f V+H %.2f R %.2f M %.2f swings %.2f", id, x.s/base.s, x.vh/base.vh, x.r/base.r, x.m/base.m, x.w/base.w)
	}
	// The page's 8% for 95 of 100 does not hold for every pair: what leads and is built is
	// the read's, with doses inside the same ranges, so that schools near each other are
	// told apart by what they raise and by free minutes alone (docs/methods.md).
	for pair, least := range map[string]float64{
		"layer-on-layer lengthen-first": 0.9, "layer-on-layer measured-gap": 0.8, "layer-on-layer predictor-led": 0.6, "layer-on-layer strength-first": 0.7,
		"layer-on-layer swing-led-speed": 0.9, "lengthen-first measured-gap": 0.7, "lengthen-first predictor-led": 0.9, "lengthen-first strength-first": 0.85,
		"lengthen-first swing-led-speed": 0.9, "measured-gap predictor-led": 0.6, "measured-gap strength-first": 0.35, "measured-gap swing-led-speed": 0.9,
		"predictor-led strength-first": 0.7, "predictor-led swing-led-speed": 0.9, "strength-first swing-led-speed": 0.9,
	} {
		t.Logf("%-32s %3d of %d at 8%% and more", pair, far[pair], n)
		assert.GreaterOrEqual(t, float64(far[pair]), least*float64(n), pair)
	}
	assert.GreaterOrEqual(t, sums["strength-first"].s, 1.3*base.s, "strength")
	assert.GreaterOrEqual(t, sums["predictor-led"].vh, 1.25*base.vh, "jumps and pushes")
	assert.LessOrEqual(t, sums["predictor-led"].r, base.r, "turning")
	assert.GreaterOrEqual(t, sums["lengthen-first"].m, 1.4*base.m, "range")
	assert.GreaterOrEqual(t, sums["swing-led-speed"].w, 1.5*base.w, "swings")
}

// Over twelve weeks, three blocks one behind the other, Strength first and Layer on layer
// give their minutes to other things: the distance of their sums (docs/methods.md).
func TestStrengthAndLayerOverTwelveWeeks(t *testing.T) {
	n := 24
	if golfers, err := strconv.Atoi(os.Getenv("DUNNOCK_GOLFERS")); err == nil {
		n = golfers
	}
	year := func(f *athlete.File, id string) map[string]float64 {
		own := *f
		own.School = id
		sum := map[string]float64{}
		var last *programme.Programme
		for range 3 {
			b, err := plan.BasisOf(&own, method.Shipped())
			require.NoError(t, err)
			if last != nil {
				b = b.After(last)
			}
			j, err := b.Generate("t")
			require.NoError(t, err)
			for _, a := range j.Answer {
				for _, m := range a.MinutesPerWeek {
					sum[a.Quality] += m
				}
			}
			last, own.StartDate = j.Doc, own.StartDate.Add(28)
		}
		return sum
	}
	far := 0
	var distances []float64
	for _, f := range unlimited(n) {
		a, b := year(f, "strength-first"), year(f, "layer-on-layer")
		apart, all := 0.0, 0.0
		for q := range a {
			apart += math.Abs(a[q] - b[q])
			all += a[q] + b[q]
		}
		d := 100 * apart / 2 / (all / 2)
		distances = append(distances, d)
		if d >= 8 {
			far++
		}
	}
	slices.Sort(distances)
	t.Logf("%d of %d at 8%% and more; least %.1f, middle %.1f", far, n, distances[0], distances[n/2])
	assert.GreaterOrEqual(t, float64(far), 0.85*float64(n))
}

// Two schools side by side: what leads, what is given, and why; the words name both.
func TestSchoolsAreCompared(t *testing.T) {
	f := unlimited(1)[0]
	c, err := plan.Compare(f, method.Shipped(), "measured-gap", "swing-led-speed")
	require.NoError(t, err)
	assert.Equal(t, "Measured gap", c.A.Name)
	assert.Greater(t, c.B.Swings, 1.5*c.A.Swings)
	assert.Greater(t, c.DistancePercent, 8.0)
	assert.Len(t, c.A.Sessions, 3)
	assert.NotEmpty(t, c.Sentences)
	assert.Contains(t, c.Sentences[0], "lead")
	found := false
	for _, s := range c.Sentences {
		found = found || strings.Contains(s, "Swing-led speed gives") && strings.Contains(s, "more")
	}
	assert.True(t, found, "%v", c.Sentences)
	same, err := plan.Compare(f, method.Shipped(), "measured-gap", "measured-gap")
	require.NoError(t, err)
	assert.Zero(t, same.DistancePercent)
	_, err = plan.Compare(f, method.Shipped(), "measured-gap", "byre")
	require.ErrorContains(t, err, "there is no school")
}

// A school says for whom it is not, as far as the file tells.
func TestASchoolSaysForWhomItIsNot(t *testing.T) {
	f := testkit.Weak()
	for id, want := range map[string]string{
		"predictor-led": "for level 2 and more", "strength-first": "", "layer-on-layer": "", "measured-gap": "", "swing-led-speed": "for level 2 and more",
	} {
		f.School = id
		b, err := plan.BasisOf(f, method.Shipped())
		require.NoError(t, err)
		if want == "" {
			assert.Empty(t, b.Outside(), id)
		} else {
			assert.Contains(t, strings.Join(b.Outside(), " "), want, id)
		}
	}
	f = testkit.Strong()
	f.School = "predictor-led"
	f.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.NoImpact, SetBy: "physio"}}
	b, err := plan.BasisOf(f, method.Shipped())
	require.NoError(t, err)
	assert.Contains(t, strings.Join(b.Outside(), " "), "knee")
}
