package store_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

func practice(t *testing.T, s *store.Store, email string) (*store.Practice, *store.User) {
	t.Helper()
	u, err := s.CreatePractice(context.Background(), store.User{Email: email, Name: "Coach", PasswordHash: "x", Practice: "Practice", Zone: "UTC"}, false)
	require.NoError(t, err)
	return s.For(u.PracticeID), u
}

func TestAGolferComesBackAsStored(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	f := testkit.Strong()
	f.School = "strength-first"
	share := 60
	f.OtherSideShare = &share
	f.Limits = []athlete.Limit{{Region: "knee", Kind: athlete.LoadCap, CapKg: 80, Until: civil.MustParse("2027-01-01"), SetBy: "doctor", Note: "n"}}
	f.Competitions = []athlete.Competition{{Date: civil.MustParse("2027-02-01"), Name: "Match", Peak: true}}
	f.Consent = &athlete.Consent{Guardian: "G", On: testkit.Day}
	f.Clearance.Cleared = &athlete.Cleared{Role: "doctor", On: testkit.Day, Note: "fine"}
	f.OffWeeks, f.OffWhy, f.OverheadDegrees = 6, athlete.OffWork, 150
	f.Away = []athlete.Away{{From: testkit.Day, To: testkit.Day.Add(3), Why: "the sea"}}
	f.AcceptedJoints = []athlete.AcceptedJoint{{Joint: "hip", Side: "lead", Why: "arthritis"}}
	f.Pinches = []athlete.Pinch{{Joint: "hip", Side: "trail"}}
	f.EndedLimits = []athlete.EndedLimit{{Region: "knee", On: testkit.Day, Why: "seen"}}
	f.ForceFindings = []athlete.ForceFinding{{Key: "side-difference", On: testkit.Day, Sentence: "Unlike.", Weaker: "trail"}}
	f.Training.KitAt = map[string][]string{athlete.AtHome: {"band"}}
	f.Training.Plates = []float64{20, 1.25}
	f.Screens[0].Trials = append(f.Screens[0].Trials, measure.Trial{Test: "row", Number: 1, Status: measure.Stopped, Region: "wrist-hand", Tingling: true})
	id, err := p.CreateAthlete(ctx, f)
	require.NoError(t, err)
	require.NoError(t, p.ImportScreens(ctx, id, f.Screens))

	got, err := p.File(ctx, id)
	require.NoError(t, err)
	got.Facts.AsOf, got.Facts.Units = f.AsOf, f.Units // the day and the units are the practice's
	want, _ := json.Marshal(f)
	have, _ := json.Marshal(got.Facts)
	assert.JSONEq(t, string(want), string(have))
}

func TestPracticesNeverSeeEachOther(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	a, _ := practice(t, s, "a@example.org")
	b, _ := practice(t, s, "b@example.org")
	id, err := a.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	screen, err := a.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
	require.NoError(t, err)

	_, err = b.Athlete(ctx, id)
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = b.Screen(ctx, screen)
	require.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, b.UpdateAthlete(ctx, id, 1, testkit.Strong()), store.ErrNotFound)
	assert.ErrorIs(t, b.Erase(ctx, id), store.ErrNotFound)
	assert.ErrorIs(t, save(b.SaveScreen(ctx, screen, nil, nil)), store.ErrNotFound)
	require.NoError(t, a.PutCalendarAddress(ctx, id, [32]byte{1}, "A"))
	require.Error(t, b.PutCalendarAddress(ctx, id, [32]byte{2}, "B"))
	require.NoError(t, b.RevokeCalendarAddress(ctx, id))
	_, whose, _, err := s.CalendarOf(ctx, [32]byte{1})
	require.NoError(t, err)
	assert.Equal(t, id, whose, "another practice neither takes nor ends an address")
	_, err = b.CreateScreen(ctx, id, testkit.Day.Add(1), athlete.Circumstances{})
	assert.ErrorIs(t, err, store.ErrNotFound)
	squad, err := b.Squad(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, squad)
}

func TestTheDatabaseRefusesCrossedRows(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	a, _ := practice(t, s, "a@example.org")
	_, other := practice(t, s, "b@example.org")
	id, err := a.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	_, err = s.Pool().Exec(ctx, "INSERT INTO screens (practice_id, athlete_id, date) VALUES ($1, $2, now())", other.PracticeID, id)
	assert.ErrorContains(t, err, "foreign key")
	_, err = s.Pool().Exec(ctx, "INSERT INTO trials (practice_id, screen_id, test, number, status) SELECT practice_id, gen_random_uuid(), 'cmj', 1, 'done' FROM athletes")
	assert.Error(t, err, "a done trial without a value")
}

