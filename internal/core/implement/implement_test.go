package implement_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/implement"
)

// club is the held club of the check values: head 0.2 kg at 1.13 m, shaft 0.06 kg
// about 0.6 m, grip 0.05 kg about 0.13 m.
var club = implement.Implement{Name: "Club", Kind: implement.Driver, MassG: 310, LengthM: 1.15, BalanceM: 0.866129}

// Arms, moments and inertia by choke-down and clubs (handbook, check values 8).
func TestMomentsMeetTheTable(t *testing.T) {
	for _, x := range []struct{ choke, arm, one, two, three, inertia float64 }{
		{0.20, 0.58613, 1.78187, 3.56374, 5.34560, 0.158123}, {0.15, 0.63613, 1.93387, 3.86774, 5.80161, 0.177068},
		{0.10, 0.68613, 2.08587, 4.17175, 6.25762, 0.197563}, {0.05, 0.73613, 2.23788, 4.47576, 6.71363, 0.219608}, {0, 0.78613, 2.38988, 4.77976, 7.16964, 0.243203},
	} {
		for n, want := range []float64{x.one, x.two, x.three} {
			m, err := implement.MomentsOf(club, implement.Held{PivotM: 0.08, ChokeM: x.choke, Clubs: n + 1, LeanDeg: 90}, 0.051623)
			require.NoError(t, err)
			assert.InDelta(t, x.arm, m.ArmM, 1e-5)
			assert.InDelta(t, want, m.HingeNm, 2e-5)
			assert.InDelta(t, want, m.RollNm, 2e-5, "a level club rolls as hard as it hinges")
			if n == 0 {
				assert.InDelta(t, x.inertia, m.InertiaKgM2, 2e-6)
			}
		}
	}
	upright, err := implement.MomentsOf(club, implement.Held{PivotM: 0.08, Clubs: 1}, 0)
	require.NoError(t, err)
	assert.Zero(t, upright.RollNm, "upright there is nothing to roll against")
	leaning, _ := implement.MomentsOf(club, implement.Held{PivotM: 0.08, Clubs: 1, LeanDeg: 30}, 0)
	assert.InDelta(t, upright.HingeNm/2, leaning.RollNm, 1e-9)
}

// Steps of 15% from 20 cm choked down: arms 0.5861, 0.6740, 0.7752, 0.7861 (handbook,
// check values 8).
func TestLeverStepsClimbByAtMostAFifth(t *testing.T) {
	steps, err := implement.LeverSteps(club, 0.08, 0.20, 45, 1)
	require.NoError(t, err)
	var arms, chokes []float64
	for _, s := range steps {
		arms, chokes = append(arms, s.ArmM), append(chokes, s.ChokeM)
	}
	assert.InDeltaSlice(t, []float64{0.5861, 0.6740, 0.7752, 0.7861}, arms, 5e-5)
	assert.InDeltaSlice(t, []float64{0.20, 0.1121, 0.0110, 0}, chokes, 5e-5)
	assert.InDelta(t, 0.0142, steps[3].Rise, 5e-5)

	two, err := implement.LeverSteps(club, 0.08, 0.20, 45, 2)
	require.NoError(t, err)
	assert.Equal(t, 2, two[len(two)-1].Clubs)
	assert.Zero(t, two[len(two)-1].ChokeM)
	assert.InDelta(t, 0.35, two[4].ChokeM, 0.03, "a second club is choked down again")
	three, err := implement.LeverSteps(club, 0.08, 0.20, 45, 3)
	require.NoError(t, err)
	for k, s := range append(two, three...) {
		if s.Rise != 0 || k > 0 && k != len(two) {
			assert.LessOrEqual(t, s.Rise, implement.MostStep, "step %d", k)
			assert.Positive(t, s.Rise, "step %d", k)
		}
	}
	_, err = implement.LeverSteps(implement.Implement{Name: "Club", MassG: 300}, 0.08, 0.2, 0, 1)
	assert.ErrorContains(t, err, "balance point")
	for _, h := range []implement.Held{{Clubs: 4}, {Clubs: 1, ChokeM: 2}, {Clubs: 1, PivotM: math.NaN()}, {Clubs: 1, LeanDeg: 100}} {
		_, err := implement.MomentsOf(club, h, 0)
		assert.Error(t, err, "%+v", h)
	}
}

