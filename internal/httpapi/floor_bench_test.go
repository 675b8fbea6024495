package httpapi_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
	"dunnock/internal/core/training"
	"dunnock/internal/store"
)

// BenchmarkFloor asks the pages of the floor 400 times by 8 clients at once, of 200 golfers who
// all train by an issued version and have logged three sessions a week for a year, and reports
// the 95th percentile of the answer times. Each page was asked for once before; "after a change"
// asks 100 times alone, each time after something of the practice changed.
func BenchmarkFloor(b *testing.B) {
	const golfers, clients, requests, weeks = 200, 8, 400, 52
	ctx := context.Background()
	s := newServer(b)
	u, err := s.app.AddUser(ctx, app.Setup{Practice: "P", Zone: "UTC", Name: "N", Email: "n@example.org", Password: "long enough"}, false)
	require.NoError(b, err)
	p := s.store.For(u.PracticeID)
	today := s.app.Today("UTC")
	f := testkit.Strong()
	f.AsOf, f.StartDate = today, today.Monday().Add(-7)
	made, err := plan.Generate(f, method.Shipped(), "t")
	require.NoError(b, err)
	frozen, err := method.Shipped().Freeze(made.Doc)
	require.NoError(b, err)
	first := &made.Doc.Blocks[0].Weeks[0].Sessions[0]
	book := training.Notebook{Device: "d", Session: first.ID, At: time.Now()}
	effort, minutes := 6, 55
	book.Run(first, first.Date, training.How{Effort: &effort, Minutes: &minutes}, nil)
	doc, err := json.Marshal(training.Fold(book.Entries))
	require.NoError(b, err)
	var athletes []string
	for i := range golfers {
		f.Athlete.Name = fmt.Sprintf("Golfer %03d", i)
		id, err := p.CreateAthlete(ctx, f)
		require.NoError(b, err)
		require.NoError(b, p.ImportScreens(ctx, id, f.Screens))
		prog, err := p.CreateDraft(ctx, id, "Drafted", store.Editor{Name: "Coach"}, made.Doc)
		require.NoError(b, err)
		require.NoError(b, p.Issue(ctx, prog, 1, today, u.UserID, "", made.Doc, frozen))
		for k := range 3 {
			x := &made.Doc.Blocks[0].Weeks[0].Sessions[k]
			n := training.Notebook{Device: "d" + id, Session: x.ID, At: time.Now()}
			n.Run(x, x.Date, training.How{Effort: &effort, Minutes: &minutes}, nil)
			_, err := p.SaveEntries(ctx, store.SessionLog{AthleteID: id, Session: string(x.ID), Kind: store.LogPlanned, ProgrammeID: prog}, n.Entries, store.Editor{Name: "Coach"})
			require.NoError(b, err)
		}
		athletes = append(athletes, id)
	}
	_, err = s.store.Pool().Exec(ctx, `INSERT INTO session_logs (practice_id, athlete_id, session_id, kind, title, date, state, effort, minutes, doc)
		SELECT a.practice_id, a.id, 'old-' || n, 'other', 'Session', $1::date - 14 - (n * 7 / 3), 'done', 6, 55, $2::json FROM athletes a, generate_series(1, $3) n`,
		today.String(), string(doc), 3*weeks)
	require.NoError(b, err)
	_, err = s.store.Pool().Exec(ctx, "ANALYZE")
	require.NoError(b, err)
	one := s.client(b)
	one.post("/session", m{"email": "n@example.org", "password": "long enough"}, http.StatusOK, nil)
	one.http.Transport = &http.Transport{MaxIdleConnsPerHost: clients}
	next := made.Doc.Blocks[0].Weeks[1].Sessions[0].ID
	ask := func(path string) time.Duration {
		start := time.Now()
		res, err := one.http.Get(s.URL + "/api/v1" + path)
		if !assert.NoError(b, err) {
			return 0
		}
		assert.Equal(b, http.StatusOK, res.StatusCode)
		_, _ = io.Copy(io.Discard, res.Body)
		_ = res.Body.Close()
		return time.Since(start)
	}
	for name, path := range map[string]func(i int) string{
		"today":     func(int) string { return "/today" },
		"floor":     func(i int) string { return "/athletes/" + athletes[i%golfers] + "/floor" },
		"session":   func(i int) string { return "/athletes/" + athletes[i%golfers] + "/floor/" + string(next) },
		"load":      func(i int) string { return "/athletes/" + athletes[i%golfers] + "/load" },
		"next-dose": func(i int) string { return "/athletes/" + athletes[i%golfers] + "/next-dose" },
	} {
		b.Run(name, func(b *testing.B) {
			for i := range golfers {
				one.get(path(i), http.StatusOK, nil)
			}
			for b.Loop() {
				took := make([]time.Duration, requests)
				var wg sync.WaitGroup
				for c := range clients {
					wg.Go(func() {
						for i := c; i < requests; i += clients {
							took[i] = ask(path(i))
						}
					})
				}
				wg.Wait()
				slices.Sort(took)
				b.ReportMetric(float64(took[requests*95/100].Microseconds())/1000, "p95-ms")
				b.ReportMetric(float64(took[requests/2].Microseconds())/1000, "p50-ms")
			}
		})
		b.Run(name+" after a change", func(b *testing.B) {
			for b.Loop() {
				took := make([]time.Duration, 100)
				for i := range took {
					_, err := s.store.Pool().Exec(ctx, "UPDATE practices SET data_version = data_version + 1")
					require.NoError(b, err)
					took[i] = ask(path(i))
				}
				slices.Sort(took)
				b.ReportMetric(float64(took[95].Microseconds())/1000, "p95-ms")
				b.ReportMetric(float64(took[50].Microseconds())/1000, "p50-ms")
			}
		})
	}
}

