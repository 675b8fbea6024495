package jump_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/twoplates"
)

// closedForm is the countermovement jump whose every number has a closed form:
// 80 kg, 450 N over 0.40 s, 1,250 N over 0.42 s, 0.04 s to nothing.
func closedForm(t *testing.T) *force.Recording {
	t.Helper()
	j := twoplates.Usual()
	j.HeightM = 0.3313506
	v := 2.5492897
	j.HeightM = v * v / (2 * force.G)
	r, truth := j.Make(twoplates.Noise{})
	require.InDelta(t, 2.549290, truth.TakeoffVelocityMps, 1e-6)
	require.InDelta(t, 2034.5320, truth.PeakForceN, 0.01, "the push comes out at 1,250 N")
	return r
}

// Source: the closed form of the sines, computed on its own; the row "sampled at
// 1,000 Hz, trapezoid" for what depends on sampling.
func TestClosedFormJump(t *testing.T) {
	got, err := jump.Analyse(closedForm(t), jump.Settings{CutoffHz: -1})
	require.NoError(t, err)
	assert.Equal(t, jump.Countermovement, got.Kind)
	assert.InDelta(t, 80, got.BodyMassKg, 1e-6)
	near := func(want float64, got *float64, within float64, what string) {
		t.Helper()
		require.NotNil(t, got, what)
		assert.InDelta(t, want, *got, within, what)
	}
	near(1.5, got.OnsetS, 1e-9, "onset")
	near(1.5+0.40, got.BrakingStartS, 1e-5, "lowest velocity")
	near(1.5+0.567259, got.PropulsionStartS, 2e-5, "zero velocity")
	near(1.5+0.860, got.TakeoffS, 1e-9, "take-off")
	near(0.860, got.TimeToTakeoffS, 1e-9, "time to take-off")
	near(2.549278, got.TakeoffVelocityMps, 2e-6, "take-off velocity, trapezoid")
	near(0.3313474, got.JumpHeightM, 2e-6, "height, trapezoid")
	near(0.519910, got.FlightTimeS, 0.0011, "flight")
	near(-0.441783, got.CountermovementDepthM, 2e-5, "depth, double trapezoid")
	near(7094.761, got.BrakingRfdNps, 2, "braking rate")
	near(1971.1926, got.ForceAtLowestN, 0.1, "force at zero velocity")
	near(2034.5320, got.PeakPropulsiveForceN, 0.01, "peak force")
	near(3583.735, got.PeakPowerW, 0.01, "largest sampled F·v")
	near(2330.474, got.MeanPropulsivePowerW, 0.2, "mean propulsive power")
	near(-114.59156, got.UnweightingImpulseNs, 0.01, "unweighting")
	near(114.59156, got.BrakingImpulseNs, 0.01, "braking")
	near(203.94318, got.PropulsiveImpulseNs, 0.01, "propulsion")
	near(0.385291, got.RsiModified, 1e-5, "modified reactive strength index")
	near(0, got.SideDifferencePct, 1e-9, "even feet")
	assert.Empty(t, got.Flags)

	// Work done on the centre of mass is its kinetic energy at take-off.
	near(0.5*80**got.TakeoffVelocityMps**got.TakeoffVelocityMps, got.WorkOnCentreOfMassJ, 0.05, "work and energy")
	// On a clean trial both heights agree.
	assert.InDelta(t, *got.JumpHeightM, *got.FlightHeightM, 0.002)
}

// The default filter moves the closed form's numbers by little, and says it was
// used.
func TestFilteredClosedForm(t *testing.T) {
	got, err := jump.Analyse(closedForm(t), jump.Settings{})
	require.NoError(t, err)
	assert.Equal(t, 50.0, got.CutoffHz)
	assert.InDelta(t, 0.3313506, *got.JumpHeightM, 0.002)
	assert.InDelta(t, 7094.761, *got.BrakingRfdNps, 40)
	assert.InDelta(t, 3583.7, *got.PeakPowerW, 15)
	assert.InDelta(t, 2.36, *got.TakeoffS, 0.001)
}

