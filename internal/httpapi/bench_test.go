package httpapi_test

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/store"
)

// BenchmarkReads asks each read of the API 2,000 times by 20 clients at once,
// with a squad of 200 golfers who all have a screen and a draft, and reports the
// 95th percentile of the answer times. Each page was asked for once before: the
// "first" measures are of those first askings, one client at a time.
func BenchmarkReads(b *testing.B) {
	const golfers, clients, requests = 200, 20, 2000
	ctx := context.Background()
	s := newServer(b)
	u, err := s.app.AddUser(ctx, app.Setup{Practice: "P", Zone: "UTC", Name: "N", Email: "n@example.org", Password: "long enough"}, false)
	require.NoError(b, err)
	p := s.store.For(u.PracticeID)
	var athletes, screens, programmes []string
	for i := range golfers {
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("Golfer %03d", i)
		id, err := p.CreateAthlete(ctx, f)
		require.NoError(b, err)
		require.NoError(b, p.ImportScreens(ctx, id, f.Screens))
		r, err := plan.Generate(f, method.Shipped(), "t")
		require.NoError(b, err)
		prog, err := p.CreateDraft(ctx, id, "Drafted", store.Editor{Name: "Coach"}, r.Doc)
		require.NoError(b, err)
		stored, err := p.Screens(ctx, id)
		require.NoError(b, err)
		athletes, screens, programmes = append(athletes, id), append(screens, stored[0].ID), append(programmes, prog)
	}
	_, err = s.store.Pool().Exec(ctx, "ANALYZE")
	require.NoError(b, err)
	one := s.client(b)
	one.post("/session", m{"email": "n@example.org", "password": "long enough"}, http.StatusOK, nil)
	one.http.Transport = &http.Transport{MaxIdleConnsPerHost: clients}

	for name, path := range map[string]func(i int) string{
		"squad":      func(int) string { return "/athletes" },
		"golfer":     func(i int) string { return "/athletes/" + athletes[i%golfers] },
		"read":       func(i int) string { return "/athletes/" + athletes[i%golfers] + "/read" },
		"screen":     func(i int) string { return "/screens/" + screens[i%golfers] },
		"programmes": func(i int) string { return "/athletes/" + athletes[i%golfers] + "/programmes" },
		"programme":  func(i int) string { return "/programmes/" + programmes[i%golfers] },
	} {
		b.Run(name, func(b *testing.B) {
			first := make([]time.Duration, golfers)
			for i := range golfers {
				start := time.Now()
				one.get(path(i), http.StatusOK, nil)
				first[i] = time.Since(start)
			}
			slices.Sort(first)
			for b.Loop() {
				took := make([]time.Duration, requests)
				var wg sync.WaitGroup
				for c := range clients {
					wg.Go(func() {
						for i := c; i < requests; i += clients {
							start := time.Now()
							res, err := one.http.Get(s.URL + "/api/v1" + path(i))
							if err != nil || res.StatusCode != http.StatusOK {
								b.Errorf("%v %v", res, err)
								return
							}
							_, _ = io.Copy(io.Discard, res.Body)
							_ = res.Body.Close()
							took[i] = time.Since(start)
						}
					})
				}
				wg.Wait()
				slices.Sort(took)
				b.ReportMetric(float64(took[requests*95/100].Microseconds())/1000, "p95-ms")
				b.ReportMetric(float64(took[requests/2].Microseconds())/1000, "p50-ms")
				b.ReportMetric(float64(first[golfers*95/100].Microseconds())/1000, "first-p95-ms")
			}
		})
	}
}

// BenchmarkReplan says for 200 golfers who all have a draft what drafting it again would
// change, streamed as the squad page asks for it.
func BenchmarkReplan(b *testing.B) {
	ctx := context.Background()
	s := newServer(b)
	u, err := s.app.AddUser(ctx, app.Setup{Practice: "P", Zone: "UTC", Name: "N", Email: "n@example.org", Password: "long enough"}, false)
	require.NoError(b, err)
	p := s.store.For(u.PracticeID)
	for i := range 200 {
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("Golfer %03d", i)
		id, err := p.CreateAthlete(ctx, f)
		require.NoError(b, err)
		require.NoError(b, p.ImportScreens(ctx, id, f.Screens))
		f.StartDate = testkit.Day.Add(7)
		r, err := plan.Generate(f, method.Shipped(), "t")
		require.NoError(b, err)
		_, err = p.CreateDraft(ctx, id, "Drafted", store.Editor{Name: "Coach"}, r.Doc)
		require.NoError(b, err)
	}
	c := s.client(b)
	c.post("/session", m{"email": "n@example.org", "password": "long enough"}, http.StatusOK, nil)
	for b.Loop() {
		res, err := c.http.Get(s.URL + "/api/v1/squad/drafts/live")
		require.NoError(b, err)
		text, err := io.ReadAll(res.Body)
		require.NoError(b, err)
		_ = res.Body.Close()
		require.Contains(b, string(text), `{"done":200,"of":200,"ended":true}`)
	}
}

// BenchmarkCompare compares two schools for one golfer through the API.
func BenchmarkCompare(b *testing.B) {
	c := withDemo(b)
	id := c.golfer("Torquil")
	for b.Loop() {
		c.get("/athletes/"+id+"/compare?a=measured-gap&b=swing-led-speed", http.StatusOK, nil)
	}
}

// BenchmarkImport brings in 1,000 golfers with 60 values each: upload, check,
// save.
func BenchmarkImport(b *testing.B) {
	file := wideFile(1000, 60)
	for b.Loop() {
		b.StopTimer()
		c := withDemo(b)
		b.StartTimer()
		u := c.upload("many.csv", file, http.StatusCreated)
		u.Mapping.AddGolfers = true
		c.post("/uploads/"+u.Id+"/check", u.Mapping, http.StatusOK, nil)
		if r := c.settled(u.Id).Report; r.ErrorRows > 0 {
			b.Fatal(r.Verdicts[0])
		}
		c.post("/uploads/"+u.Id+"/commit", m{}, http.StatusOK, nil)
		if got := c.settled(u.Id); got.State != "saved" {
			b.Fatal(got.State, got.Note)
		}
	}
}

// BenchmarkEdit changes a dose of a draft along its line, forth and back, through
// the API.
func BenchmarkEdit(b *testing.B) {
	c := withDemo(b)
	var list []gen.ProgrammeRow
	c.get("/athletes/"+c.golfer("Torquil")+"/programmes", http.StatusOK, &list)
	var v gen.ProgrammeView
	c.get("/programmes/"+list[0].Id, http.StatusOK, &v)
	at := v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0].ID
	rest := 90
	for b.Loop() {
		rest = 210 - rest
		c.post(
			"/programmes/"+v.Id+"/edits",
			m{"revision": v.Revision, "edit": m{"kind": "dose", "at": at, "scope": "line", "dose": m{"restSeconds": rest}}},
			http.StatusOK,
			&v,
		)
	}
}
