package jump_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/twoplates"
)

func noise(sd float64) twoplates.Noise {
	return twoplates.Noise{SDN: sd, Normal: rand.New(rand.NewPCG(1, 2)).NormFloat64}
}

// after appends one recording to another, from a sample on.
func after(r, next *force.Recording, from int) *force.Recording {
	r.Lead.UpN = append(r.Lead.UpN, next.Lead.UpN[from:]...)
	r.Trail.UpN = append(r.Trail.UpN, next.Trail.UpN[from:]...)
	return r
}

// What goes wrong with a trial is said, and the height is right or missing.
func TestFlags(t *testing.T) {
	usual := twoplates.Usual()
	of := func(change func(*twoplates.Jump), n twoplates.Noise) *force.Recording {
		j := usual
		change(&j)
		r, _ := j.Make(n)
		return r
	}
	quiet := noise(4)
	for name, c := range map[string]struct {
		r        *force.Recording
		settings jump.Settings
		want     []force.Flag
		height   float64 // m, 0 for none
	}{
		"a good one":          {of(func(*twoplates.Jump) {}, quiet), jump.Settings{}, nil, 0.35},
		"hum":                 {of(func(*twoplates.Jump) {}, twoplates.Noise{HumN: 8}), jump.Settings{}, []force.Flag{force.HumTaken}, 0.35},
		"an offset":           {of(func(*twoplates.Jump) {}, twoplates.Noise{OffsetN: 30, SDN: 4, Normal: quiet.Normal}), jump.Settings{}, nil, 0.35},
		"a drift":             {of(func(*twoplates.Jump) {}, twoplates.Noise{DriftNps: 3, SDN: 2, Normal: quiet.Normal}), jump.Settings{}, []force.Flag{force.Drift}, 0.35},
		"a short wait":        {of(func(j *twoplates.Jump) { j.QuietS = 0.3 }, quiet), jump.Settings{}, []force.Flag{force.ShortQuiet}, 0.35},
		"a shaky stance":      {of(func(*twoplates.Jump) {}, twoplates.Noise{SDN: 16, Normal: quiet.Normal}), jump.Settings{}, []force.Flag{force.NoisyQuiet}, 0.35},
		"a false start":       {of(func(j *twoplates.Jump) { j.FalseStart = true }, quiet), jump.Settings{}, []force.Flag{jump.FalseStart}, 0.35},
		"stepped off":         {of(func(j *twoplates.Jump) { j.StepOff = true }, quiet), jump.Settings{}, []force.Flag{jump.StepOff}, 0.35},
		"no jump":             {of(func(j *twoplates.Jump) { j.HeightM = 1e-9; j.DipN = 0; j.PushS = 0.01; j.EndS = 0.001 }, quiet), jump.Settings{}, []force.Flag{jump.NoFlight}, 0},
		"dip in a squat jump": {of(func(*twoplates.Jump) {}, quiet), jump.Settings{Kind: jump.Squat}, []force.Flag{jump.HiddenCountermovement}, 0.35},
		"another mass":        {of(func(*twoplates.Jump) {}, quiet), jump.Settings{MassKg: 70}, []force.Flag{jump.MassDiffers}, 0.35},
	} {
		t.Run(name, func(t *testing.T) {
			got, err := jump.Analyse(c.r, c.settings)
			require.NoError(t, err)
			assert.ElementsMatch(t, c.want, got.Flags, "%v", got.Notes)
			if c.height == 0 {
				assert.Nil(t, got.JumpHeightM)
				return
			}
			require.NotNil(t, got.JumpHeightM)
			within := 0.01
			if got.QuietSDN > 15 {
				within = 0.04
			}
			assert.InDelta(t, c.height, *got.JumpHeightM, within)
		})
	}
}

func TestSquatJump(t *testing.T) {
	j := twoplates.Usual()
	j.DipN, j.HeightM, j.LeadShare = 0, 0.30, 0.54
	r, truth := j.Make(noise(4))
	got, err := jump.Analyse(r, jump.Settings{})
	require.NoError(t, err)
	assert.Equal(t, jump.Squat, got.Kind)
	assert.InDelta(t, truth.HeightM, *got.JumpHeightM, 0.01)
	assert.Nil(t, got.BrakingStartS, "no braking without a dip")
	assert.InDelta(t, 54, got.Lead.PropulsiveSharePct, 0.5)
	assert.InDelta(t, 100*(0.54-0.46)/0.54, *got.SideDifferencePct, 0.6)
}