func TestASecondEditorIsToldInsteadOfOverwriting(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	id, err := p.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	require.NoError(t, p.UpdateAthlete(ctx, id, 1, testkit.Weak()))
	assert.ErrorIs(t, p.UpdateAthlete(ctx, id, 1, testkit.Strong()), store.ErrConflict)

	_, err = p.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
	require.NoError(t, err)
	_, err = p.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
	require.ErrorIs(t, err, store.ErrExists)
}

func seen(n int) *int { return &n }

// save is the error of a save whose result is not looked at.
func save(_ *store.Screen, err error) error { return err }

// Two editors write into one screen: different cells both stay; the same cell is
// a clash unless both wrote the same.
func TestTwoEditorsInOneScreen(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	w := testkit.Weak().Athlete
	id, err := p.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	screen, err := p.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{Place: "barn"})
	require.NoError(t, err)
	one := func(test string, side measure.Side, v float64) measure.Trial {
		return testkit.Trials(w, test, side, v)[0]
	}

	require.NoError(t, save(p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: one("mass", "", 60), Seen: seen(0)}})))
	require.NoError(
		t,
		save(p.SaveScreen(ctx, screen, func(c *athlete.Circumstances) { c.Before = "desk" }, []store.Cell{{Trial: one("hip-ir", "lead", 40), Seen: seen(0)}})),
		"another cell, from a sheet that has not seen the first",
	)
	require.NoError(t, save(p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: one("mass", "", 60), Seen: seen(0)}})), "the same value twice is no quarrel")

	got, err := p.Screen(ctx, screen)
	require.NoError(t, err)
	require.Len(t, got.Trials, 2)
	assert.Equal(t, "desk", got.Before)
	assert.Equal(t, "barn", got.Place, "what was not changed stays")

	var clash *store.ClashError
	_, err = p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: one("height", "", 170), Seen: seen(0)}, {Trial: one("mass", "", 61), Seen: seen(0)}})
	require.ErrorAs(t, err, &clash)
	require.Len(t, clash.Cells, 1)
	assert.Equal(t, 1, clash.Cells[0].Index)
	assert.Equal(t, 60.0, clash.Cells[0].Now.Value)
	got, _ = p.Screen(ctx, screen)
	assert.Len(t, got.Trials, 2, "nothing of a clashing save is written")

	require.NoError(
		t,
		save(p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: one("mass", "", 61), Seen: seen(clash.Cells[0].Rev)}})),
		"over what was seen it may be saved",
	)
	_, err = p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: one("mass", "", 0), Clear: true, Seen: seen(clash.Cells[0].Rev)}})
	require.ErrorAs(t, err, &clash, "clearing what somebody changed is a clash too")
	require.NoError(t, save(p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: one("mass", "", 0), Clear: true}})))
	_, err = p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: one("mass", "", 62), Seen: seen(3)}})
	require.ErrorAs(t, err, &clash, "somebody cleared it")
	assert.Nil(t, clash.Cells[0].Now)
}

func TestTheBatteryOfAPractice(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	other, _ := practice(t, s, "b@example.org")
	c, err := p.Battery(ctx)
	require.NoError(t, err)
	assert.Zero(t, c.Revision)
	c.Sets = []measure.Set{{ID: "own-x", Name: "X", Tests: []string{"cmj"}}}
	c.Targets = map[string][]measure.Target{"cmj": {{Value: 30, Spread: 5}}}
	require.NoError(t, p.SaveBattery(ctx, 0, c))
	require.ErrorIs(t, p.SaveBattery(ctx, 0, c), store.ErrConflict)
	got, err := p.Battery(ctx)
	require.NoError(t, err)
	assert.Equal(t, c.Targets, got.Targets)
	assert.Equal(t, 1, got.Revision)
	got.Confidence = 90
	require.NoError(t, p.SaveBattery(ctx, 1, got))
	require.ErrorIs(t, p.SaveBattery(ctx, 1, got), store.ErrConflict)
	empty, err := other.Battery(ctx)
	require.NoError(t, err)
	assert.Empty(t, empty.Sets, "another practice keeps its own")
}

