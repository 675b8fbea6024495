package training_test

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/readiness"
	"dunnock/internal/core/training"
)

var day = civil.MustParse("2026-11-24")

func at(hour int) time.Time { return time.Date(2026, 11, 24, hour, 0, 0, 0, time.UTC) }

func num[T any](v T) *T { return &v }

func note(device string, clock int64, what training.What, item programme.ID, number int, value any) training.Entry {
	return training.Entry{ID: uuid.NewString(), What: what, Item: item, Number: number, Value: training.Value(value), Clock: clock, At: at(10).Format(time.RFC3339), Device: device}
}

func done(reps int) training.SetDone {
	return training.SetDone{State: training.SetDoneState, Reps: &reps}
}

// Any order of arrival, and anything sent twice, makes the same log.
func TestTheOrderOfArrivalDoesNotMatter(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 7))
	for range 300 {
		var all []training.Entry
		devices := []string{"tablet", "phone", "desk"}
		for n := range 3 + r.IntN(40) {
			e := note(devices[r.IntN(3)], int64(1+r.IntN(12)), training.Set, programme.ID([]string{"a", "b", "c"}[r.IntN(3)]), 1+r.IntN(3), done(r.IntN(9)))
			e.At = at(r.IntN(23)).Format(time.RFC3339)
			switch r.IntN(8) {
			case 0:
				e.What, e.Item, e.Number, e.Value = training.After, "", 0, training.Value(training.How{Effort: num(r.IntN(10))})
			case 1:
				e.What, e.Item, e.Number, e.Value = training.Ended, "", 0, training.Value(training.End{State: training.Done})
			case 2:
				e.Value = json.RawMessage("null")
			}
			if n > 0 && r.IntN(2) == 0 {
				e.Seen = all[r.IntN(len(all))].ID
			}
			all = append(all, e)
		}
		want := training.Value(training.Fold(all))
		for range 6 {
			sent := slices.Concat(all, all[:r.IntN(len(all))])
			r.Shuffle(len(sent), func(i, j int) { sent[i], sent[j] = sent[j], sent[i] })
			require.JSONEq(t, string(want), string(training.Value(training.Fold(sent))))
		}
		// In parts: what has arrived is told again with what comes.
		half := training.Sorted(all[:len(all)/2])
		require.JSONEq(t, string(want), string(training.Value(training.Fold(append(half, all...)))))
	}
}

// A session noted by one device: what stands at each place is the last thing noted there.
func TestALogIsWhatWasNotedLast(t *testing.T) {
	n := training.Notebook{Device: "phone", Session: "s1", At: at(9)}
	n.Note(training.Begun, "", 0, training.Begin{Date: day})
	n.Note(training.Ready, "", 0, readiness.Answers{Sleep: readiness.SleepShort})
	n.Note(training.Set, "a", 1, done(6))
	n.Note(training.Set, "a", 2, done(5))
	n.Note(training.Set, "a", 2, done(4)) // put right
	n.Note(training.Set, "a", -1, done(8))
	n.Note(training.Swap, "b", 0, training.Swapped{Exercise: "lift-goblet-squat", Why: "rack taken"})
	n.Note(training.LeftOut, "c", 0, training.Why{Text: "no time"})
	n.Note(training.After, "", 0, training.How{Effort: num(7), Minutes: num(50)})
	l := training.Fold(n.Entries)
	assert.Equal(t, training.Running, l.State)
	assert.Equal(t, day, l.Date)
	assert.Equal(t, readiness.SleepShort, l.Ready.Sleep)
	sets := l.Item("a").Sets
	require.Len(t, sets, 3)
	assert.Equal(t, []int{-1, 1, 2}, []int{sets[0].Number, sets[1].Number, sets[2].Number}, "warm-up sets first")
	assert.Equal(t, 4, *sets[2].Reps)
	assert.Equal(t, "lift-goblet-squat", l.Item("b").Exercise)
	assert.True(t, l.Item("c").LeftOut)
	load, known := l.Load()
	assert.True(t, known)
	assert.Equal(t, 350.0, load, "effort 7 for 50 minutes (Foster et al. 2001)")
	assert.Empty(t, l.Twice, "one device knows what it noted before")
	n.Note(training.Ended, "", 0, training.End{State: training.Stopped, Why: "knee"})
	l = training.Fold(n.Entries)
	assert.True(t, l.Over())
	assert.Equal(t, "knee", l.Why)
	n.Note(training.LeftOut, "c", 0, nil)
	assert.Nil(t, training.Fold(n.Entries).Item("c"), "taken back")
	assert.Len(t, n.Entries, 11, "and everything is still told")
}

