package athlete_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
)

// Limits from pain stand until the same test, or one as hard, is done again with
// less (handbook 11, "Limits stand"; ours).

var painDay = civil.MustParse("2026-10-01")

// hurt is a golfer whose lead wrist hurt 6 in the grip test.
func hurt(trials ...measure.Trial) *athlete.File {
	f := testkit.Strong()
	f.AsOf = painDay.Add(60)
	f.Screens = []athlete.Screen{{Date: painDay, Trials: []measure.Trial{
		{Test: "grip", Side: "lead", Number: 1, Status: measure.Stopped, Pain: 6, Region: "wrist-hand"},
	}}}
	if len(trials) > 0 {
		f.Screens = append(f.Screens, athlete.Screen{Date: painDay.Add(20), Trials: trials})
	}
	return f
}

func done(test string, side measure.Side, number, pain int) measure.Trial {
	t := measure.Trial{Test: test, Side: side, Number: number, Status: measure.Done, Value: 30, Pain: pain}
	if pain > 0 {
		t.Region = "wrist-hand"
	}
	return t
}

func TestALimitFromPainStandsUntilTheTestIsDoneAgain(t *testing.T) {
	stands := func(f *athlete.File) bool {
		l := f.LimitsOn(painDay.Add(21))
		return len(l) == 1 && l[0].Kind == athlete.NoneOfPattern && l[0].Region == "wrist-hand" && l[0].Side == "lead"
	}
	assert.True(t, stands(hurt()))
	assert.True(t, stands(hurt(done("mass", "", 1, 0))), "a newer screen that only weighs changes nothing")
	assert.True(t, stands(hurt(done("wrist-radial", "lead", 1, 0))), "range of the wrist does not load it as hard")
	assert.True(t, stands(hurt(done("grip", "trail", 1, 0))), "the other hand says nothing of this one")
	assert.True(t, stands(hurt(done("grip", "lead", 1, 1), done("grip", "lead", 2, 3))), "pain that rises")
	assert.True(t, stands(hurt(measure.Trial{Test: "grip", Side: "lead", Number: 1, Status: measure.Skipped})), "skipped is not tested")
	assert.Empty(t, hurt(done("grip", "lead", 1, 0)).LimitsOn(painDay.Add(21)), "without pain it ends")
	assert.Empty(t, hurt(done("row", "", 1, 0)).LimitsOn(painDay.Add(21)), "a row loads the hand harder still")
}

func TestMildPainMeansTwoWeeksWithoutMaximalWork(t *testing.T) {
	f := hurt(done("grip", "lead", 1, 3), done("grip", "lead", 2, 2))
	l := f.LimitsOn(painDay.Add(21))
	require.Len(t, l, 1)
	assert.Equal(t, athlete.NoMaximalEffort, l[0].Kind)
	assert.Equal(t, painDay.Add(34), l[0].Until)
	assert.Len(t, f.LimitsOn(painDay.Add(34)), 1)
	assert.Empty(t, f.LimitsOn(painDay.Add(35)))
}

func TestPainAgainStandsAnew(t *testing.T) {
	f := hurt(measure.Trial{Test: "grip", Side: "lead", Number: 1, Status: measure.Stopped, Pain: 4, Region: "wrist-hand"})
	p := f.PainOn(painDay.Add(21))
	require.Len(t, p, 1)
	assert.Equal(t, painDay.Add(20), p[0].Since)
	assert.Equal(t, 4, p[0].Pain)
}

func TestTheCoachMayEndALimitButNotOneFromTingling(t *testing.T) {
	f := hurt()
	f.EndedLimits = []athlete.EndedLimit{{Region: "wrist-hand", Side: "lead", On: painDay.Add(10), Why: "seen by the physiotherapist"}}
	assert.Len(t, f.LimitsOn(painDay.Add(9)), 1)
	assert.Empty(t, f.LimitsOn(painDay.Add(10)))

	f.Screens[0].Trials[0].Pain, f.Screens[0].Trials[0].Tingling = 2, true
	require.Len(t, f.LimitsOn(painDay.Add(10)), 1)
	assert.Contains(t, f.LimitsOn(painDay.Add(10))[0].Note, "tingling")
	f.Clearance.Cleared = &athlete.Cleared{Role: "doctor", On: painDay.Add(5)}
	assert.Empty(t, f.LimitsOn(painDay.Add(10)))
}