// Source: Owen et al. (2014) for the step back: 30 ms before the force leaves
// the band, which 5 SD of 4 N are left at 5.661 ms.
func TestOnsetRules(t *testing.T) {
	j := twoplates.Usual()
	rng := rand.New(rand.NewPCG(4, 4))
	r, truth := j.Make(twoplates.Noise{SDN: 4 / math.Sqrt2, Normal: rng.NormFloat64})
	back, err := jump.Analyse(r, jump.Settings{Onset: jump.OnsetBack30})
	require.NoError(t, err)
	assert.InDelta(t, truth.OnsetS+0.005661-0.030, *back.OnsetS, 0.003)
	assert.Equal(t, jump.OnsetBack30, back.OnsetRule)
	crossing, err := jump.Analyse(r, jump.Settings{})
	require.NoError(t, err)
	assert.InDelta(t, truth.OnsetS, *crossing.OnsetS, 0.006)
	_, err = jump.Analyse(r, jump.Settings{Onset: "guess"})
	assert.ErrorContains(t, err, "guess")
}

// draw makes one of the randomised jumps of the recovery.
func draw(rng *rand.Rand) twoplates.Jump {
	in := func(a, b float64) float64 { return a + (b-a)*rng.Float64() }
	j := twoplates.Usual()
	j.MassKg, j.HeightM = in(45, 110), in(0.15, 0.60)
	j.DipN = in(0.35, 0.75) * j.MassKg * force.G
	j.DipS, j.PushS, j.EndS = in(0.3, 0.5), in(0.35, 0.5), in(0.03, 0.05)
	j.LeadShare, j.QuietS, j.ShiftS = in(0.42, 0.58), in(1.0, 2.5), in(0, 0.001)
	return j
}

// recovery returns, for each metric, how far the analysis was from the truth
// over trials of randomised jumps.
func recovery(t testing.TB, trials int, sd float64) map[string][]float64 {
	t.Helper()
	rng := rand.New(rand.NewPCG(11, 26))
	out := map[string][]float64{}
	for range trials {
		r, truth := draw(rng).Make(twoplates.Noise{SDN: sd, Normal: rng.NormFloat64})
		got, err := jump.Analyse(r, jump.Settings{})
		require.NoError(t, err)
		require.NotNil(t, got.JumpHeightM, "%+v", truth)
		assert.NotContains(t, got.Flags, force.Drift, "nothing drifts here")
		assert.NotContains(t, got.Flags, force.HumTaken, "noise is no hum")
		put := func(name string, got, want float64) { out[name] = append(out[name], math.Abs(got-want)) }
		put("height, cm", 100**got.JumpHeightM, 100*truth.HeightM)
		put("flight height, cm", 100**got.FlightHeightM, 100*truth.HeightM)
		put("body mass, %", 100*got.BodyMassKg/truth.MassKg, 100)
		put("onset, ms", 1000**got.OnsetS, 1000*truth.OnsetS)
		put("braking start, ms", 1000**got.BrakingStartS, 1000*truth.BrakingStartS)
		put("propulsion start, ms", 1000**got.PropulsionStartS, 1000*truth.PropulsionStartS)
		put("take-off, ms", 1000**got.TakeoffS, 1000*truth.TakeoffS)
		put("landing, ms", 1000**got.LandingS, 1000*truth.LandingS)
		put("depth, cm", 100**got.CountermovementDepthM, 100*truth.DepthM)
		put("peak power, %", 100**got.PeakPowerW/truth.PeakPowerW, 100)
		put("mean power, %", 100**got.MeanPropulsivePowerW/truth.MeanPropulsivePowerW, 100)
		put("peak force, %", 100**got.PeakPropulsiveForceN/truth.PeakForceN, 100)
		put("braking rate, %", 100**got.BrakingRfdNps/truth.BrakingRfdNps, 100)
		put("modified RSI, %", 100**got.RsiModified/truth.RsiModified, 100)
		put("time to take-off, ms", 1000**got.TimeToTakeoffS, 1000*truth.TimeToTakeoffS)
		put("flight time, ms", 1000**got.FlightTimeS, 1000*truth.FlightTimeS)
		put("take-off velocity, cm/s", 100**got.TakeoffVelocityMps, 100*truth.TakeoffVelocityMps)
		put("unweighting impulse, %", -100**got.UnweightingImpulseNs/truth.BrakingNs, 100)
		put("braking impulse, %", 100**got.BrakingImpulseNs/truth.BrakingNs, 100)
		put("propulsive impulse, %", 100**got.PropulsiveImpulseNs/truth.PropulsiveNs, 100)
		put("force at zero velocity, %", 100**got.ForceAtLowestN/truth.ForceAtLowestN, 100)
		put("landing peak, %", 100**got.LandingPeakN/truth.LandingPeakN, 100)
		put("lead share, points", got.Lead.PropulsiveSharePct, truth.LeadSharePct)
	}
	for _, v := range out {
		slices.Sort(v)
	}
	return out
}