// Two phones note the same set without knowing of each other: one set stands, and both are
// told. One that saw the other's puts it right.
func TestTheSameSetFromTwoPhones(t *testing.T) {
	a := note("phone A", 4, training.Set, "a", 1, done(6))
	b := note("phone B", 4, training.Set, "a", 1, done(5))
	a.By, b.By = "Ansgar", "Runa"
	b.At = at(11).Format(time.RFC3339)
	l := training.Fold([]training.Entry{a, b})
	require.Len(t, l.Item("a").Sets, 1, "nothing twice")
	assert.Equal(t, 5, *l.Item("a").Sets[0].Reps)
	require.Len(t, l.Twice, 1, "nothing lost")
	assert.Equal(t, "5, Runa", l.Twice[0].Stands)
	assert.Equal(t, "6, Ansgar", l.Twice[0].Beside)

	b.Seen = a.ID
	assert.Empty(t, training.Fold([]training.Entry{a, b}).Twice)
	same := note("phone B", 4, training.Set, "a", 1, done(6))
	assert.Empty(t, training.Fold([]training.Entry{a, same}).Twice, "they say the same")
	// A clock that is wrong by a day does not make an old note a new one.
	late := note("phone B", 2, training.Set, "a", 1, done(3))
	late.At = at(10).Add(24 * time.Hour).Format(time.RFC3339)
	assert.Equal(t, 6, *training.Fold([]training.Entry{late, a}).Item("a").Sets[0].Reps)
}

func TestWhatCannotBeIsRefused(t *testing.T) {
	set := func(change func(*training.SetDone)) training.Entry {
		x := done(5)
		change(&x)
		return note("p", 1, training.Set, "a", 1, x)
	}
	for name, c := range map[string]struct {
		e     training.Entry
		field string
		ask   bool
	}{
		"1,000 kg":       {set(func(x *training.SetDone) { x.LoadKg = num(1000.0) }), "value.loadKg", false},
		"300 kg":         {set(func(x *training.SetDone) { x.LoadKg = num(300.0) }), "value.loadKg", true},
		"minus reps":     {set(func(x *training.SetDone) { x.Reps = num(-1) }), "value.reps", false},
		"reserve 12":     {set(func(x *training.SetDone) { x.Reserve = num(12) }), "value.reserve", false},
		"a slow swing":   {set(func(x *training.SetDone) { x.Swings = []training.Swing{{Mps: 4}} }), "value.swings[0]", false},
		"no region":      {set(func(x *training.SetDone) { x.Pain = &training.Hurt{Region: "tail", Level: 2} }), "value.pain", false},
		"a strange set":  {note("p", 1, training.Set, "a", 1, map[string]any{"state": "done", "sets": 3}), "value", false},
		"set 0":          {note("p", 1, training.Set, "a", 0, done(3)), "number", false},
		"of no item":     {note("p", 1, training.Set, "", 1, done(3)), "item", false},
		"effort 11":      {note("p", 1, training.After, "", 0, training.How{Effort: num(11)}), "value.effort", false},
		"600 minutes":    {note("p", 1, training.After, "", 0, training.How{Minutes: num(600)}), "value.minutes", false},
		"no such end":    {note("p", 1, training.Ended, "", 0, training.End{State: "gone"}), "value.state", false},
		"no such kind":   {note("p", 1, "lunch", "", 0, 3), "what", false},
		"no clock":       {note("p", 0, training.Begun, "", 0, training.Begin{Date: day}), "clock", false},
		"no day":         {note("p", 1, training.Begun, "", 0, training.Begin{}), "value.date", false},
		"a bad answer":   {note("p", 1, training.Ready, "", 0, readiness.Answers{Sleep: "much"}), "value.sleep", false},
		"swap of nobody": {note("p", 1, training.Swap, "", 0, training.Swapped{}), "item", false},
	} {
		p := training.Check(&c.e)
		if assert.NotNil(t, p, name) {
			assert.Equal(t, c.field, p.Field, name)
			assert.Equal(t, c.ask, p.Ask, name)
			assert.NotEmpty(t, p.Text)
		}
	}
	sure := set(func(x *training.SetDone) { x.LoadKg, x.Sure = num(300.0), true })
	assert.Nil(t, training.Check(&sure))
	back := set(func(*training.SetDone) {})
	back.Value = json.RawMessage("null")
	assert.Nil(t, training.Check(&back))
}

func TestASetInWords(t *testing.T) {
	assert.Equal(t, "6 at 62.5 kg, 2 left", training.SetDone{State: training.SetDoneState, Reps: num(6), LoadKg: num(62.5), Reserve: num(2)}.Words())
	assert.Equal(t, "30 s, stopped", training.SetDone{State: training.SetStoppedState, Seconds: num(30)}.Words())
	assert.Equal(t, "2 swings, best 44.1 m/s", training.SetDone{State: training.SetDoneState, Swings: []training.Swing{{Mps: 43}, {Mps: 44.1}, {Mps: 47, Void: true}}}.Words())
	assert.Equal(t, "skipped: rack taken", training.SetDone{State: training.SetSkippedState, Note: "rack taken"}.Words())
}

// Whatever bytes arrive as a value, an entry is checked and folded without a fault.
func FuzzEntries(f *testing.F) {
	f.Add("set", "a", 1, []byte(`{"state":"done","reps":5}`))
	f.Add("ready", "", 0, []byte(`{"pain":[{"region":"hip","level":3}]}`))
	f.Add("ended", "", 0, []byte(`{"state":"done"`))
	f.Fuzz(func(t *testing.T, what, item string, number int, value []byte) {
		e := training.Entry{ID: "x", What: training.What(what), Item: programme.ID(item), Number: number, Value: value, Clock: 1, At: at(9).Format(time.RFC3339)}
		_ = training.Words(&e)
		l := training.Fold([]training.Entry{e})
		if training.Check(&e) == nil && json.Valid(value) && string(value) != "null" {
			require.Equal(t, 1, l.Entries)
		}
	})
}
