package app_test

import (
	"bytes"
	"context"
	"math/rand/v2"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/swing"
	"dunnock/internal/core/testkit"
	"dunnock/internal/device"
	"dunnock/internal/forcefile"
)

// file is a trial of the stand-in plates as CSV.
func file(t *testing.T, p device.PlatesPlan) *bytes.Buffer {
	t.Helper()
	r, _, _ := p.Trial(rand.New(rand.NewPCG(p.Seed, 9)))
	var b bytes.Buffer
	require.NoError(t, forcefile.WriteCSV(&b, r))
	return &b
}

// trialsOf returns a test's trials in the golfer's screen of a day.
func trialsOf(t *testing.T, a *app.App, u *app.Actor, id, test string) []measure.Trial {
	t.Helper()
	screens, err := a.Screens(context.Background(), u, id)
	require.NoError(t, err)
	var out []measure.Trial
	for _, s := range screens {
		for _, x := range s.Trials {
			if s.Date == testkit.Day && x.Test == test {
				out = append(out, x)
			}
		}
	}
	return out
}

// empty is a golfer without screens.
func empty(t *testing.T, a *app.App, u *app.Actor) string {
	t.Helper()
	f := testkit.Strong()
	f.Screens = nil
	return golfer(t, a, u, f)
}

// Jumps fill the screen of their day trial by trial until it is full, and say so
// then; one that is taken out leaves its place free again.
func TestJumpsFillTheScreen(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := empty(t, a, u)
	var all []*app.RecordingView
	for i := range uint64(4) {
		v, err := a.AddRecording(
			ctx,
			u,
			id,
			app.NewRecording{Name: "j", Kind: "jump", Fill: true},
			file(t, device.PlatesPlan{HeightM: 0.30 + float64(i)/100, NoiseN: 2, Seed: i}),
		)
		require.NoError(t, err)
		all = append(all, v)
	}
	assert.Nil(t, all[0].Baseline, "nothing came before")
	assert.Empty(t, all[0].Change)
	require.NotNil(t, all[3].Baseline)
	assert.Equal(t, 3, all[3].Baseline.Trials)
	assert.InDelta(t, 0.31, all[3].Baseline.Mean["jumpHeightM"], 0.005)
	assert.Contains(t, all[3].Change, "cm above the mean of 3 earlier jumps: within error (typical error 1.5 cm).", "33 against 31 of 1.5: √2·1.5 is 2.1")
	got := trialsOf(t, a, u, id, "cmj")
	require.Len(t, got, 3)
	assert.InDelta(t, 31, got[1].Value, 1)
	assert.Equal(t, "force plates", got[0].Device)
	assert.Contains(t, all[3].Verdict, "All 3 trials of countermovement jump are taken")
	require.NoError(t, a.DeleteRecording(ctx, u, all[1].ID))
	assert.Len(t, trialsOf(t, a, u, id, "cmj"), 2)
	v, err := a.ChangeRecordingTo(ctx, u, all[3].ID, app.ChangeRecording{Fill: true})
	require.NoError(t, err)
	assert.Contains(t, v.Verdict, "In the screen of")
	assert.Equal(t, 2, v.Cells[0].Trial)

	// Analysed anew with other rules, the trial is written over; with a kind it is
	// not, it is taken out.
	settings := v.Settings
	settings.Jump.Kind = jump.Squat
	v, err = a.ChangeRecordingTo(ctx, u, all[3].ID, app.ChangeRecording{Settings: &settings})
	require.NoError(t, err)
	assert.Contains(t, v.Jump.Flags, jump.HiddenCountermovement)
	assert.Len(t, trialsOf(t, a, u, id, "cmj"), 2)
	settings.Jump.Onset = "guess"
	_, err = a.ChangeRecordingTo(ctx, u, all[3].ID, app.ChangeRecording{Settings: &settings})
	assert.ErrorContains(t, err, "guess")
}