func TestSeveralJumpsAndDoubleContact(t *testing.T) {
	low, high := twoplates.Usual(), twoplates.Usual()
	low.HeightM = 0.25
	a, _ := low.Make(noise(4))
	b, _ := high.Make(noise(4))
	got, err := jump.Analyse(after(a, b, 0), jump.Settings{})
	require.NoError(t, err)
	assert.Contains(t, got.Flags, jump.SeveralJumps)
	assert.InDelta(t, 0.35, *got.JumpHeightM, 0.01, "the highest is read")

	r, truth := high.Make(noise(4))
	for _, f := range r.Feet() { // 0.3 s after the landing both feet leave again for 0.12 s
		from := int((truth.LandingS + 0.3) * r.RateHz)
		for i := from; i < from+120; i++ {
			f.UpN[i] = 0
		}
	}
	got, err = jump.Analyse(r, jump.Settings{})
	require.NoError(t, err)
	assert.Contains(t, got.Flags, jump.DoubleContact)
	assert.InDelta(t, 0.35, *got.JumpHeightM, 0.01)
}

func TestOnePlateAndNoLanding(t *testing.T) {
	r, truth := twoplates.Usual().Make(noise(4))
	whole := &force.Foot{UpN: make([]float64, r.Len())}
	for i := range whole.UpN {
		whole.UpN[i] = r.Lead.UpN[i] + r.Trail.UpN[i]
	}
	one := &force.Recording{RateHz: r.RateHz, Whole: whole}
	got, err := jump.Analyse(one, jump.Settings{})
	require.NoError(t, err)
	assert.InDelta(t, truth.HeightM, *got.JumpHeightM, 0.01)
	assert.Nil(t, got.Lead, "one plate knows nothing of the feet")
	assert.Nil(t, got.SideDifferencePct)

	whole.UpN = whole.UpN[:int((truth.LandingS-0.1)*r.RateHz)]
	got, err = jump.Analyse(one, jump.Settings{})
	require.NoError(t, err)
	assert.Contains(t, got.Flags, jump.NoLanding)
	assert.InDelta(t, truth.HeightM, *got.JumpHeightM, 0.01)
	assert.Nil(t, got.FlightHeightM)
}

func TestNoJumpAtAll(t *testing.T) {
	of := func(v func(i int) float64, n int) *force.Recording {
		f := &force.Foot{UpN: make([]float64, n)}
		for i := range f.UpN {
			f.UpN[i] = v(i)
		}
		return &force.Recording{RateHz: 1000, Whole: f}
	}
	for name, c := range map[string]struct {
		r    *force.Recording
		want string
	}{
		"short":        {of(func(int) float64 { return 800 }, 300), "half a second"},
		"zeros":        {of(func(int) float64 { return 0 }, 5000), "nobody stands"},
		"the plate's":  {of(func(int) float64 { return -800 }, 5000), "on the plate"},
		"in kgf":       {of(func(int) float64 { return 80 }, 5000), "Is the unit right"},
		"a walk":       {of(func(i int) float64 { return 800 + 600*math.Sin(float64(i)/20) }, 400), "half a second"},
		"not a number": {of(func(int) float64 { return math.Inf(1) }, 5000), "no number"},
	} {
		_, err := jump.Analyse(c.r, jump.Settings{})
		assert.ErrorContains(t, err, c.want, name)
	}
	_, err := jump.Analyse(of(func(int) float64 { return 800 }, 5000), jump.Settings{CutoffHz: 900})
	assert.Error(t, err, "a filter that cannot be")
}

func BenchmarkJump(b *testing.B) {
	j := twoplates.Usual()
	r, _ := j.Make(noise(4))
	var an jump.Analyser
	b.ReportAllocs()
	for b.Loop() {
		if _, err := an.Analyse(r, jump.Settings{}); err != nil {
			b.Fatal(err)
		}
	}
}

// Events placed by hand win, and times follow them.
func TestEventsByHand(t *testing.T) {
	r, truth := twoplates.Usual().Make(noise(2))
	at := func(v float64) *float64 { return &v }
	got, err := jump.Analyse(r, jump.Settings{OnsetS: at(truth.OnsetS + 0.02), TakeoffS: at(truth.TakeoffS - 0.004), LandingS: at(truth.LandingS + 0.003)})
	require.NoError(t, err)
	assert.InDelta(t, truth.OnsetS+0.02, *got.OnsetS, 1e-9)
	assert.InDelta(t, truth.TakeoffS-0.004-truth.OnsetS-0.02, *got.TimeToTakeoffS, 1e-9)
	assert.InDelta(t, truth.FlightTimeS+0.007, *got.FlightTimeS, 0.0011)
	// By hand: what the first 20 ms take, 0.7 N·s of 80 kg, and what the last 4 ms
	// would, 3.0 N·s, is missing.
	assert.InDelta(t, truth.TakeoffVelocityMps+0.009+0.037, *got.TakeoffVelocityMps, 0.01)
	for _, bad := range []jump.Settings{{OnsetS: at(truth.TakeoffS + 1)}, {TakeoffS: at(truth.LandingS + 1)}, {LandingS: at(99)}, {TakeoffS: at(-3)}, {OnsetS: at(-1)}} {
		_, err := jump.Analyse(r, bad)
		assert.Error(t, err)
	}
}