func TestTrialsKeepTheirState(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	id, err := p.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	trials := []measure.Trial{
		{Test: "hip-ir", Side: "lead", Number: 1, Status: measure.Stopped, Pain: 6, Region: "hip", Note: "pinch"},
		{Test: "hip-ir", Side: "trail", Number: 1, Status: measure.Skipped},
		{Test: "push-up", Number: 1, Status: measure.Done, Value: 0, Variant: "strict"},
		testkit.Lift(40, 6, 2.5),
	}
	require.NoError(t, p.ImportScreens(ctx, id, []athlete.Screen{{Date: testkit.Day, Trials: trials}}))
	got, err := p.Screens(ctx, id)
	require.NoError(t, err)
	require.Len(t, got, 1)
	assert.ElementsMatch(t, trials, got[0].Trials)
}

func TestANewerSchemaIsRefused(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	_, err := s.Pool().Exec(ctx, "INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, true)")
	require.NoError(t, err)
	_, err = s.Migrate(ctx)
	assert.ErrorIs(t, err, store.ErrNewer)
}

func TestOnlyOneFirstRun(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	u := store.User{Email: "One@Example.org", Name: "One", PasswordHash: "x", Practice: "P", Zone: "UTC"}
	_, err := s.CreatePractice(ctx, u, true)
	require.NoError(t, err)
	u.Email = "two@example.org"
	_, err = s.CreatePractice(ctx, u, true)
	require.ErrorIs(t, err, store.ErrExists)
	got, err := s.UserByEmail(ctx, " ONE@example.ORG ")
	require.NoError(t, err)
	assert.Equal(t, "One", got.Name)
}

func TestNoQueryCanForgetThePractice(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	id, err := p.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	db := s.Unguarded(ctx)
	var rows []store.AthleteRow
	var n int64
	for name, err := range map[string]error{
		"find":   db.Find(&rows).Error,
		"count":  db.Model(&store.AthleteRow{}).Count(&n).Error,
		"update": db.Model(&store.AthleteRow{}).Where("id = ?", id).Update("name", "x").Error,
		"delete": db.Where("id = ?", id).Delete(&store.AthleteRow{}).Error,
		"create": db.Create(&store.ScreenRow{AthleteID: id}).Error,
		"raw":    db.Raw("SELECT 1").Scan(&n).Error,
		"exec":   db.Exec("DELETE FROM athletes").Error,
	} {
		assert.Error(t, err, name)
	}
	assert.ErrorContains(t, db.Find(&rows).Error, "without a practice")
	outside := p.OutsideTx(ctx)
	assert.ErrorContains(t, outside.Where("id = ?", id).Delete(&store.AthleteRow{}).Error, "outside of a transaction")
}

func TestEveryChangeRaisesTheDataVersion(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, u := practice(t, s, "a@example.org")
	last := int64(0)
	raised := func(what string, err error) {
		t.Helper()
		require.NoError(t, err)
		now, err := s.UserByID(ctx, u.ID)
		require.NoError(t, err)
		assert.Greater(t, now.DataVersion, last, what)
		last = now.DataVersion
	}
	id, err := p.CreateAthlete(ctx, testkit.Weak())
	raised("create", err)
	raised("update", p.UpdateAthlete(ctx, id, 1, testkit.Weak()))
	raised("address", p.PutCalendarAddress(ctx, id, [32]byte{3}, "C"))
	raised("address again", p.PutCalendarAddress(ctx, id, [32]byte{4}, "C"))
	raised("revoke", p.RevokeCalendarAddress(ctx, id))
	screen, err := p.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
	raised("screen", err)
	raised("trials", save(p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: testkit.Trials(testkit.Weak().Athlete, "mass", "", 60)[0]}})))
	raised("import", p.ImportScreens(ctx, id, []athlete.Screen{{Date: testkit.Day.Add(-9)}}))
	r, err := plan.Generate(testkit.Weak(), method.Shipped(), "t")
	require.NoError(t, err)
	prog, err := p.CreateDraft(ctx, id, "Drafted", store.Editor{Name: "Coach"}, r.Doc)
	raised("draft", err)
	raised("step", p.SaveStep(ctx, prog, 1, "x", store.Editor{Name: "Coach"}, r.Doc))
	raised("undo", p.Step(ctx, prog, -1, store.Editor{Name: "Coach"}))
	raised("issue", p.Issue(ctx, prog, 3, testkit.Day, u.ID, "", r.Doc, []byte("{}")))
	raised("delete screen", p.DeleteScreen(ctx, screen))
	raised("erase", p.Erase(ctx, id))
}