// What a golfer may not do is not written into a screen, and a swing from the
// other side is none of the playing side's.
func TestWhatStaysOutOfTheScreen(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	f.Screens, f.Clearance = nil, athlete.Clearance{}
	id := golfer(t, a, u, f)
	v, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump", Fill: true}, file(t, device.PlatesPlan{NoiseN: 2}))
	require.NoError(t, err)
	assert.Contains(t, v.Verdict, "the golfer is not cleared for it")
	assert.Empty(t, trialsOf(t, a, u, id, "cmj"))

	id = empty(t, a, u)
	v, err = a.AddRecording(
		ctx,
		u,
		id,
		app.NewRecording{Name: "s", Kind: "swing", Side: force.LeftSided, Fill: true},
		file(t, device.PlatesPlan{Kind: "swing", NoiseN: 2}),
	)
	require.NoError(t, err)
	assert.Contains(t, v.Verdict, "Swung from the other side")
	v, err = a.AddRecording(ctx, u, id, app.NewRecording{Name: "s", Kind: "swing", Fill: true}, file(t, device.PlatesPlan{Kind: "swing", NoiseN: 2, Seed: 2}))
	require.NoError(t, err)
	assert.Nil(t, v.Baseline, "the other side is no baseline")
	assert.Len(t, v.Cells, 3)
	assert.Len(t, trialsOf(t, a, u, id, "swing-vertical"), 1)

	shaky, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "shaky", Kind: "jump", Fill: true}, file(t, device.PlatesPlan{NoiseN: 16, Seed: 3}))
	require.NoError(t, err)
	assert.Contains(t, shaky.Verdict, "the stance was not quiet")
	off, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "off", Kind: "jump", Fill: false}, file(t, device.PlatesPlan{NoiseN: 2, StepOff: true, Seed: 4}))
	require.NoError(t, err)
	assert.Contains(t, off.Jump.Flags, jump.StepOff)
	assert.NotNil(t, off.Jump.JumpHeightM)
}

// A captured trial is nobody's until it is kept.
func TestACaptureWaits(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := empty(t, a, u)
	v, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "live", Kind: "jump", Fill: true, Pending: true}, file(t, device.PlatesPlan{NoiseN: 2}))
	require.NoError(t, err)
	assert.Empty(t, trialsOf(t, a, u, id, "cmj"))
	page, err := a.Force(ctx, u, id)
	require.NoError(t, err)
	assert.Empty(t, page.Recordings)
	club := "driver"
	v, err = a.ChangeRecordingTo(ctx, u, v.ID, app.ChangeRecording{Keep: true, Club: &club})
	require.NoError(t, err)
	assert.False(t, v.Pending)
	assert.Equal(t, "driver", v.Club)
	assert.Len(t, trialsOf(t, a, u, id, "cmj"), 1)
	g, err := a.Golfer(ctx, u, id)
	require.NoError(t, err)
	assert.Equal(t, "1 recording", g.Path.Force)
}

// Windows a practice sets hold from then on; findings follow the means of the
// newest day.
func TestOwnWindowsAndFindings(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := empty(t, a, u)
	for i := range uint64(3) {
		_, err := a.AddRecording(
			ctx,
			u,
			id,
			app.NewRecording{Name: "s", Kind: "swing", Date: testkit.Day.Add(-7 * int(i/2))},
			file(t, device.PlatesPlan{Kind: "swing", LateralBW: 0.11, NoiseN: 2, Seed: i}),
		)
		require.NoError(t, err)
	}
	keys := func() map[string]bool {
		p, err := a.Force(ctx, u, id)
		require.NoError(t, err)
		assert.Equal(t, 2, p.SwingMean.Trials)
		assert.Equal(t, 1, p.SwingBefore.Trials)
		out := map[string]bool{}
		for _, f := range p.Findings {
			out[f.Key] = true
		}
		return out
	}
	assert.True(t, keys()["lateral"])
	require.NoError(t, a.SaveForceWindows(ctx, u, map[string][2]float64{"lateral": {0.05, 0.5}}))
	assert.False(t, keys()["lateral"])
	require.NoError(t, a.SaveForceWindows(ctx, u, map[string][2]float64{}))
	assert.True(t, keys()["lateral"], "the shipped ones again")
	for _, bad := range []map[string][2]float64{{"lateral": {2, 1}}, {"lateral": {0, 1e9}}, {"hue": {0, 1}}} {
		assert.Error(t, a.SaveForceWindows(ctx, u, bad))
	}
	done, problems, err := a.Recompute(ctx, u, id, app.ForceSettings{Swing: swing.Settings{CutoffHz: 900}})
	require.NoError(t, err)
	assert.Zero(t, done)
	assert.Len(t, problems, 3, "a filter that cannot be: nothing is changed")
	assert.True(t, keys()["lateral"])
}

