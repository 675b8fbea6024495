package athlete_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
)

func TestClearance(t *testing.T) {
	day := testkit.Day
	base := func(do func(*athlete.File)) *athlete.File {
		f := testkit.Strong()
		do(f)
		return f
	}
	rows := map[string]struct {
		file  *athlete.File
		state athlete.ClearanceState
		says  string
	}{
		"all no":                {base(func(*athlete.File) {}), athlete.Clear, "Holds until Tue 23 Nov 2027"},
		"never asked":           {base(func(f *athlete.File) { f.Clearance = athlete.Clearance{} }), athlete.NotAsked, "not been answered"},
		"a yes":                 {base(func(f *athlete.File) { f.Clearance.Yes = []string{"pressure"} }), athlete.NeedsClearance, "High blood pressure"},
		"a red flag":            {base(func(f *athlete.File) { f.Clearance.Yes = []string{"pressure", "flag-leg"} }), athlete.RedFlag, "refer to a doctor now"},
		"a flag without a date": {base(func(f *athlete.File) { f.Clearance = athlete.Clearance{Yes: []string{"flag-leg"}} }), athlete.RedFlag, "Weakness"},
		"a new injury": {base(func(f *athlete.File) {
			f.Clearance.AnsweredOn, f.Clearance.InjuredOn = testkit.Day.Add(-20), testkit.Day.Add(-3)
		}), athlete.Expired, "no longer hold"},
		"asked again since":    {base(func(f *athlete.File) { f.Clearance.InjuredOn = testkit.Day }), athlete.Clear, ""},
		"answers too old":      {base(func(f *athlete.File) { f.Clearance.AnsweredOn = civil.MustParse("2025-11-24") }), athlete.Expired, "ask again"},
		"answers just in time": {base(func(f *athlete.File) { f.Clearance.AnsweredOn = civil.MustParse("2025-11-25") }), athlete.Clear, "Tue 24 Nov 2026"},
		"cleared": {base(func(f *athlete.File) {
			f.Clearance.Yes = []string{"pressure"}
			f.Clearance.Cleared = &athlete.Cleared{Role: "doctor", On: day.Add(-30)}
		}), athlete.Clear, "Cleared by the doctor"},
		"clearance too old": {base(func(f *athlete.File) {
			f.Clearance.Yes = []string{"pressure"}
			f.Clearance.Cleared = &athlete.Cleared{Role: "doctor", On: day.Add(-400)}
		}), athlete.Expired, "ask for a new one"},
		"a junior without consent": {base(func(f *athlete.File) { f.Athlete.BirthDate = day.Add(-15 * 366) }), athlete.NeedsConsent, "guardian"},
		"a junior with consent": {base(func(f *athlete.File) {
			f.Athlete.BirthDate = day.Add(-15 * 366)
			f.Consent = &athlete.Consent{Guardian: "G", On: day}
		}), athlete.Clear, "Cleared"},
	}
	for name, r := range rows {
		got := r.file.ClearanceOn(day)
		assert.Equal(t, r.state, got.State, name)
		assert.Contains(t, got.Text, r.says, name)
		assert.Equal(t, r.state == athlete.Clear, got.MayExert(), name)
	}
}

func TestQuestionsCoverWhatMustBeAsked(t *testing.T) {
	flags, ids := 0, map[string]bool{}
	for _, q := range athlete.Questions() {
		assert.False(t, ids[q.ID], q.ID)
		ids[q.ID] = true
		assert.True(t, strings.HasSuffix(q.Text, "?"), q.ID)
		if q.RedFlag {
			flags++
		}
	}
	assert.GreaterOrEqual(t, flags, 6)
	assert.GreaterOrEqual(t, len(ids)-flags, 9)
}

