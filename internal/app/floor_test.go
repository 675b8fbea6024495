package app_test

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/class"
	"dunnock/internal/core/library"
	"dunnock/internal/core/load"
	"dunnock/internal/core/nextdose"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/testkit"
	"dunnock/internal/core/training"
	"dunnock/internal/store"
)

func ptr[T any](v T) *T { return &v }

// onTheFloor is a golfer a week and a day into an issued block.
func onTheFloor(t *testing.T) (*app.App, *app.Actor, *store.Store, string, []app.SessionRow) {
	t.Helper()
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	f := testkit.Strong()
	for i := range f.Screens {
		f.Screens[i].Date = testkit.Day.Add(-20)
	}
	id := golfer(t, a, u, f)
	v, err := a.Draft(ctx, u, id, app.Wanted{Start: testkit.Day.Monday().Add(-7)})
	require.NoError(t, err)
	_, err = a.Issue(ctx, u, v.ID, v.Revision, "for the test")
	require.NoError(t, err)
	week, err := a.FloorWeek(ctx, u, id)
	require.NoError(t, err)
	rows := slices.Concat(week.Past, week.Sessions)
	slices.SortFunc(rows, func(a, b app.SessionRow) int { return a.Date.Sub(b.Date) })
	rows = slices.DeleteFunc(rows, func(r app.SessionRow) bool { return r.Kind != store.LogPlanned })
	return a, u, s, id, rows
}

// ran is a session as a device notes it.
func ran(t *testing.T, a *app.App, u *app.Actor, id string, r app.SessionRow, device string, change func(*programme.Item, int, *training.SetDone) bool) *training.Notebook {
	t.Helper()
	s, err := a.PlannedSession(context.Background(), u, id, r.Session)
	require.NoError(t, err)
	book := &training.Notebook{Device: device, Session: s.ID, At: r.Date.Time().Add(17 * time.Hour)}
	book.Run(s, r.Date, training.How{Effort: ptr(6), Minutes: ptr(50)}, change)
	return book
}

func send(t *testing.T, a *app.App, u *app.Actor, id, session string, entries []training.Entry) *app.FloorSaved {
	t.Helper()
	got, err := a.SaveFloor(context.Background(), u, time.Now(), []app.FloorEntries{{AthleteID: id, Session: session, Entries: entries}})
	require.NoError(t, err)
	return got
}