func TestASideThatIsNotKnownIsBoth(t *testing.T) {
	f := hurt()
	f.Screens[0].Trials = []measure.Trial{{Test: "driver-speed", Number: 1, Status: measure.Stopped, Pain: 5, Region: "wrist-hand"}}
	l := f.LimitsOn(painDay)
	require.Len(t, l, 1)
	assert.Empty(t, l[0].Side)
}

func TestAHipThatPinchesIsALimit(t *testing.T) {
	f := testkit.Strong()
	f.Pinches = []athlete.Pinch{{Joint: "hip", Side: "trail"}}
	assert.Equal(t, "hip, trail side: no end range (a hip that pinches)", f.LimitsOn(f.AsOf)[0].Words())
}

func TestTheSituationIsChecked(t *testing.T) {
	f := testkit.Strong()
	f.OffWeeks, f.OffWhy = -1, "bored"
	f.Away = []athlete.Away{{From: painDay, To: painDay.Add(-1)}}
	f.AcceptedJoints = []athlete.AcceptedJoint{{Joint: "heart", Why: "x"}, {Joint: "hip-ir", Side: "up"}}
	f.Pinches = []athlete.Pinch{{Joint: "knee"}}
	f.OverheadDegrees = 5
	f.EndedLimits = []athlete.EndedLimit{{Region: "hip", On: f.AsOf.Add(1)}}
	f.ForceFindings = []athlete.ForceFinding{{Key: "jerk", On: f.AsOf.Add(1), Weaker: "left"}}
	f.ColdStart = &athlete.ColdStart{On: f.AsOf.Add(1), Mps: []float64{9}}
	f.Implements = []implement.Implement{{ID: "a", Name: "Rod", Kind: "rod"}, {ID: "a", Name: "Stick", Kind: implement.Stick, MassG: 300, LengthM: 1}}
	f.Training.KitAt = map[string][]string{"garden": {"band"}}
	f.Training.Plates = []float64{0}
	var paths []string
	for _, p := range f.Validate() {
		paths = append(paths, p.Path)
	}
	assert.Subset(t, paths, []string{
		"offWeeks", "offWhy", "away[0]", "acceptedJoints[0].joint", "acceptedJoints[1].side", "acceptedJoints[1].why", "pinches[0]",
		"overheadDegrees", "endedLimits[0].on", "endedLimits[0].why", "training.kitAt", "training.plates[0]",
		"forceFindings[0].key", "forceFindings[0].on", "forceFindings[0].sentence", "forceFindings[0].weaker",
		"coldStart.on", "coldStart.mps[0]", "implements[0]", "implements[1].id",
	})
	before := testkit.Strong()
	before.Format = athlete.FormatBefore
	assert.Empty(t, before.Validate(), "files of the format before are read")
}

// Training that ended by illness, or for more than half a year at 40 and over, asks
// for a clearance of its own.
func TestALayOffMayAskForAClearanceAnew(t *testing.T) {
	f := testkit.Strong()
	f.OffWeeks, f.OffWhy = 6, athlete.OffWork
	assert.Equal(t, athlete.Clear, f.ClearanceOn(f.AsOf).State)
	f.OffWhy = athlete.OffIllness
	assert.Equal(t, athlete.NeedsClearance, f.ClearanceOn(f.AsOf).State)
	f.Clearance.Cleared = &athlete.Cleared{Role: "doctor", On: f.AsOf.Add(-3)}
	assert.Equal(t, athlete.Clear, f.ClearanceOn(f.AsOf).State)

	f = testkit.Strong()
	f.OffWeeks = 30
	assert.Equal(t, athlete.Clear, f.ClearanceOn(f.AsOf).State, "35 years old")
	f.Athlete.BirthDate = civil.MustParse("1980-01-01")
	assert.Equal(t, athlete.NeedsClearance, f.ClearanceOn(f.AsOf).State)
	assert.Equal(t, []float64{0.5, 0.3, 0.2, 0.1}, f.Ramp())
}