func TestLevelsAndBands(t *testing.T) {
	for months, want := range map[int]athlete.Level{0: 1, 5: 1, 6: 2, 23: 2, 24: 3, 59: 3, 60: 3} {
		assert.Equal(t, want, athlete.Profile{TrainingMonths: months}.Level(), "%d months", months)
	}
	assert.Equal(t, athlete.Level(4), athlete.Profile{TrainingMonths: 60, Advanced: true}.Level(), "five years and confirmed")
	assert.Equal(t, athlete.Level(2), athlete.Profile{TrainingMonths: 12, Advanced: true}.Level(), "confirmation alone makes nobody advanced")
	for level, want := range map[athlete.Level]athlete.Tier{1: athlete.Novice, 2: athlete.Intermediate, 3: athlete.Intermediate, 4: athlete.AdvancedTier} {
		assert.Equal(t, want, level.Tier())
	}
	for birth, want := range map[string]string{"2013-11-25": athlete.BandChild, "2013-11-24": athlete.BandJunior, "2008-11-24": athlete.BandAdult, "1986-11-24": athlete.BandMiddle, "1966-11-24": athlete.BandSenior} {
		assert.Equal(t, want, athlete.Profile{BirthDate: civil.MustParse(birth)}.Band(testkit.Day), birth)
	}
}

func TestLeadIsLeftForARightSidedGolfer(t *testing.T) {
	right, left := athlete.Profile{PlayingSide: athlete.RightSided}, athlete.Profile{PlayingSide: athlete.LeftSided, WritingHand: "right"}
	lead, trail := measure.Side(measure.Lead), measure.Side(measure.Trail)
	assert.False(t, right.RightHanded(lead))
	assert.True(t, right.RightHanded(trail))
	assert.True(t, left.RightHanded(lead), "the writing hand has no say")
	assert.False(t, left.RightHanded(trail))
}

func TestLimitsInForce(t *testing.T) {
	f := testkit.Strong()
	day := testkit.Day
	f.Limits = []athlete.Limit{
		{Region: "hip", Kind: athlete.NoImpact, SetBy: "doctor"},
		{Region: "knee", Kind: athlete.NoImpact, Until: day, SetBy: "doctor"},
		{Region: "neck", Kind: athlete.NoOverhead, Until: day.Add(-1), SetBy: "doctor"},
	}
	pain := measure.Trial{Test: "cmj", Number: 1, Status: measure.Stopped, Pain: 4, Region: "ankle-foot"}
	mild := measure.Trial{Test: "cmj", Number: 2, Status: measure.Done, Value: 30, Pain: 3, Region: "elbow"}
	f.Screens[0].Trials = append(f.Screens[0].Trials, pain, pain, mild)
	var got []string
	for _, l := range f.LimitsOn(day) {
		got = append(got, l.Region+" "+string(l.Kind))
	}
	assert.Equal(
		t,
		[]string{"hip no-impact", "knee no-impact", "ankle-foot none-of-this-pattern"},
		got,
		"one for a painful region, none for mild pain, none past its day",
	)
	assert.Equal(t, "hip: no impact (doctor)", f.Limits[0].Words())
	assert.Equal(t, "wrist hand, lead side: load cap 20 kg (coach)", athlete.Limit{Region: "wrist-hand", Side: "lead", Kind: athlete.LoadCap, CapKg: 20, SetBy: "coach"}.Words())
	assert.Equal(t, "hip, both sides: no impact (coach)", athlete.Limit{Region: "hip", Side: "both", Kind: athlete.NoImpact, SetBy: "coach"}.Words())
	assert.Equal(t, "knee: no impact (doctor, until Tue 24 Nov 2026)", f.Limits[1].Words())

	f.Screens = append(f.Screens, athlete.Screen{Date: day.Add(-5), Trials: []measure.Trial{pain}})
	assert.Len(t, f.LimitsOn(day), 3, "only the newest screen's pain counts")
}

func TestScreensInTheFutureAreNotSeen(t *testing.T) {
	f := testkit.Strong()
	f.Screens = append(f.Screens, athlete.Screen{Date: testkit.Day.Add(1)}, athlete.Screen{Date: testkit.Day.Add(-9)})
	got := f.SortedScreens()
	require.Len(t, got, 2)
	assert.Equal(t, testkit.Day, got[0].Date)
}