// What is sent arrives once, in whatever parts and however often, and what cannot be is told
// while the rest stays.
func TestALogArrivesOnce(t *testing.T) {
	ctx := context.Background()
	a, u, s, id, rows := onTheFloor(t)
	book := ran(t, a, u, id, rows[0], "phone", nil)
	send(t, a, u, id, rows[0].Session, book.Entries[:4])
	send(t, a, u, id, rows[0].Session, book.Entries[2:])
	got := send(t, a, u, id, rows[0].Session, book.Entries)
	assert.Empty(t, got.Refused)
	l, err := a.LogHistory(ctx, u, id, rows[0].Session)
	require.NoError(t, err)
	assert.Len(t, l.Entries, len(book.Entries), "nothing twice")
	assert.Equal(t, training.Done, l.Log.State)
	minutes, _ := l.Log.Load()
	assert.Equal(t, 300.0, minutes)
	assert.NotEmpty(t, l.ProgrammeID, "the version it was done under")

	// 1,000 kg and a day that has not come: refused by name, the others taken.
	heavy := programme.ID("")
	wrong := ran(t, a, u, id, rows[1], "phone", func(it *programme.Item, set int, x *training.SetDone) bool {
		if heavy == "" {
			heavy = it.ID
		}
		if set == 1 && it.ID == heavy {
			x.LoadKg = ptr(1000.0)
		}
		return true
	})
	wrong.Entries[0].Value = training.Value(training.Begin{Date: testkit.Day.Add(3)})
	got = send(t, a, u, id, rows[1].Session, wrong.Entries)
	require.Len(t, got.Refused, 2)
	assert.Contains(t, got.Refused[0].Text, "has not come yet")
	assert.Contains(t, got.Refused[1].Text, "1000 kg cannot be")
	l, err = a.LogHistory(ctx, u, id, rows[1].Session)
	require.NoError(t, err)
	assert.Len(t, l.Entries, len(wrong.Entries)-2)

	// A session nobody has, and a golfer of somebody else.
	got = send(t, a, u, id, "no-such", book.Entries[:1])
	require.Len(t, got.Refused, 1)
	other, err := a.AddUser(ctx, app.Setup{Practice: "Q", Zone: "UTC", Name: "M", Email: "m@example.org", Password: "long enough"}, false)
	require.NoError(t, err)
	got = send(t, a, other, id, rows[0].Session, book.Entries[:1])
	require.Len(t, got.Refused, 1, "another practice's golfer is not there")

	// Erased with everything.
	require.NoError(t, a.EraseGolfer(ctx, u, id))
	_, err = s.For(u.PracticeID).SessionLog(ctx, id, rows[0].Session)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// A clock that is wrong by a day is put right, and said.
func TestAClockWrongByADay(t *testing.T) {
	a, u, _, id, rows := onTheFloor(t)
	book := ran(t, a, u, id, rows[0], "phone", nil)
	now := time.Now()
	for i := range book.Entries {
		book.Entries[i].At = now.Add(24 * time.Hour).UTC().Format(time.RFC3339)
	}
	book.Entries[0].Value = training.Value(training.Begin{Date: testkit.Day.Add(1)})
	got, err := a.SaveFloor(context.Background(), u, now.Add(24*time.Hour), []app.FloorEntries{{AthleteID: id, Session: rows[0].Session, Entries: book.Entries}})
	require.NoError(t, err)
	assert.Empty(t, got.Refused)
	require.NotEmpty(t, got.Notes)
	assert.Contains(t, got.Notes[0], "a day ahead")
	assert.Equal(t, testkit.Day, got.Logs[0].Log.Date)
	l, err := a.LogHistory(context.Background(), u, id, rows[0].Session)
	require.NoError(t, err)
	at, err := time.Parse(time.RFC3339, l.Entries[0].At)
	require.NoError(t, err)
	assert.Less(t, at.Sub(now).Abs(), time.Hour)
}

// A log for a version that was withdrawn is kept as done, and says so.
func TestALogOfAWithdrawnVersion(t *testing.T) {
	ctx := context.Background()
	a, u, _, id, rows := onTheFloor(t)
	book := ran(t, a, u, id, rows[0], "phone", nil)
	list, err := a.Programmes(ctx, u, id)
	require.NoError(t, err)
	_, err = a.Withdraw(ctx, u, list[0].ID, "a mistake")
	require.NoError(t, err)
	got := send(t, a, u, id, rows[0].Session, book.Entries)
	assert.Empty(t, got.Refused)
	require.NotEmpty(t, got.Notes)
	assert.Contains(t, got.Notes[0], "withdrawn")
	x, err := a.FloorSession(ctx, u, id, rows[0].Session)
	require.NoError(t, err)
	assert.Contains(t, x.Stop, "withdrawn")
	assert.Equal(t, training.Done, x.Log.State)
	next, err := a.NextDose(ctx, u, id)
	require.NoError(t, err)
	assert.Empty(t, next.Proposals)
}

// A week that rises: what was too easy twice becomes a step up, taken on as a new issued
// version whose note is the rule's sentence, the reason on its items; the log keeps the version
// it was done under.
func TestAWeekThatRises(t *testing.T) {
	ctx := context.Background()
	a, u, _, id, rows := onTheFloor(t)
	before, err := a.Programmes(ctx, u, id)
	require.NoError(t, err)
	for _, r := range rows[:4] {
		book := ran(t, a, u, id, r, "phone", func(it *programme.Item, _ int, x *training.SetDone) bool {
			if it.Exercise == "lift-trap-bar" {
				x.Reserve, x.AsPlanned = ptr(*x.Reserve+2), false
			}
			return true
		})
		send(t, a, u, id, r.Session, book.Entries)
	}
	next, err := a.NextDose(ctx, u, id)
	require.NoError(t, err)
	at := slices.IndexFunc(next.Proposals, func(p nextProposal) bool { return p.Rise })
	require.GreaterOrEqual(t, at, 0)
	p := next.Proposals[at]
	after, err := a.AnswerNextDose(ctx, u, id, []string{p.ID}, nil)
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(after.Proposals, func(x nextProposal) bool { return x.ID == p.ID }))
	list, err := a.Programmes(ctx, u, id)
	require.NoError(t, err)
	require.Len(t, list, len(before)+1)
	assert.Equal(t, store.Issued, list[0].Status)
	assert.Contains(t, list[0].Note, p.Text)
	v, err := a.Programme(ctx, u, list[0].ID)
	require.NoError(t, err)
	found := false
	v.Doc.EachItem(func(it *programme.Item) { found = found || it.Note == p.Text })
	assert.True(t, found, "the reason stands on its item")
	l, err := a.LogHistory(ctx, u, id, rows[0].Session)
	require.NoError(t, err)
	assert.Equal(t, before[0].ID, l.ProgrammeID, "the log keeps its version")
	_, err = a.AnswerNextDose(ctx, u, id, []string{p.ID}, nil)
	assert.Equal(t, app.Conflict, kind(t, err), "taken on once")
}

