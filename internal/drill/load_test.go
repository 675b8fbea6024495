package drill

import (
	"context"
	"fmt"
	"math/rand/v2"
	"net/http"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
	"dunnock/internal/store"
)

// club is a practice of many golfers with four screens each.
type club struct{ athletes, screens, programmes []string }

// fill makes a club whose screens lie days apart.
func fill(t *testing.T, s *server, golfers, days int) club {
	t.Helper()
	ctx := context.Background()
	db := s.database()
	practices, err := db.Practices(ctx)
	require.NoError(t, err)
	p := db.For(practices[0])
	var out club
	rng := rand.New(rand.NewPCG(1, 2))
	for i := range golfers {
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("Golfer %03d", i)
		first := f.Screens[0]
		f.Screens = nil
		for k := range 4 {
			sc := athlete.Screen{Date: first.Date.Add(-days * k)}
			for _, tr := range first.Trials {
				if tr.Lift == nil && tr.Value > 5 && tr.Value < 400 {
					tr.Value += float64(rng.IntN(10)) / 10
				}
				sc.Trials = append(sc.Trials, tr)
			}
			f.Screens = append(f.Screens, sc)
		}
		_, err := p.Together(ctx, func(u *store.Practice) error {
			id, err := u.CreateAthlete(ctx, f)
			if err != nil {
				return err
			}
			out.athletes = append(out.athletes, id)
			return u.ImportScreens(ctx, id, f.Screens)
		})
		require.NoError(t, err)
		id := out.athletes[i]
		stored, err := p.Screens(ctx, id)
		require.NoError(t, err)
		out.screens = append(out.screens, stored[0].ID)
		r, err := plan.Generate(f, method.Shipped(), "t")
		require.NoError(t, err)
		prog, err := p.CreateDraft(ctx, id, "Drafted", store.Editor{Name: "Coach"}, r.Doc)
		require.NoError(t, err)
		out.programmes = append(out.programmes, prog)
	}
	_, err = db.Pool().Exec(ctx, "ANALYZE")
	require.NoError(t, err)
	return out
}

// quantile of sorted times, in ms.
func quantile(d []time.Duration, q float64) float64 {
	if len(d) == 0 {
		return 0
	}
	slices.Sort(d)
	return float64(d[min(len(d)-1, int(q*float64(len(d))))].Microseconds()) / 1000
}

// TestLoad is fifty clients who each wait for an answer, pause a second and ask
// again: 30% the squad, 30% a read, 20% a screen or a programme, 20% a saved cell;
// then a saved cell alone; then a station day. It prints figures, and fails on an
// error only. DUNNOCK_LOAD_SECONDS and DUNNOCK_LOAD_GOLFERS scale it.
func TestLoad(t *testing.T) {
	seconds, golfers := scale("DUNNOCK_LOAD_SECONDS", 3), scale("DUNNOCK_LOAD_GOLFERS", 12)
	for _, days := range []int{3, 40} {
		s := begin(t)
		k := fill(t, s, golfers, days)
		one := s.client()
		alone := savesAlone(t, one, k)
		t.Logf("screens %2d days apart: a saved cell alone p50 %.1f, p95 %.1f ms", days, quantile(alone, 0.5), quantile(alone, 0.95))
		took := fifty(t, s, k, time.Duration(seconds)*time.Second)
		all := []time.Duration{}
		for _, what := range []string{"squad", "read", "screen", "programme", "cell"} {
			all = append(all, took[what]...)
			t.Logf("screens %2d days apart: %-9s n %5d, p50 %6.1f, p95 %6.1f ms", days, what, len(took[what]), quantile(took[what], 0.5), quantile(took[what], 0.95))
		}
		t.Logf("screens %2d days apart: all       n %5d, p50 %6.1f, p95 %6.1f ms", days, len(all), quantile(all, 0.5), quantile(all, 0.95))
		if days == 3 {
			station(t, s, one, k)
		}
		s.stop()
	}
}

func savesAlone(t *testing.T, c *client, k club) (took []time.Duration) {
	t.Helper()
	for i := range 60 {
		begin := time.Now()
		status, got := c.call(
			"PATCH",
			"/screens/"+k.screens[i%len(k.screens)],
			m{"cells": []m{{"test": "hip-ir", "side": "lead", "trial": 1, "text": fmt.Sprint(25 + i%10), "confirmed": true}}},
			nil,
		)
		if i >= 10 { // after the first ones have warmed what is kept
			took = append(took, time.Since(begin))
		}
		require.Equal(t, http.StatusOK, status, "%s", got)
	}
	return took
}

