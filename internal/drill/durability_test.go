package drill

import (
	"bytes"
	"context"
	"fmt"
	"math/rand/v2"
	"net/http"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
)

// TestDurability kills the program and its database at random while cells,
// golfer files, imports, undos and programme edits are written, and compares what
// is there afterwards with what was acknowledged. DUNNOCK_KILLS is how often.
func TestDurability(t *testing.T) {
	kills := scale("DUNNOCK_KILLS", 4)
	s := begin(t)
	w := newWorld(t, s)
	ctx, stop := context.WithCancel(context.Background())
	var wg sync.WaitGroup
	for i, work := range []func(context.Context, int){w.cells, w.cells, w.files, w.imports, w.imports, w.programmes, w.logs, w.logs} {
		wg.Go(func() { work(ctx, i) })
	}
	rng := rand.New(rand.NewPCG(uint64(kills), 9))
	servers, databases := 0, 0
	for range kills {
		time.Sleep(time.Duration(200+rng.IntN(900)) * time.Millisecond)
		if rng.IntN(2) == 0 {
			servers++
			s.kill()
			s.start()
		} else {
			databases++
			s.killDatabase()
			require.Eventually(t, s.healthy, time.Minute, 20*time.Millisecond, "the database did not come back")
		}
	}
	// A machine that is busy may leave no kind of write a quiet moment between the
	// kills: the work goes on until each was acknowledged.
	for kind, what := range []string{"cells", "golfer files", "imports", "undos", "edits of programmes", "sets of a class"} {
		require.Eventually(t, func() bool { return w.n[kind].Load() > 0 }, 2*time.Minute, 20*time.Millisecond,
			"no %s were acknowledged: nothing was held against them", what)
	}
	stop()
	wg.Wait()
	w.compare(t)
	t.Logf(
		"%d kills (%d of the program, %d of the database); acknowledged: %d cells, %d golfer files, %d imports, %d undos, %d edits of programmes, %d sets of a class; nothing lost, half or stuck",
		kills,
		servers,
		databases,
		w.n[0].Load(),
		w.n[1].Load(),
		w.n[2].Load(),
		w.n[3].Load(),
		w.n[4].Load(),
		w.n[5].Load(),
	)
}

// attempt is what was tried with one thing since it was last acknowledged.
type attempt struct {
	acked string   // the last value acknowledged
	since []string // tried after it without an answer
}

func (a *attempt) tried(v string, acked bool) {
	if acked {
		a.acked, a.since = v, nil
	} else {
		a.since = append(a.since, v)
	}
}

func (a *attempt) allows(v string) bool { return v == a.acked || slices.Contains(a.since, v) }

type world struct {
	s       *server
	screens []string // one a golfer
	golfers []string
	class   string          // of all of them
	noted   map[string]bool // entries of its logs by id: acknowledged
	prog    string
	n       [6]atomic.Int64

	mu      sync.Mutex
	cell    map[string]*attempt // by screen and trial
	file    map[string]bool     // golfer files by name: acknowledged
	brought map[string]*bring   // imports by id
	edits   int                 // acknowledged edits of the programme, at least
	most    int                 // and at most
}

type bring struct {
	names           []string
	committed, gone bool // acknowledged as saved, as taken back
}

func newWorld(t *testing.T, s *server) *world {
	t.Helper()
	w := &world{s: s, noted: map[string]bool{}, cell: map[string]*attempt{}, file: map[string]bool{}, brought: map[string]*bring{}}
	c := s.client()
	for i := range 4 {
		var a struct{ ID string }
		status, got := c.call(
			"POST",
			"/athletes",
			m{"profile": m{"name": fmt.Sprintf("Cell Golfer %d", i), "birthDate": "1990-01-02", "playingSide": "right", "trainingMonths": 30, "sex": "male"}},
			&a,
		)
		require.Equal(t, http.StatusCreated, status, "%s", got)
		var sc struct{ ID string }
		status, got = c.call("POST", "/athletes/"+a.ID+"/screens", m{"date": today}, &sc)
		require.Equal(t, http.StatusCreated, status, "%s", got)
		w.screens = append(w.screens, sc.ID)
		w.golfers = append(w.golfers, a.ID)
		if i == 0 {
			var p struct{ ID string }
			status, got = c.call("POST", "/athletes/"+a.ID+"/programmes", m{}, &p)
			require.Equal(t, http.StatusCreated, status, "%s", got)
			w.prog = p.ID
		}
	}
	var class struct{ ID string }
	status, got := c.call("POST", "/classes", m{"date": today, "name": "Drill", "minutes": 60, "athletes": w.golfers}, &class)
	require.Equal(t, http.StatusOK, status, "%s", got)
	w.class = class.ID
	return w
}