// Masses of the percent ladder (handbook, check values 12).
func TestPercentOfTheOwnDriver(t *testing.T) {
	for _, x := range []struct{ driver, percent, mass float64 }{{310, -20, 248}, {300, -15, 255}, {325, 20, 390}, {310, 30, 403}} {
		assert.InDelta(t, x.percent, implement.Implement{MassG: x.mass}.Percent(x.driver), 1e-9)
	}
	assert.InDelta(t, -19.3548, implement.Implement{MassG: 250}.Percent(310), 5e-5)
	assert.InDelta(t, 25.8065, implement.Implement{MassG: 390}.Percent(310), 5e-5)
	for percent, use := range map[float64]implement.Use{
		-40: implement.TooLight, -19: implement.Light, -1: implement.Own, 1: implement.Own, 15: implement.Heavy, 26: implement.WarmUp, 60: implement.WarmUp, 80: implement.Strength, 105: implement.TwoClubs,
	} {
		assert.Equal(t, use, implement.UseOf(percent), "%g%%", percent)
	}
	assert.True(t, implement.Trains(-20) && implement.Trains(20) && !implement.Trains(21))
}

func TestALadderGoesLightOwnHeavyAndBack(t *testing.T) {
	own := implement.Implement{Name: "Driver", Kind: implement.Driver, MassG: 310, LengthM: 1.15}
	names := func(all ...implement.Implement) (out []string) {
		for _, r := range implement.Ladder(own, all) {
			out = append(out, r.Implement.Name)
		}
		return out
	}
	light := implement.Implement{Name: "light", Kind: implement.Speed, MassG: 255}
	lighter := implement.Implement{Name: "lighter", Kind: implement.Speed, MassG: 215} // −31%: warm-ups only
	heavy := implement.Implement{Name: "heavy", Kind: implement.Speed, MassG: 365}
	strong := implement.Implement{Name: "strong", Kind: implement.Speed, MassG: 450}
	assert.Equal(t, []string{"light", "Driver", "heavy", "light"}, names(light, lighter, heavy, strong))
	assert.Equal(t, []string{"Driver", "heavy", "Driver"}, names(heavy, strong))
	assert.Equal(t, []string{"light", "Driver", "light"}, names(light))
	assert.Equal(t, []string{"Driver"}, names())
}

func TestAnImplementIsChecked(t *testing.T) {
	ok := implement.Implement{Name: "Driver", Kind: implement.Driver, MassG: 310, LengthM: 1.15, BalanceM: 0.86}
	assert.Empty(t, ok.Validate())
	for word, change := range map[string]func(*implement.Implement){
		"name":    func(i *implement.Implement) { i.Name = "" },
		"kind":    func(i *implement.Implement) { i.Kind = "rake" },
		"weighs":  func(i *implement.Implement) { i.MassG = math.NaN() },
		"rules":   func(i *implement.Implement) { i.LengthM = 1.3 },
		"long":    func(i *implement.Implement) { i.LengthM = 3 },
		"balance": func(i *implement.Implement) { i.BalanceM = 1.2 },
	} {
		i := ok
		change(&i)
		assert.Contains(t, i.Validate(), word)
	}
	assert.InDelta(t, 3.05, implement.Radius(1.15, false), 1e-9, "a driver's (handbook 12)")
	assert.InDelta(t, 4.55, implement.Radius(1.15, true), 1e-9)
	assert.Empty(t, implement.Usual.Validate())
}

func ExampleLadder() {
	own := implement.Implement{Name: "Driver", Kind: implement.Driver, MassG: 310, LengthM: 1.15}
	for _, r := range implement.Ladder(own, []implement.Implement{{Name: "Light stick", Kind: implement.Speed, MassG: 250, LengthM: 1.1}}) {
		fmt.Printf("%s %+.0f%%\n", r.Implement.Name, r.Percent)
	}
	// Output:
	// Light stick -19%
	// Driver +0%
	// Light stick -19%
}