// A week that falls after pain: what hurt five of ten is spared at once, as a limit on the
// golfer and in a new version, without being asked.
func TestPainActsAtOnce(t *testing.T) {
	ctx := context.Background()
	a, u, _, id, rows := onTheFloor(t)
	book := ran(t, a, u, id, rows[0], "phone", func(it *programme.Item, set int, x *training.SetDone) bool {
		if it.Exercise == "lift-trap-bar" && set == 2 {
			x.State, x.Pain = training.SetStoppedState, &readiness.Pain{Region: "knee", Level: 5}
		}
		return true
	})
	send(t, a, u, id, rows[0].Session, book.Entries)
	g, err := a.Golfer(ctx, u, id)
	require.NoError(t, err)
	require.Len(t, g.Facts.Limits, 1)
	assert.Equal(t, "knee", g.Facts.Limits[0].Region)
	list, err := a.Programmes(ctx, u, id)
	require.NoError(t, err)
	assert.Contains(t, list[0].Note, "Knee hurt 5 of 10")
	next, err := a.NextDose(ctx, u, id)
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(next.Answers, func(x store.DoseAnswer) bool { return x.ByItself && x.Rule == "PAIN-LIMIT" }))
	v, err := a.Programme(ctx, u, list[0].ID)
	require.NoError(t, err)
	for _, w := range v.Doc.Blocks[0].Weeks {
		for _, s := range w.Sessions {
			for _, it := range s.Items {
				if e, ok := library.Shipped().Find(it.Exercise); ok && !s.Date.Before(testkit.Day) {
					_, blocked := e.Blocked(g.Facts.Limits)
					assert.False(t, blocked, "%s on %s", e.Name, s.Date)
				}
			}
		}
	}
	// Sent again, nothing more happens.
	send(t, a, u, id, rows[0].Session, book.Entries)
	again, err := a.Programmes(ctx, u, id)
	require.NoError(t, err)
	assert.Len(t, again, len(list))
}

// Small steps pass by themselves where the practice says so, never a junior's.
func TestSmallStepsByThemselves(t *testing.T) {
	ctx := context.Background()
	a, u, _, id, rows := onTheFloor(t)
	_, err := a.SaveFloorSettings(ctx, u, store.FloorSettings{SmallSteps: true, RecentDays: 2, UsualDays: 28})
	assert.Equal(t, app.Invalid, kind(t, err))
	_, err = a.SaveFloorSettings(ctx, u, store.FloorSettings{SmallSteps: true, RecentDays: 7, UsualDays: 28})
	require.NoError(t, err)
	for _, r := range rows[:3] {
		book := ran(t, a, u, id, r, "phone", func(it *programme.Item, _ int, x *training.SetDone) bool {
			if it.Slot == library.SlotPull && it.Dose.LoadKg == nil && it.Dose.Reserve != nil {
				x.LoadKg, x.AsPlanned = ptr(30.0), false
			}
			return true
		})
		send(t, a, u, id, r.Session, book.Entries)
	}
	next, err := a.NextDose(ctx, u, id)
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(next.Answers, func(x store.DoseAnswer) bool { return x.ByItself && x.Rule == "LEVEL" }), "%+v", next.Answers)
}

