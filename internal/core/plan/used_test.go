package plan_test

import (
	"maps"
	"math/rand/v2"
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/testkit"
)

// used adds what a programme holds to a set.
func used(doc *programme.Programme, by map[string]int) {
	seen := map[string]bool{}
	doc.EachItem(func(it *programme.Item) { seen[it.Exercise] = true })
	for id := range seen {
		by[id]++
	}
}

// short gives every trial of a test one value.
func short(f *athlete.File, test string, v float64) {
	f.Screens[0].Trials = slices.DeleteFunc(f.Screens[0].Trials, func(tr measure.Trial) bool { return tr.Test == test })
	t, _ := measure.Shipped().Find(test)
	for _, side := range t.Kind.Sides() {
		for n := 1; n <= t.Trials; n++ {
			f.Screens[0].Trials = append(f.Screens[0].Trials, measure.Trial{Test: test, Side: side, Number: n, Status: measure.Done, Value: v, Variant: f.Athlete.ReferenceVariant(testkit.Day)(t)})
		}
	}
}

// gaps makes a golfer clearly short of a quality, or of joints.
var gaps = map[string]func(*athlete.File){
	quality.Mobility:        func(f *athlete.File) { short(f, "hip-ir", 20); short(f, "thoracic-rotation", 38) },
	quality.Grip:            func(f *athlete.File) { short(f, "grip", 30) },
	quality.VerticalPower:   func(f *athlete.File) { short(f, "cmj", 24) },
	quality.HorizontalPower: func(f *athlete.File) { short(f, "chest-throw", 3.2) },
	quality.RotationalPower: func(f *athlete.File) { short(f, "rotary-throw", 5) },
	quality.Separation:      func(f *athlete.File) { short(f, "turn-chest", 20); short(f, "turn-pelvis", 20) },
	quality.Control:         func(f *athlete.File) { short(f, "stance-open", 12); short(f, "stance-closed", 3) },
	quality.GroundForce: func(f *athlete.File) {
		short(f, "swing-lateral", 0.1)
		short(f, "swing-rotational", 0.3)
		short(f, "swing-vertical", 1.1)
	},
	quality.StretchUse: func(f *athlete.File) { short(f, "cmj", 40); short(f, "sj", 41) },
	"joints": func(f *athlete.File) {
		short(f, "side-bend", 10)
		short(f, "neck-rotation", 40)
		short(f, "ankle-lunge", 5)
	},
	"arms": func(f *athlete.File) {
		short(f, "shoulder-er", 50)
		short(f, "shoulder-ir", 30)
		short(f, "forearm-pronation", 50)
		short(f, "wrist-radial", 8)
	},
}

// drawn is a golfer with one quality or two clearly short, and some kit, level and limit.
func drawn(r *rand.Rand) *athlete.File {
	if r.IntN(3) == 0 {
		return testkit.Random(r)
	}
	f := testkit.Sound()
	f.Athlete.Name = "Golfer " + strconv.Itoa(r.IntN(1000))
	f.Athlete.TrainingMonths, f.Athlete.Advanced = []int{1, 8, 20, 40, 90}[r.IntN(5)], r.IntN(2) == 0
	f.Athlete.BirthDate = testkit.Day.Add(-(18*366 + r.IntN(56*365)))
	kits := [][]string{nil, {"band"}, {"stick", "band"}, {"dumbbells", "bench"}, {"box"}, {"cable", "light club", "club"}, testkit.FullKit(), testkit.FullKit()}
	f.Training.Kit = kits[r.IntN(len(kits))]
	if r.IntN(3) == 0 {
		f.Training.Kit = slices.DeleteFunc(testkit.FullKit(), func(string) bool { return r.IntN(2) == 0 })
	}
	f.Training.KitAt = map[string][]string{athlete.AtHome: kits[r.IntN(3)]}
	f.Training.Sessions, f.Training.Minutes = 1+r.IntN(4), 30+15*r.IntN(4)
	f.Training.Days = []string{"mon", "wed", "fri", "sun"}
	if r.IntN(4) == 0 {
		regions := measure.Regions()
		f.Limits = append(f.Limits, athlete.Limit{Region: regions[r.IntN(len(regions))], Kind: athlete.LimitKinds()[r.IntN(7)], CapKg: 60, SetBy: "doctor"})
	}
	made := slices.Sorted(maps.Keys(gaps))
	for range 1 + r.IntN(2) {
		gaps[made[r.IntN(len(made))]](f)
	}
	return f
}

// Over 500 golfers and two blocks each, nine of ten exercises are chosen by somebody.
func TestMostOfTheLibraryIsUsed(t *testing.T) {
	by := map[string]int{}
	schools := method.Shipped().Schools.All()
	for seed := range uint64(500) {
		f := drawn(rand.New(rand.NewPCG(seed, 41)))
		f.School = schools[seed%uint64(len(schools))].ID
		b, err := plan.BasisOf(f, method.Shipped())
		require.NoError(t, err)
		j, err := b.Generate("t")
		if err != nil {
			continue
		}
		used(j.Doc, by)
		used(next(t, f, &plan.Result{Doc: j.Doc}).Doc, by)
	}
	all := library.Shipped().All()
	assert.GreaterOrEqual(t, 10*len(by), 9*len(all), "%d of %d", len(by), len(all))
	// The rest have a golfer made for them.
	for i := range all {
		if e := &all[i]; by[e.ID] == 0 && !e.ByHand && !findsItsGolfer(t, e) {
			t.Errorf("nobody gets %s (level %d, %v, kit %v, %v)", e.ID, e.Level, e.Slots, e.Kit, e.Serves)
		}
	}
}

// findsItsGolfer reports whether an exercise is chosen for one of some golfers made for
// it: with its kit and its level, short of what it serves and of something else, under a
// limit it is there for.
func findsItsGolfer(t *testing.T, e *library.Exercise) bool {
	t.Helper()
	months := map[athlete.Level]int{1: 1, 2: 8, 3: 36, 4: 90}[e.Level]
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 42))
		f := testkit.Sound()
		f.Athlete.Name = "Golfer " + strconv.Itoa(int(seed))
		f.Athlete.TrainingMonths, f.Athlete.Advanced = months, e.Level == 4
		f.Athlete.BirthDate = testkit.Day.Add(-30 * 366)
		if r.IntN(2) == 0 {
			f.Training.Kit = e.Kit
		}
		for _, region := range e.Rehab {
			f.Limits = append(f.Limits, athlete.Limit{Region: region, Kind: athlete.NoMaximalEffort, SetBy: "physio"})
		}
		made := slices.Sorted(maps.Keys(gaps))
		gaps[made[r.IntN(len(made))]](f)
		if seed%2 == 1 {
			gaps[made[r.IntN(len(made))]](f)
		}
		for q, w := range e.Serves {
			if gap, ok := gaps[q]; ok && w >= 0.5 && seed%2 == 0 {
				gap(f)
			}
		}
		by := map[string]int{}
		used(generate(t, f).Doc, by)
		if by[e.ID] > 0 {
			return true
		}
	}
	return false
}