func TestValidateNamesThePath(t *testing.T) {
	assert.Empty(t, testkit.Strong().Validate())
	rows := map[string]func(*athlete.File){
		"format":                 func(f *athlete.File) { f.Format = "x" },
		"asOf":                   func(f *athlete.File) { f.AsOf = civil.Date{} },
		"units.speed":            func(f *athlete.File) { f.Units.Speed = "kn" },
		"athlete.name":           func(f *athlete.File) { f.Athlete.Name = "  " },
		"athlete.birthDate":      func(f *athlete.File) { f.Athlete.BirthDate = testkit.Day.Add(-100) },
		"athlete.sex":            func(f *athlete.File) { f.Athlete.Sex = "x" },
		"athlete.playingSide":    func(f *athlete.File) { f.Athlete.PlayingSide = "" },
		"athlete.trainingMonths": func(f *athlete.File) { f.Athlete.TrainingMonths = -1 },
		"athlete.goalSpeed":      func(f *athlete.File) { f.Athlete.GoalSpeed = 110 },
		"athlete.driverMassG":    func(f *athlete.File) { f.Athlete.DriverMassG = 31 },
		"clearance.yes[0]":       func(f *athlete.File) { f.Clearance.Yes = []string{"what"} },
		"clearance.answeredOn":   func(f *athlete.File) { f.Clearance.AnsweredOn = testkit.Day.Add(1) },
		"clearance.cleared.on":   func(f *athlete.File) { f.Clearance.Cleared = &athlete.Cleared{Role: "doctor"} },
		"consent.on":             func(f *athlete.File) { f.Consent = &athlete.Consent{Guardian: "G"} },
		"limits[0].region": func(f *athlete.File) {
			f.Limits = []athlete.Limit{{Region: "toe", Kind: athlete.NoImpact, SetBy: "doctor"}}
		},
		"limits[0].kind": func(f *athlete.File) { f.Limits = []athlete.Limit{{Region: "hip", Kind: "no-fun", SetBy: "doctor"}} },
		"limits[0].capKg": func(f *athlete.File) {
			f.Limits = []athlete.Limit{{Region: "hip", Kind: athlete.LoadCap, SetBy: "doctor"}}
		},
		"limits[0].setBy":   func(f *athlete.File) { f.Limits = []athlete.Limit{{Region: "hip", Kind: athlete.NoImpact}} },
		"training.days[1]":  func(f *athlete.File) { f.Training.Days = []string{"mon", "mon"} },
		"training.minutes":  func(f *athlete.File) { f.Training.Minutes = 5 },
		"training.startsAt": func(f *athlete.File) { f.Training.StartsAt = "24:30" },
		"training.where":    func(f *athlete.File) { f.Training.Where = "\u200b" },
		"playing[0]":        func(f *athlete.File) { f.Playing = []athlete.Playing{{From: testkit.Day, Rounds: 1}} },
		"playing[0].rounds": func(f *athlete.File) {
			f.Playing = []athlete.Playing{{From: testkit.Day, To: testkit.Day, Rounds: 8}}
		},
		"seasonEnd":            func(f *athlete.File) { f.SeasonEnd = testkit.Day.Add(40000) },
		"otherSideShare":       func(f *athlete.File) { n := 101; f.OtherSideShare = &n },
		"competitions[0]":      func(f *athlete.File) { f.Competitions = []athlete.Competition{{Name: "Match"}} },
		"screens[1].date":      func(f *athlete.File) { f.Screens = append(f.Screens, f.Screens[0]) },
		"screens[0].trials[0]": func(f *athlete.File) { f.Screens[0].Trials[0].Test = "what" },
		"screens[0].trials[1]": func(f *athlete.File) { f.Screens[0].Trials[1] = f.Screens[0].Trials[0] },
	}
	for path, do := range rows {
		f := testkit.Strong()
		do(f)
		problems := f.Validate()
		if assert.NotEmpty(t, problems, path) {
			assert.Equal(t, path, problems[0].Path)
			assert.NotEmpty(t, problems[0].Text)
		}
	}
}