// logs ticks sets of the class for all its golfers at once, each batch sent until it is
// answered, as a tablet in a cellar does.
func (w *world) logs(ctx context.Context, worker int) {
	c := w.s.client()
	for i := 1; ctx.Err() == nil; i++ {
		var sessions []m
		var ids []string
		for g, id := range w.golfers {
			entry := uuid.NewString()
			ids = append(ids, entry)
			sessions = append(sessions, m{"athleteId": id, "session": "class-" + w.class, "entries": []m{{
				"id": entry, "what": "set", "item": fmt.Sprintf("x-%d-%d", worker, g), "number": 1 + i%30, "value": m{"state": "done", "reps": i % 20},
				"clock": i, "at": time.Now().UTC().Format(time.RFC3339), "device": fmt.Sprint("tablet ", worker),
			}}})
		}
		for ctx.Err() == nil {
			status, _ := c.call("POST", "/floor/entries", m{"sentAt": time.Now().UTC().Format(time.RFC3339), "sessions": sessions}, nil)
			if status == http.StatusOK {
				w.mu.Lock()
				for _, id := range ids {
					w.noted[id] = true
				}
				w.mu.Unlock()
				w.n[5].Add(int64(len(ids)))
				break
			}
			time.Sleep(30 * time.Millisecond)
		}
		time.Sleep(20 * time.Millisecond)
	}
}

// compareLogs looks for every acknowledged entry in the history of its log, once.
func (w *world) compareLogs(t *testing.T, c *client) {
	seen := map[string]int{}
	for _, id := range w.golfers {
		var told []struct{ ID string }
		status, got := c.call("GET", "/athletes/"+id+"/floor/class-"+w.class+"/history", nil, &told)
		require.Equal(t, http.StatusOK, status, "%s", got)
		for _, e := range told {
			seen[e.ID]++
		}
	}
	for id := range w.noted {
		assert.Equal(t, 1, seen[id], "a set that was acknowledged")
	}
}

// cells saves ever new values into size tests, which need no clearance.
func (w *world) cells(ctx context.Context, worker int) {
	c := w.s.client()
	for i := 0; ctx.Err() == nil; i++ {
		screen := w.screens[(2*worker+i%2)%len(w.screens)]
		side := []string{"lead", "trail"}[worker%2]
		v := fmt.Sprintf("%.1f", 20+float64(i%400)/10)
		status, _ := c.call("PATCH", "/screens/"+screen, m{"cells": []m{{"test": "hip-ir", "side": side, "trial": 1 + i%2, "text": v}}}, nil)
		w.mu.Lock()
		key := fmt.Sprint(screen, side, 1+i%2)
		if w.cell[key] == nil {
			w.cell[key] = &attempt{}
		}
		w.cell[key].tried(v, status == http.StatusOK)
		w.mu.Unlock()
		if status == http.StatusOK {
			w.n[0].Add(1)
		} else {
			time.Sleep(30 * time.Millisecond)
		}
	}
}

// files brings in golfers' exports, each with two screens.
func (w *world) files(ctx context.Context, _ int) {
	c := w.s.client()
	for i := 0; ctx.Err() == nil; i++ {
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("File Golfer %d", i)
		second := f.Screens[0]
		second.Date = second.Date.Add(-30)
		f.Screens = append(f.Screens, second)
		var b bytes.Buffer
		if err := formats.WriteJSON(&b, f); err != nil {
			panic(err)
		}
		w.mu.Lock()
		w.file[f.Athlete.Name] = false
		w.mu.Unlock()
		// Tried until it is answered: created, or there already by an earlier try.
		for ctx.Err() == nil {
			status, _ := c.call("POST", "/golfer-files", b.Bytes(), nil)
			if status == http.StatusCreated || status == http.StatusConflict {
				w.mu.Lock()
				w.file[f.Athlete.Name] = true
				w.mu.Unlock()
				w.n[1].Add(1)
				break
			}
			time.Sleep(30 * time.Millisecond)
		}
		time.Sleep(40 * time.Millisecond)
	}
}

// imports uploads, checks and saves tables of new golfers, and takes every third
// back.
func (w *world) imports(ctx context.Context, worker int) {
	c := w.s.client()
	type upload struct {
		ID, State string
		Mapping   m
	}
	settled := func(id string) (u upload, ok bool) {
		for ctx.Err() == nil {
			if status, _ := c.call("GET", "/uploads/"+id, nil, &u); status == http.StatusOK && u.State != "checking" && u.State != "saving" {
				return u, true
			}
			time.Sleep(20 * time.Millisecond)
		}
		return u, false
	}
	for i := 0; ctx.Err() == nil; i++ {
		b := &bring{}
		table := "golfer,birthDate,playingSide,date,test,side,trial,value\n"
		for g := range 5 {
			name := fmt.Sprintf("Import Golfer %d %d %d", worker, i, g)
			b.names = append(b.names, name)
			for trial := 1; trial <= 2; trial++ {
				table += fmt.Sprintf("%s,1990-01-02,right,2026-11-02,hip-ir,lead,%d,3%d\n", name, trial, g)
			}
		}
		var u upload
		if status, _ := c.call("POST", "/uploads?name=f.csv", []byte(table), &u); status != http.StatusCreated {
			time.Sleep(30 * time.Millisecond)
			continue
		}
		w.mu.Lock()
		w.brought[u.ID] = b
		w.mu.Unlock()
		u.Mapping["addGolfers"] = true
		id, mapping := u.ID, u.Mapping
		for ctx.Err() == nil {
			u, ok := settled(id)
			if !ok {
				return
			}
			if u.State == "saved" {
				break
			}
			if u.State == "checked" {
				c.call("POST", "/uploads/"+id+"/commit", m{}, nil)
			} else {
				c.call("POST", "/uploads/"+id+"/check", mapping, nil)
			}
			time.Sleep(15 * time.Millisecond)
		}
		if ctx.Err() != nil {
			return
		}
		w.mu.Lock()
		b.committed = true
		w.mu.Unlock()
		w.n[2].Add(1)
		for i%3 == 0 && ctx.Err() == nil {
			status, _ := c.call("POST", "/uploads/"+id+"/undo", nil, nil)
			if status == http.StatusOK {
				w.mu.Lock()
				b.gone = true
				w.mu.Unlock()
				w.n[3].Add(1)
				break
			}
			time.Sleep(20 * time.Millisecond)
		}
	}
}