// BenchmarkOutbox sends 300 queued entries of one device, as a tablet does when the signal
// comes back: twelve sessions of a class.
func BenchmarkOutbox(b *testing.B) {
	ctx := context.Background()
	s := newServer(b)
	u, err := s.app.AddUser(ctx, app.Setup{Practice: "P", Zone: "UTC", Name: "N", Email: "n@example.org", Password: "long enough"}, false)
	require.NoError(b, err)
	p := s.store.For(u.PracticeID)
	today := s.app.Today("UTC")
	f := testkit.Strong()
	f.AsOf, f.StartDate = today, today.Monday()
	made, err := plan.Generate(f, method.Shipped(), "t")
	require.NoError(b, err)
	frozen, err := method.Shipped().Freeze(made.Doc)
	require.NoError(b, err)
	session := made.Doc.Blocks[0].Weeks[0].Sessions[0]
	c := s.client(b)
	c.post("/session", m{"email": "n@example.org", "password": "long enough"}, http.StatusOK, nil)
	for b.Loop() {
		b.StopTimer()
		var sessions []m
		for range 12 {
			id, err := p.CreateAthlete(ctx, f)
			require.NoError(b, err)
			prog, err := p.CreateDraft(ctx, id, "Drafted", store.Editor{Name: "Coach"}, made.Doc)
			require.NoError(b, err)
			require.NoError(b, p.Issue(ctx, prog, 1, today, u.UserID, "", made.Doc, frozen))
			var entries []m
			for k := range 25 {
				entries = append(entries, m{"id": uuid.NewString(), "what": "set", "item": string(session.Items[k%len(session.Items)].ID), "number": 1 + k/len(session.Items), "value": m{"state": "done", "reps": 5}, "clock": k + 1, "at": time.Now().UTC().Format(time.RFC3339), "device": "tablet"})
			}
			sessions = append(sessions, m{"athleteId": id, "session": string(session.ID), "entries": entries})
		}
		b.StartTimer()
		c.post("/floor/entries", m{"sentAt": time.Now().UTC().Format(time.RFC3339), "sessions": sessions}, http.StatusOK, nil)
	}
}