func fifty(t *testing.T, s *server, k club, length time.Duration) map[string][]time.Duration {
	t.Helper()
	took := map[string][]time.Duration{}
	var mu sync.Mutex
	var wg sync.WaitGroup
	end := time.Now().Add(length)
	c := s.client()
	c.http.Transport = &http.Transport{MaxIdleConnsPerHost: 50}
	for i := range 50 {
		wg.Go(func() {
			rng := rand.New(rand.NewPCG(uint64(i), 7))
			time.Sleep(time.Duration(rng.IntN(1000)) * time.Millisecond)
			for time.Now().Before(end) {
				g := rng.IntN(len(k.athletes))
				what, method, path, body := "squad", "GET", "/athletes", any(nil)
				switch n := rng.IntN(10); {
				case n < 3:
				case n < 6:
					what, path = "read", "/athletes/"+k.athletes[g]+"/read"
				case n == 6:
					what, path = "screen", "/screens/"+k.screens[g]
				case n == 7:
					what, path = "programme", "/programmes/"+k.programmes[g]
				default:
					what, method, path = "cell", "PATCH", "/screens/"+k.screens[g]
					body = m{"cells": []m{{"test": "hip-ir", "side": "trail", "trial": 1, "text": fmt.Sprint(20 + rng.IntN(20)), "confirmed": true}}}
				}
				begin := time.Now()
				status, got := c.call(method, path, body, nil)
				d := time.Since(begin)
				if status != http.StatusOK {
					assert.Equal(t, http.StatusOK, status, "%s %s: %.200s", method, path, got)
					return
				}
				mu.Lock()
				took[what] = append(took[what], d)
				mu.Unlock()
				time.Sleep(time.Second)
			}
		})
	}
	wg.Wait()
	return took
}

// station is a day of thirty golfers and five tablets, each saving and asking for
// its station as the page does.
func station(t *testing.T, s *server, one *client, k club) {
	t.Helper()
	ids := k.athletes[:min(30, len(k.athletes))]
	var stations []m
	for i, test := range []string{"hip-ir", "ankle-lunge", "thoracic-rotation", "grip", "leg-raise"} {
		stations = append(stations, m{"name": fmt.Sprint("Station ", i), "minutes": 5, "tiring": 0, "places": 1, "tests": []string{test}})
	}
	var day struct{ ID string }
	status, got := one.call("POST", "/days", m{"date": today, "name": "Day", "start": "09:00", "athletes": ids, "stations": stations}, &day)
	require.Equal(t, http.StatusOK, status, "%s", got)
	var mu sync.Mutex
	var saves, loads []time.Duration
	var wg sync.WaitGroup
	for tablet := range 5 {
		wg.Go(func() {
			c := s.client()
			test := []m{{"test": "hip-ir", "side": "lead"}, {"test": "ankle-lunge", "side": "lead"}, {"test": "thoracic-rotation", "side": "toward"}, {"test": "grip", "side": "lead"}, {"test": "leg-raise", "side": "lead"}}[tablet]
			for i, id := range ids {
				begin := time.Now()
				status, got := c.call(
					"PATCH",
					"/days/"+day.ID+"/golfers/"+id,
					m{"cells": []m{{"test": test["test"], "side": test["side"], "trial": 1, "text": fmt.Sprint(10 + i%5), "confirmed": true}}},
					nil,
				)
				saved := time.Since(begin)
				assert.Equal(t, http.StatusOK, status, "%s", got)
				begin = time.Now()
				status, _ = c.call("GET", fmt.Sprintf("/days/%s/stations/%d", day.ID, tablet), nil, nil)
				assert.Equal(t, http.StatusOK, status)
				mu.Lock()
				saves, loads = append(saves, saved), append(loads, time.Since(begin))
				mu.Unlock()
				time.Sleep(time.Duration(15*len(ids)) * time.Millisecond) // a test takes its time
			}
		})
	}
	wg.Wait()
	t.Logf(
		"a station day of %d golfers and 5 tablets: saved cell p50 %.1f, p95 %.1f ms; the station asked for anew p50 %.1f, p95 %.1f ms",
		len(ids),
		quantile(saves, 0.5),
		quantile(saves, 0.95),
		quantile(loads, 0.5),
		quantile(loads, 0.95),
	)
}