// Twenty golfers of a class are logged at once, by two devices, each part sent twice: every set
// is there once.
func TestTwentyGolfersAtOnce(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	var ids []string
	for i := range 20 {
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("Golfer %02d", i)
		ids = append(ids, golfer(t, a, u, f))
	}
	v, err := a.PlanClass(ctx, u, app.ClassRequest{Date: testkit.Day, Name: "Squad", Start: "18:00", Athletes: ids, Ask: class.Ask{Minutes: 75, Coaches: 2}}, false)
	require.NoError(t, err)
	assert.Len(t, v.Golfers, 20)
	var wg sync.WaitGroup
	sets := map[string]int{}
	for _, id := range ids {
		items, err := a.ClassItems(ctx, u, v.ID, id)
		require.NoError(t, err)
		for _, device := range []string{"tablet", "phone"} {
			book := training.Notebook{Device: device, Session: programme.ID("class-" + v.ID), At: testkit.Day.Time().Add(18 * time.Hour)}
			book.Run(&programme.Session{Items: items}, testkit.Day, training.How{Effort: ptr(5), Minutes: ptr(75)}, nil)
			for range 2 {
				wg.Go(func() {
					_, err := a.SaveFloor(ctx, u, time.Now(), []app.FloorEntries{{AthleteID: id, Session: string(book.Session), Entries: book.Entries}})
					assert.NoError(t, err)
				})
			}
		}
		for i := range items {
			sets[id] += items[i].Dose.Sets
		}
	}
	wg.Wait()
	got, err := a.Class(ctx, u, v.ID)
	require.NoError(t, err)
	for _, g := range got.Golfers {
		n := 0
		for _, it := range g.Log.Items {
			n += len(it.Sets)
		}
		assert.Equal(t, sets[g.ID], n, g.Name)
		assert.Equal(t, training.Done, g.Log.State)
		assert.Empty(t, g.Log.Twice, "both said the same")
	}
	assert.Equal(t, app.Refused, kind(t, a.DeleteClass(ctx, u, v.ID)), "something was logged of it")
	loads, err := a.Load(ctx, u, ids[0])
	require.NoError(t, err)
	assert.Equal(t, 375.0, *loads.Days[len(loads.Days)-1].Load)
	assert.Positive(t, loads.Weeks[0].Done.Throws)
	today, err := a.TodayPage(ctx, u)
	require.NoError(t, err)
	assert.Len(t, today.Classes, 1)

	// One of them is erased: the class goes on without them.
	require.NoError(t, a.EraseGolfer(ctx, u, ids[3]))
	got, err = a.Class(ctx, u, v.ID)
	require.NoError(t, err)
	assert.Len(t, got.Golfers, 19)
	c, err := s.For(u.PracticeID).Class(ctx, v.ID)
	require.NoError(t, err)
	b, err := json.Marshal(c.Class)
	require.NoError(t, err)
	assert.NotContains(t, string(b), ids[3])
}