// Nobody of another practice reaches a recording.
func TestRecordingsOfOthers(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := empty(t, a, u)
	v, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump"}, file(t, device.PlatesPlan{NoiseN: 2}))
	require.NoError(t, err)
	other, err := a.AddUser(ctx, app.Setup{Email: "other@example.org", Name: "O", Password: "long enough", Practice: "Other", Zone: "UTC"}, false)
	require.NoError(t, err)
	for name, err := range map[string]error{
		"read":  func() error { _, err := a.Recording(ctx, other, v.ID); return err }(),
		"file":  func() error { _, err := a.RecordingFile(ctx, other, v.ID); return err }(),
		"trace": func() error { _, err := a.Traces(ctx, other, v.ID); return err }(),
		"change": func() error {
			_, err := a.ChangeRecordingTo(ctx, other, v.ID, app.ChangeRecording{Keep: true})
			return err
		}(),
		"delete": a.DeleteRecording(ctx, other, v.ID),
		"page":   func() error { _, err := a.Force(ctx, other, id); return err }(),
		"golfer": a.HasGolfer(ctx, other, id),
	} {
		var e *app.Error
		require.ErrorAs(t, err, &e, name)
		assert.Equal(t, app.NotFound, e.Kind, name)
	}
	raw, err := a.RecordingFile(ctx, u, v.ID)
	require.NoError(t, err)
	assert.Equal(t, file(t, device.PlatesPlan{NoiseN: 2}).Bytes(), raw, "as it came")
}

// Files come two at a time: recordings of one golfer that arrive together each
// find a trial of their own in the one screen of the day.
func TestRecordingsThatArriveTogether(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := empty(t, a, u)
	files := make([]*bytes.Buffer, 3)
	for i := range files {
		files[i] = file(t, device.PlatesPlan{HeightM: 0.30 + float64(i)/50, NoiseN: 2, Seed: uint64(i)})
	}
	var wg sync.WaitGroup
	errs := make([]error, len(files))
	for i, f := range files {
		wg.Go(func() {
			_, errs[i] = a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump", Fill: true}, f)
		})
	}
	wg.Wait()
	for _, err := range errs {
		require.NoError(t, err)
	}
	assert.Len(t, trialsOf(t, a, u, id, "cmj"), 3)
}

// What a coach typed over a recording's trial is the coach's: neither reading the
// recording anew nor taking it out touches it.
func TestTypedOverIsTheCoachs(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := empty(t, a, u)
	v, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump", Fill: true}, file(t, device.PlatesPlan{NoiseN: 2}))
	require.NoError(t, err)
	_, err = a.SaveCells(ctx, fresh(t, a, u), v.Cells[0].Screen, nil, []app.Change{{Cell: measure.Cell{Test: "cmj", Trial: 1, Text: "29.5"}}}, 0)
	require.NoError(t, err)
	settings := v.Settings
	settings.Jump.CutoffHz = 30
	_, err = a.ChangeRecordingTo(ctx, u, v.ID, app.ChangeRecording{Settings: &settings})
	require.NoError(t, err)
	got := trialsOf(t, a, u, id, "cmj")
	require.Len(t, got, 1)
	assert.InDelta(t, 29.5, got[0].Value, 1e-9)
	require.NoError(t, a.DeleteRecording(ctx, u, v.ID))
	assert.Len(t, trialsOf(t, a, u, id, "cmj"), 1)
}