// programmes changes a draft back and forth.
func (w *world) programmes(ctx context.Context, _ int) {
	c := w.s.client()
	for i := 0; ctx.Err() == nil; i++ {
		var p struct {
			Revision  int
			Programme derive.Programme
		}
		if status, _ := c.call("GET", "/programmes/"+w.prog, nil, &p); status != http.StatusOK {
			time.Sleep(30 * time.Millisecond)
			continue
		}
		item := p.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0].ID
		w.mu.Lock()
		w.most++
		w.mu.Unlock()
		status, _ := c.call(
			"POST",
			"/programmes/"+w.prog+"/edits",
			m{"revision": p.Revision, "edit": m{"kind": "dose", "at": item, "scope": "cell", "dose": m{"sets": 1 + i%6}}},
			nil,
		)
		if status == http.StatusOK {
			w.mu.Lock()
			w.edits++
			w.mu.Unlock()
			w.n[4].Add(1)
		}
		time.Sleep(50 * time.Millisecond)
	}
}

// compare holds what is there against what was acknowledged.
func (w *world) compare(t *testing.T) {
	t.Helper()
	ctx := context.Background()
	c := w.s.client()
	db := w.s.database()
	practices, err := db.Practices(ctx)
	require.NoError(t, err)
	p := db.For(practices[0])
	for _, id := range w.screens {
		sc, err := p.Screen(ctx, id)
		require.NoError(t, err)
		for _, tr := range sc.Trials {
			a := w.cell[fmt.Sprint(id, tr.Side, tr.Number)]
			require.NotNil(t, a)
			v := fmt.Sprintf("%.1f", tr.Value)
			assert.True(t, a.allows(v), "cell %s: there is %s, acknowledged was %s, tried since %v", tr.Key(), v, a.acked, a.since)
		}
	}
	w.compareLogs(t, c)
	files, err := p.Files(ctx, nil)
	require.NoError(t, err)
	there := map[string]*athlete.File{}
	for i := range files {
		name := files[i].Facts.Athlete.Name
		require.Nil(t, there[name], "%s is there twice", name)
		there[name] = &files[i].Facts
	}
	whole := len(testkit.Strong().Screens[0].Trials)
	for name, acked := range w.file {
		f := there[name]
		if f == nil {
			assert.False(t, acked, "%s was acknowledged and is gone", name)
			continue
		}
		require.Len(t, f.Screens, 2, "%s is there by half", name)
		for _, s := range f.Screens {
			assert.Len(t, s.Trials, whole, "%s is there by half", name)
		}
	}
	for id, b := range w.brought {
		var u struct{ State, Note string }
		require.Eventually(t, func() bool {
			status, _ := c.call("GET", "/uploads/"+id, nil, &u)
			return status == http.StatusOK && u.State != "checking" && u.State != "saving"
		}, 40*time.Second, 50*time.Millisecond, "an import is stuck")
		n := 0
		for _, name := range b.names {
			if f := there[name]; f != nil {
				n++
				assert.True(t, len(f.Screens) == 1 && len(f.Screens[0].Trials) == 2, "%s is there by half", name)
			}
		}
		want := 0
		if u.State == "saved" {
			want = len(b.names)
		}
		assert.Equal(t, want, n, "import %s says %s (%s)", id, u.State, u.Note)
		if b.committed && !b.gone {
			assert.Contains(t, []string{"saved", "undone"}, u.State)
		}
		if b.gone {
			assert.Equal(t, "undone", u.State)
		}
	}
	prog, err := p.Programme(ctx, w.prog)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, prog.Revision, 1+w.edits)
	assert.LessOrEqual(t, prog.Revision, 1+w.most)
	status, got := c.call("POST", "/athletes", m{"profile": m{"name": "The last one", "birthDate": "1990-01-02", "playingSide": "left", "trainingMonths": 0}}, nil)
	assert.Equal(t, http.StatusCreated, status, "it still works: %s", strings.TrimSpace(string(got)))
}