func at(v []float64, share float64) float64 { return v[min(len(v)-1, int(share*float64(len(v))))] }

func TestRecovery(t *testing.T) {
	got := recovery(t, 250, 4)
	assert.Less(t, at(got["height, cm"], 0.95), 1.0)
	assert.Less(t, at(got["take-off, ms"], 0.95), 5.0)
	assert.Less(t, at(got["body mass, %"], 1), 0.3)
	assert.Less(t, at(got["lead share, points"], 0.95), 0.5)
	if testing.Verbose() {
		for _, sd := range []float64{0, 2, 4, 8} {
			rows := recovery(t, 250, sd)
			for _, name := range slices.Sorted(func(yield func(string) bool) {
				for k := range rows {
					if !yield(k) {
						return
					}
				}
			}) {
				fmt.Printf("noise %g N | %s | median %.3g | 95%% %.3g | largest %.3g\n", sd, name, at(rows[name], 0.5), at(rows[name], 0.95), at(rows[name], 1))
			}
		}
	}
}

// A plate's offset does no harm, however large; nor does a straight drift; hum
// does what the methods say.
func TestRecoveryUnderDisturbance(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 3))
	for _, c := range []struct {
		name         string
		noise        twoplates.Noise
		height, took float64 // 95% within, cm and ms
	}{
		{"offset of 100 N on each plate", twoplates.Noise{OffsetN: 100}, 0.5, 2},
		{"offset of −40 N on each plate", twoplates.Noise{OffsetN: -40}, 0.5, 2},
		{"hum of 10 N on each plate", twoplates.Noise{HumN: 10}, 0.5, 2},
		{"hum of 10 N at 60 Hz", twoplates.Noise{HumN: 10, HumHz: 60.05}, 0.7, 2},
		{"drift of 1 N/s on each plate", twoplates.Noise{DriftNps: 1}, 0.5, 2},
	} {
		var height, took []float64
		c.noise.SDN, c.noise.Normal = 4, rng.NormFloat64
		for i := range 200 {
			j := draw(rng)
			if i%3 == 0 {
				j.DipN = 0 // a squat jump
			}
			r, truth := j.Make(c.noise)
			got, err := jump.Analyse(r, jump.Settings{})
			require.NoError(t, err)
			require.NotNil(t, got.JumpHeightM, "%s: %+v %v", c.name, truth, got.Notes)
			height = append(height, 100*math.Abs(*got.JumpHeightM-truth.HeightM))
			took = append(took, 1000*math.Abs(*got.TakeoffS-truth.TakeoffS))
		}
		slices.Sort(height)
		slices.Sort(took)
		assert.Less(t, at(height, 0.95), c.height, c.name)
		assert.Less(t, at(took, 0.95), c.took, c.name)
		if testing.Verbose() {
			fmt.Printf("%s | height, cm %.2f / %.2f | take-off, ms %.1f / %.1f\n", c.name, at(height, 0.5), at(height, 0.95), at(took, 0.5), at(took, 0.95))
		}
	}
}