// A recording and the trials it fills come together or not at all.
func TestARecordingAndItsTrialsComeTogether(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	id := empty(t, a, u)
	mend := breakOff(t, s, "trials", "INSERT")
	trial := func() *bytes.Buffer { return file(t, device.PlatesPlan{HeightM: 0.3, NoiseN: 2}) }
	_, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump", Fill: true}, trial())
	require.Error(t, err)
	page, err := a.Force(ctx, u, id)
	require.NoError(t, err)
	assert.Empty(t, page.Recordings)
	mend()
	v, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump", Fill: true}, trial())
	require.NoError(t, err, "it can be tried again")
	mend = breakOff(t, s, "recordings", "DELETE")
	require.Error(t, a.DeleteRecording(ctx, u, v.ID))
	assert.Len(t, trialsOf(t, a, u, id, "cmj"), 1, "the trial stays with its recording")
	mend()
}

// An event placed by hand while everything is computed anew is kept, whoever is
// first.
func TestRecomputingKeepsWhatIsPlacedMeanwhile(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := empty(t, a, u)
	var ids []string
	for i := range uint64(4) {
		v, err := a.AddRecording(
			ctx,
			u,
			id,
			app.NewRecording{Name: "s", Kind: "swing", Side: force.RightSided},
			file(t, device.PlatesPlan{Kind: "swing", NoiseN: 2, Seed: i}),
		)
		require.NoError(t, err)
		ids = append(ids, v.ID)
	}
	var wg sync.WaitGroup
	wg.Go(func() {
		for i := range 3 {
			_, problems, err := a.Recompute(ctx, u, id, app.ForceSettings{Swing: swing.Settings{CutoffHz: 40 + float64(i)}})
			assert.NoError(t, err)
			assert.Empty(t, problems)
		}
	})
	placed := 2.3
	for _, r := range ids {
		wg.Go(func() {
			_, err := a.ChangeRecordingTo(ctx, u, r, app.ChangeRecording{Settings: &app.ForceSettings{Swing: swing.Settings{TopS: &placed}}})
			assert.NoError(t, err)
		})
	}
	wg.Wait()
	page, err := a.Force(ctx, u, id)
	require.NoError(t, err)
	require.Len(t, page.Recordings, 4)
	for _, v := range page.Recordings {
		require.NotNil(t, v.Settings.Swing.TopS)
		assert.InDelta(t, placed, *v.Settings.Swing.TopS, 1e-9)
	}
}

// What recordings find outside of its window goes into the golfer's file and is
// answered by the plan; the practice's own windows decide what that is.
func TestFindingsOfRecordingsReachThePlan(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := golfer(t, a, u, testkit.Sound())
	read := func(share float64, seed uint64) {
		_, err := a.AddRecording(ctx, u, id, app.NewRecording{Name: "j", Kind: "jump", Date: testkit.Day}, file(t, device.PlatesPlan{LeadShare: share, Seed: seed}))
		require.NoError(t, err)
	}
	exported := func() []athlete.ForceFinding {
		f, err := a.Export(ctx, u, id)
		require.NoError(t, err)
		require.Empty(t, f.Validate())
		return f.ForceFindings
	}
	assert.Empty(t, exported(), "no recordings yet")
	read(0.58, 1)
	got := exported()
	require.Len(t, got, 1, "the landing goes along with the push")
	assert.Equal(t, "side-difference", got[0].Key)
	assert.Equal(t, "trail", got[0].Weaker, "the lead foot pushes more")
	assert.Equal(t, testkit.Day, got[0].On)

	d, err := a.Draft(ctx, u, id, app.Wanted{Start: testkit.Day})
	require.NoError(t, err)
	assert.Equal(t, "trail", d.Doc.Weaker["side-difference"])
	said := 0
	d.Doc.EachItem(func(it *programme.Item) {
		if strings.Contains(it.Reason.Text, got[0].Sentence) {
			said++
		}
	})
	assert.Positive(t, said, "a reason names it")
	require.NoError(t, a.SaveForceWindows(ctx, u, map[string][2]float64{"side-difference": {0, 40}, "landing-difference": {0, 60}}))
	assert.Empty(t, exported())
}
