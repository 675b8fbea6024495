package quality

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
)

// Source: check values section 12, five implements: slope -44, 95% -50.36489 to -37.63511.
func TestLineOf(t *testing.T) {
	l, ok := lineOf([]pair{{0.250, 52.6}, {0.280, 51.3}, {0.310, 49.8}, {0.340, 48.9}, {0.370, 47.2}})
	require.True(t, ok)
	assert.InDelta(t, -44, l.slope, 1e-6)
	assert.InDelta(t, -50.36489, l.low, 1e-5)
	assert.InDelta(t, -37.63511, l.high, 1e-5)
	_, ok = lineOf([]pair{{1, 40}, {1, 41}, {1, 42}})
	assert.False(t, ok, "golfers who do not differ say nothing")
}

// jumper is a golfer of a squad: a jump, and a driver speed so many days later.
func jumper(name string, jump, speed float64, later int) *athlete.File {
	day := civil.MustParse("2026-11-02")
	screen := athlete.Screen{Date: day, Trials: []measure.Trial{
		{Test: "mass", Number: 1, Status: measure.Done, Value: 80},
		{Test: "cmj", Number: 1, Status: measure.Done, Value: jump},
		{Test: "cmj", Number: 2, Status: measure.Done, Value: jump},
		{Test: "cmj", Number: 3, Status: measure.Done, Value: jump},
		{Test: "hip-ir", Side: "lead", Number: 1, Status: measure.Done, Value: 20},
	}}
	f := &athlete.File{
		Format: athlete.Format, AsOf: day.Add(later),
		Athlete: athlete.Profile{Name: name, BirthDate: civil.MustParse("1990-05-01"), Sex: athlete.Male, PlayingSide: athlete.RightSided},
		Screens: []athlete.Screen{screen, {Date: day.Add(later), Trials: []measure.Trial{
			{Test: driverSpeed, Number: 1, Status: measure.Done, Value: speed}, {Test: driverSpeed, Number: 2, Status: measure.Done, Value: speed},
		}}},
	}
	return f
}

func squadOf(n, later int) *Squad {
	var files []*athlete.File
	for i := range n {
		jump := 28 + float64(i)
		files = append(files, jumper(fmt.Sprintf("G%d", i), jump, 30+0.4*jump+float64(i%3-1), later))
	}
	return SquadOf(files)
}

func leads(t *testing.T, r *Read) *Standing {
	t.Helper()
	require.NotEmpty(t, r.Leaders)
	return find(r.Qualities, r.Leaders[0])
}

func TestWorthComesFromTheSquadFromTwentyGolfersOn(t *testing.T) {
	s, err := school.Shipped().Find("measured-gap")
	require.NoError(t, err)
	f := jumper("Aila Voe", 26, 42, 0)
	few := leads(t, Compute(f, s, squadOf(19, 0)))
	require.Equal(t, VerticalPower, few.ID)
	assert.Equal(t, "published", few.Worth.From)
	w := leads(t, Compute(f, s, squadOf(20, 0))).Worth
	require.Equal(t, "squad", w.From)
	assert.Equal(t, 20, w.Golfers)
	// 40 cm is wanted of a man: 14 cm short at about 0.4 m/s a cm.
	assert.Less(t, w.Low, 5.6)
	assert.Greater(t, w.High, 5.6)
	assert.Contains(t, w.Sentence, "an upper bound")
	assert.Equal(t, "published", leads(t, Compute(f, s, squadOf(20, 100))).Worth.From, "a speed of 100 days later is not of the same golfer")
	young := *f
	young.Athlete.BirthDate = civil.MustParse("2010-05-01")
	if r := Compute(&young, s, squadOf(20, 0)); len(r.Leaders) > 0 {
		assert.NotEqual(t, "squad", leads(t, r).Worth.From, "a junior is set beside nobody")
	}
}

// By hand: r 0.5 in 48 golfers is 0.251 to 0.686 by Fisher's z (atanh 0.5 = 0.5493 ± 1.96/√45
// = 0.2922); a gap of 2.33 spreads × 4 m/s gives 2.34 to 6.39 m/s; 2 and 2.5 yd a mph of it.
func TestWorthOfWhatIsPublished(t *testing.T) {
	s, err := school.Shipped().Find("measured-gap")
	require.NoError(t, err)
	st := leads(t, Compute(jumper("Aila Voe", 26, 42, 0), s, nil))
	assert.InDelta(t, 0.2510*st.Gap*4, st.Worth.Low, 0.01)
	assert.InDelta(t, 0.6863*st.Gap*4, st.Worth.High, 0.02)
	assert.InDelta(t, st.Worth.Low/0.44704*2*0.9144, st.Worth.CarryLow, 0.51)
	assert.Contains(t, st.Worth.Source, "from memory")
	assert.Contains(t, st.Worth.Basis, "Published")
}

func TestWorthOfMobilityAndGripWithoutASquadIsNotSaid(t *testing.T) {
	s, err := school.Shipped().Find("measured-gap")
	require.NoError(t, err)
	c := newComputer(jumper("Aila Voe", 50, 42, 0), s)
	r := c.read()
	for _, id := range []string{Mobility, Grip} {
		assert.Nil(t, c.worthOf(find(r.Qualities, id)), id)
	}
}