// The easier version is proposed with its reasons, and what is run and counted is what was
// taken.
func TestTheEasierVersionIsRun(t *testing.T) {
	ctx := context.Background()
	a, u, _, id, rows := onTheFloor(t)
	answers := readiness.Answers{Illness: readiness.Cold}
	l, err := a.Ease(ctx, u, id, rows[0].Session, &answers)
	require.NoError(t, err)
	require.NotEmpty(t, l.Changes)
	_, err = a.Ease(ctx, u, id, rows[0].Session, &readiness.Answers{Sleep: "much"})
	assert.Equal(t, app.Invalid, kind(t, err))
	planned, err := a.FloorSession(ctx, u, id, rows[0].Session)
	require.NoError(t, err)
	book := training.Notebook{Device: "phone", Session: programme.ID(rows[0].Session), At: time.Now()}
	book.Note(training.Begun, "", 0, training.Begin{Date: testkit.Day})
	book.Note(training.Ready, "", 0, answers)
	book.Note(training.Version, "", 0, training.Taken{Easier: true})
	send(t, a, u, id, rows[0].Session, book.Entries)
	easier, err := a.FloorSession(ctx, u, id, rows[0].Session)
	require.NoError(t, err)
	assert.NotEmpty(t, easier.Easier)
	assert.Less(t, len(easier.Sheet.Steps), len(planned.Sheet.Steps))
	assert.NotEmpty(t, easier.WarmUp)
	for _, p := range easier.Sheet.Pieces {
		for _, x := range p.Instead {
			e, ok := library.Shipped().Find(x.Exercise)
			require.True(t, ok)
			assert.Empty(t, e.MissingKit(testkit.FullKit()))
			assert.NotEmpty(t, x.DoseText)
		}
	}
}

type nextProposal = nextdose.Proposal

// A file of logs comes in once however often it is read, is taken back whole, and a wrong row
// keeps all of it out.
func TestLogsFromAFile(t *testing.T) {
	ctx := context.Background()
	a, u, _, id, rows := onTheFloor(t)
	s, err := a.PlannedSession(ctx, u, id, rows[0].Session)
	require.NoError(t, err)
	file := fmt.Sprintf("date,session,title,item,exercise,set,load_kg,reps,left,effort,minutes\n%s,%s,,%s,,1,50,5,2,6,50\n2026-11-10,,Hotel gym,,Hotel squats,1,20,10,3,5,30\n2026-11-10,,Hotel gym,,Hotel squats,2,20,10,3,5,30\n", rows[0].Date, rows[0].Session, s.Items[0].ID)
	read, err := a.ImportLogs(ctx, u, id, []byte(file), false)
	require.NoError(t, err)
	assert.False(t, read.Saved)
	assert.Len(t, read.Sessions, 2)
	assert.Equal(t, 3, read.Sets)
	for range 2 {
		read, err = a.ImportLogs(ctx, u, id, []byte(file), true)
		require.NoError(t, err)
		assert.True(t, read.Saved)
	}
	week, err := a.FloorWeek(ctx, u, id)
	require.NoError(t, err)
	other := slices.IndexFunc(week.Past, func(r app.SessionRow) bool { return r.Title == "Hotel gym" })
	require.GreaterOrEqual(t, other, 0, "a session of its own")
	l, err := a.LogHistory(ctx, u, id, week.Past[other].Session)
	require.NoError(t, err)
	assert.Equal(t, 6, l.Log.Entries, "begun, what it was, two sets, how it was, ended")
	page, err := a.Load(ctx, u, id)
	require.NoError(t, err)
	assert.Equal(t, 150.0, *page.Days[slices.IndexFunc(page.Days, func(d loadDay) bool { return d.Sessions == 1 && d.Date == week.Past[other].Date })].Load)

	list, name, err := a.Logs(ctx, u, id)
	require.NoError(t, err)
	assert.Equal(t, "Worked A", name)
	assert.Len(t, list, 2)

	require.NoError(t, a.TakeBackLogs(ctx, u, id, read.Sessions))
	l, err = a.LogHistory(ctx, u, id, week.Past[other].Session)
	require.NoError(t, err)
	assert.Empty(t, l.Log.State)
	assert.Empty(t, l.Log.Items)
	assert.Greater(t, l.Log.Entries, 6, "the history keeps it")

	read, err = a.ImportLogs(ctx, u, id, []byte(file+"2027-01-01,,New year,,Squats,1,2000,5,2,5,30\n"), true)
	require.NoError(t, err)
	assert.False(t, read.Saved)
	assert.NotEmpty(t, read.Errors)
	_, err = a.ImportLogs(ctx, u, id, []byte("nothing"), true)
	assert.Equal(t, app.Invalid, kind(t, err))
}

type loadDay = load.Day
