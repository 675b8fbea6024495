package httpapi_test

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"math/rand/v2"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/core/jump"
	"dunnock/internal/core/swing"
	"dunnock/internal/device"
	"dunnock/internal/forcefile"
	"dunnock/internal/httpapi"
	"dunnock/internal/httpapi/gen"
)

// trial is a file of the stand-in plates.
func trial(t testing.TB, p device.PlatesPlan, c3d bool) []byte {
	t.Helper()
	r, _, _ := p.Trial(rand.New(rand.NewPCG(p.Seed, 1)))
	var b bytes.Buffer
	if c3d {
		require.NoError(t, forcefile.WriteC3D(&b, r, force.RightSided))
	} else {
		require.NoError(t, forcefile.WriteCSV(&b, r))
	}
	return b.Bytes()
}

func (c *client) bytes(method, path string, body []byte, status int, into any) gen.Problem {
	c.t.Helper()
	res, got := c.do(method, path, "application/octet-stream", body, nil)
	require.Equal(c.t, status, res.StatusCode, "%s: %s", path, got)
	var p gen.Problem
	if status >= 400 {
		require.NoError(c.t, json.Unmarshal(got, &p))
	} else if into != nil {
		require.NoError(c.t, json.Unmarshal(got, into))
	}
	return p
}

func add(id, name, kind string, more ...string) string {
	q := url.Values{"name": {name}, "kind": {kind}, "date": {"2026-11-20"}}
	for i := 0; i < len(more); i += 2 {
		q.Set(more[i], more[i+1])
	}
	return "/athletes/" + id + "/recordings?" + q.Encode()
}

// recorded is a golfer with what was recorded of them in a day: a countermovement
// jump, a squat jump and three swings from C3D files with their top placed by hand.
type recorded struct {
	*client
	golfer string
	file   []byte // of the jump
	jump   gen.Recording
	swing  gen.Recording // the last of the three
}

func withRecordings(t *testing.T) *recorded {
	t.Helper()
	c := withDemo(t)
	r := &recorded{client: c, golfer: c.golfer("Torquil")}
	r.file = trial(t, device.PlatesPlan{Kind: "jump", HeightM: 0.36, MassKg: 84, NoiseN: 2, LeadShare: 0.57}, false)
	c.bytes("POST", add(r.golfer, "cmj 1.csv", "jump"), r.file, http.StatusCreated, &r.jump)
	squat := trial(t, device.PlatesPlan{Kind: "squat", HeightM: 0.33, Seed: 2, NoiseN: 2}, false)
	c.bytes("POST", add(r.golfer, "sj.csv", "squat"), squat, http.StatusCreated, nil)
	for i := range 3 {
		file := trial(t, device.PlatesPlan{Kind: "swing", MassKg: 84, NoiseN: 2, Seed: uint64(i)}, true)
		name := fmt.Sprintf("driver %d.c3d", i)
		c.bytes("POST", add(r.golfer, name, "swing", "topS", "2.32", "club", "driver"), file, http.StatusCreated, &r.swing)
	}
	return r
}

func (r *recorded) page() (page gen.ForcePage) {
	r.t.Helper()
	r.get("/athletes/"+r.golfer+"/force", http.StatusOK, &page)
	return page
}

func TestAForceFileIsLookedAtFirst(t *testing.T) {
	c := withDemo(t)
	file := trial(t, device.PlatesPlan{Kind: "jump", NoiseN: 2}, false)
	var look gen.ForceLook
	c.bytes("POST", "/force-files/look?side=right", file, http.StatusOK, &look)
	assert.Equal(t, "csv", look.Kind)
	assert.InDelta(t, 1000, look.RateHz, 0)
	assert.Empty(t, look.Problem)
	assert.Len(t, look.Preview, 2)
	assert.Greater(t, len(look.Preview[0].Points), 200)

	var j gen.Recording
	c.bytes("POST", add(c.golfer("Torquil"), "cmj.csv", "jump", "hash", look.Hash), nil, http.StatusCreated, &j)
	assert.Len(t, file, j.RawBytes, "the file was not sent again")
	gone := strings.Repeat("0", 64)
	c.bytes("POST", add(c.golfer("Torquil"), "cmj.csv", "jump", "hash", gone), nil, http.StatusNotFound, nil)
}

func TestAJumpFillsTheScreenAndIsJudged(t *testing.T) {
	r := withRecordings(t)
	j := r.jump
	require.NotNil(t, j.Jump)
	assert.InDelta(t, 0.36, *j.Jump.JumpHeightM, 0.01)
	assert.Contains(t, j.Verdict, "In the screen of Fri 20 Nov 2026")
	require.Len(t, j.Cells, 1)
	require.NotEmpty(t, j.Findings, "57 against 43 is a side difference")
	assert.Equal(t, "side-difference", j.Findings[0].Key)
	var sheet gen.Screen
	r.get("/screens/"+j.Cells[0].Screen, http.StatusOK, &sheet)
	assert.Contains(t, tests(sheet), "cmj")

	r.json("DELETE", "/recordings/"+j.Id, nil, http.StatusNoContent, nil)
	r.get("/recordings/"+j.Id, http.StatusNotFound, nil)
	r.get("/screens/"+j.Cells[0].Screen, http.StatusOK, &sheet)
	assert.NotContains(t, tests(sheet), "cmj", "its trial goes with it")
}

// tests are the tests of a screen's trials.
func tests(s gen.Screen) (out []string) {
	for _, x := range s.Trials {
		out = append(out, x.Test)
	}
	return out
}

func TestAFileIsTakenOnceAndAFaultyJumpFillsNothing(t *testing.T) {
	r := withRecordings(t)
	p := r.bytes("POST", add(r.golfer, "cmj again.csv", "jump"), r.file, http.StatusConflict, nil)
	assert.Contains(t, *p.Detail, "very file")
	var bad gen.Recording
	dipped := trial(t, device.PlatesPlan{Kind: "jump", Seed: 9, NoiseN: 2}, false)
	r.bytes("POST", add(r.golfer, "dipped.csv", "squat"), dipped, http.StatusCreated, &bad)
	assert.Contains(t, bad.Verdict, "hidden countermovement")
	assert.Empty(t, bad.Cells)
}

func TestASwingHasItsOrderAndFourAnswers(t *testing.T) {
	s := withRecordings(t).swing
	require.NotNil(t, s.Swing)
	assert.Equal(t, []string{"lateral", "rotational", "vertical"}, s.Swing.Order)
	assert.InDelta(t, 2.6, s.Swing.ImpactS, 1e-6, "from the file's event")
	require.Len(t, s.Answers, 4)
	assert.Contains(t, s.Answers[0].Baseline, "Own 2 earlier swings")
	assert.Len(t, s.Cells, 3)
	require.NotNil(t, s.Baseline)
}

// moved places the last swing's impact by hand, at 2.59 s.
func (r *recorded) moved() (moved gen.Recording) {
	r.t.Helper()
	set := r.swing.Settings
	impact, top := 2.59, 2.32
	set.Swing.ImpactS, set.Swing.TopS, set.Swing.CutoffHz = &impact, &top, 30
	r.json("PATCH", "/recordings/"+r.swing.Id, map[string]any{"settings": set}, http.StatusOK, &moved)
	return moved
}

func TestTimesMoveWithAnImpactPlacedByHand(t *testing.T) {
	r := withRecordings(t)
	moved := r.moved()
	assert.InDelta(t, r.swing.Swing.Lateral.TimeBeforeImpactS-0.01, moved.Swing.Lateral.TimeBeforeImpactS, 0.002)
	assert.InDelta(t, 30, moved.Swing.CutoffHz, 0)
	set, late := moved.Settings, 99.0
	set.Swing.ImpactS = &late
	p := r.json("PATCH", "/recordings/"+r.swing.Id, map[string]any{"settings": set}, http.StatusUnprocessableEntity, nil)
	assert.Contains(t, *p.Detail, "outside the recording")
}

func TestAllRecordingsAreReadAnewAndWhatWasPlacedStays(t *testing.T) {
	r := withRecordings(t)
	r.moved()
	var done struct {
		Done     int
		Problems []string
	}
	settings := map[string]any{"jump": map[string]any{"cutoffHz": -1}, "swing": map[string]any{"cutoffHz": 25}}
	r.post("/athletes/"+r.golfer+"/recordings/recompute", settings, http.StatusOK, &done)
	assert.Equal(t, 5, done.Done)
	assert.Empty(t, done.Problems)
	var now gen.Recording
	r.get("/recordings/"+r.swing.Id, http.StatusOK, &now)
	assert.InDelta(t, 25, now.Swing.CutoffHz, 0)
	assert.InDelta(t, 2.59, now.Swing.ImpactS, 1e-9, "placed by hand: it stays")
	assert.Equal(t, swing.Version, now.Version)
}

func TestForceReachesThePageAndTheRead(t *testing.T) {
	r := withRecordings(t)
	page := r.page()
	assert.Len(t, page.Recordings, 5)
	require.NotNil(t, page.Compared)
	assert.InDelta(t, 0.36/0.33, page.Compared.Ratio, 0.04)
	assert.Equal(t, 3, page.SwingMean.Trials)
	assert.Contains(t, page.FindingsFrom, "3 swings of Fri 20 Nov 2026 and the best jump")

	var read gen.Read
	r.get("/athletes/"+r.golfer+"/read", http.StatusOK, &read)
	got := map[string]gen.Standing{}
	for _, q := range read.Qualities {
		got[q.ID] = q
	}
	assert.Equal(t, "ranked", string(got["ground-force"].Status))
	assert.Equal(t, "ranked", string(got["stretch-use"].Status))
}

func TestSwingsLieOverEachOther(t *testing.T) {
	r := withRecordings(t)
	ids := []string{}
	for _, x := range r.page().Recordings {
		if x.Swing != nil {
			ids = append(ids, x.Id)
		}
	}
	path := "/athletes/" + r.golfer + "/force/overlay"
	var o gen.ForceOverlay
	r.post(path, map[string]any{"first": ids[:2], "second": ids[2:]}, http.StatusOK, &o)
	require.Len(t, o.Efforts, 3)
	assert.Equal(t, 2, o.Efforts[0].First.Swings)
	assert.Len(t, o.Efforts[0].Overlay.Difference, o.Points)
	r.post(path, map[string]any{"first": []string{}, "second": ids}, http.StatusUnprocessableEntity, nil)
	r.post(path, map[string]any{"first": []string{r.jump.Id}, "second": []string{}}, http.StatusUnprocessableEntity, nil)
}

func TestARecordingGoesOutAsItCameAndAsItWasRead(t *testing.T) {
	r := withRecordings(t)
	res, raw := r.do("GET", "/recordings/"+r.jump.Id+"/exports/raw", "", nil, nil)
	assert.Equal(t, r.file, raw)
	assert.Contains(t, res.Header.Get("Content-Disposition"), "cmj-1.csv")
	_, csv := r.do("GET", "/recordings/"+r.swing.Id+"/exports/csv", "", nil, nil)
	assert.Contains(t, string(csv[:300]), "lateral")
	back, err := forcefile.Read(csv)
	require.NoError(t, err)
	_, err = forcefile.Guess(back).Recording(back, force.RightSided)
	require.NoError(t, err)
	_, result := r.do("GET", "/recordings/"+r.jump.Id+"/exports/json", "", nil, nil)
	assert.Contains(t, string(result), `"version": "`+jump.Version+`"`)
}

func TestATraceHoldsTheSignalsOfTheResult(t *testing.T) {
	r := withRecordings(t)
	_, trace := r.do("GET", "/recordings/"+r.swing.Id+"/trace", "", nil, nil)
	n := binary.LittleEndian.Uint32(trace)
	var head struct {
		Samples  int
		Channels []struct{ Foot, Name, Unit string }
	}
	require.NoError(t, json.Unmarshal(trace[4:4+n], &head))
	assert.Equal(t, "lateral", head.Channels[0].Name)
	require.Len(t, trace, int(4+n)+4*head.Samples*len(head.Channels))
	peak := float32(0)
	for i := range head.Samples {
		peak = max(peak, math.Float32frombits(binary.LittleEndian.Uint32(trace[4+int(n)+4*i:])))
	}
	assert.InDelta(t, r.swing.Swing.Lateral.Peak, float64(peak), 6)
}

// A file no name tells anything of is mapped once, and read that way from then
// on.
func TestForceMappingIsRemembered(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	file := []byte(strings.Replace(string(trial(t, device.PlatesPlan{NoiseN: 2}, false)), "Fz_lead,Fz_trail", "Aplate,Bplate", 1))
	var look gen.ForceLook
	c.bytes("POST", "/force-files/look?side=right", file, http.StatusOK, &look)
	assert.Contains(t, look.Problem, "No column of a force plate")
	p := c.bytes("POST", add(id, "a.csv", "jump"), file, http.StatusUnprocessableEntity, nil)
	assert.Contains(t, *p.Detail, "Aplate")
	m := forcefile.Mapping{
		Source:  "Two plates of the hall",
		Columns: []forcefile.Column{{Name: "time", Quantity: "time"}, {Name: "Aplate", Quantity: "Fz", Place: "lead"}, {Name: "Bplate", Quantity: "Fz", Place: "trail"}},
	}
	text, err := json.Marshal(m)
	require.NoError(t, err)
	c.bytes("POST", "/force-files/look?side=right&mapping="+url.QueryEscape(string(text)), file, http.StatusOK, &look)
	assert.Empty(t, look.Problem)
	c.json("PUT", "/force-mappings/"+look.Fingerprint, m, http.StatusNoContent, nil)
	c.json("PUT", "/force-mappings/"+look.Fingerprint, forcefile.Mapping{}, http.StatusUnprocessableEntity, nil)
	c.bytes("POST", "/force-files/look?side=right", file, http.StatusOK, &look)
	assert.Equal(t, "Two plates of the hall", look.Known)
	var r gen.Recording
	c.bytes("POST", add(id, "a.csv", "jump", "fill", "false"), file, http.StatusCreated, &r)
	assert.Equal(t, "Two plates of the hall", r.Source)
	assert.Empty(t, r.Cells)

	c.json("PUT", "/force-windows", map[string]any{"limits": map[string]any{"landing": []float64{0.1, 9}}}, http.StatusNoContent, nil)
	c.json("PUT", "/force-windows", map[string]any{"limits": map[string]any{"landing": []float64{9, 1}}}, http.StatusUnprocessableEntity, nil)
	c.json("PUT", "/force-windows", map[string]any{"limits": map[string]any{"colour": []float64{1, 2}}}, http.StatusUnprocessableEntity, nil)
	c.get("/recordings/"+r.Id, http.StatusOK, &r)
	for _, w := range r.Windows {
		if w.Key == "landing" {
			assert.Equal(t, "set by the practice", w.Source)
		}
	}
}

// What cannot be read is refused and nothing of it is stored.
func TestHostileForceFiles(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	good := trial(t, device.PlatesPlan{Kind: "swing", NoiseN: 2}, true)
	for name, b := range map[string][]byte{
		"picture.csv": append([]byte("\x89PNG\r\n\x1a\n"), make([]byte, 500)...),
		"zeros.csv":   make([]byte, 1<<20),
		"empty.csv":   nil,
		"cut.c3d":     good[:len(good)/2],
		"text.csv":    []byte("time,Fz\n0,800\n0.001,eight\n0.002,800\n"),
		"kgf.csv":     []byte("rate 1000 Hz\nFz\n" + strings.Repeat("80\n", 3000)),
		"rate.csv":    []byte("Sampling rate: -1000 Hz\nFz\n" + strings.Repeat("800\n", 3000)),
		"quote.csv":   []byte("rate 1000 Hz\nFz\n" + strings.Repeat("800\n", 3000) + "\"800\n"),
	} {
		res, got := c.do("POST", add(id, name, "jump"), "application/octet-stream", b, nil)
		assert.Contains(t, []int{400, 422}, res.StatusCode, "%s: %s", name, got)
	}
	res, _ := c.do("POST", add(id, "huge.csv", "jump"), "application/octet-stream", make([]byte, 70<<20), nil)
	assert.Equal(t, http.StatusRequestEntityTooLarge, res.StatusCode)
	c.bytes("POST", add(id, "future.csv", "jump", "date", "2031-01-01"), good, http.StatusUnprocessableEntity, nil)
	var page gen.ForcePage
	c.get("/athletes/"+id+"/force", http.StatusOK, &page)
	assert.Empty(t, page.Recordings)
	// The force on the plate is no fault: it is turned, and said.
	var r gen.Recording
	c.bytes("POST", add(id, "sign.csv", "jump"), []byte("rate 1000 Hz\nFz\n"+strings.Repeat("-800\n", 3000)), http.StatusCreated, &r)
	assert.Contains(t, r.Jump.Notes, "The file holds the force on the plate: it was turned round.")
	c.get("/athletes/00000000-0000-4000-8000-000000000000/force", http.StatusNotFound, nil)
}

// Benchmark200Files is the target of the issue: two hundred swings through the
// interface, one after the other.
func Benchmark200Files(b *testing.B) {
	c := withDemo(b)
	id := c.golfer("Torquil")
	files := make([][]byte, 200)
	for i := range files {
		files[i] = trial(b, device.PlatesPlan{Kind: "swing", MassKg: 84, NoiseN: 2, Seed: uint64(i)}, false)
	}
	for b.Loop() {
		for i, f := range files {
			var r gen.Recording
			c.bytes("POST", add(id, fmt.Sprintf("%d.csv", i), "swing"), f, http.StatusCreated, &r)
			b.StopTimer()
			c.json("DELETE", "/recordings/"+r.Id, nil, http.StatusNoContent, nil)
			b.StartTimer()
		}
	}
}

// BenchmarkForcePage is the page of a golfer with two hundred recordings.
func BenchmarkForcePage(b *testing.B) {
	c := withDemo(b)
	id := c.golfer("Torquil")
	for i := range 200 {
		c.bytes(
			"POST",
			add(id, fmt.Sprintf("%d.csv", i), "swing", "fill", "false"),
			trial(b, device.PlatesPlan{Kind: "swing", MassKg: 84, NoiseN: 2, Seed: uint64(i)}, false),
			http.StatusCreated,
			nil,
		)
	}
	b.ResetTimer()
	for b.Loop() {
		res, _ := c.http.Get(c.s.URL + httpapi.Base + "/athletes/" + id + "/force")
		n, _ := io.Copy(io.Discard, res.Body)
		_ = res.Body.Close()
		b.ReportMetric(float64(n)/1000, "kB")
	}
}

// BenchmarkLookAndBringIn looks at a swing's file twice (the second time with a
// mapping), brings it in and asks for its trace: the first sends it, the rest name
// it.
func BenchmarkLookAndBringIn(b *testing.B) {
	c := withDemo(b)
	id := c.golfer("Torquil")
	n := 0
	for b.Loop() {
		b.StopTimer()
		n++
		file := trial(b, device.PlatesPlan{Kind: "swing", MassKg: 84, NoiseN: 2, Seed: uint64(n)}, false)
		b.StartTimer()
		var look gen.ForceLook
		c.bytes("POST", "/force-files/look?side=right", file, http.StatusOK, &look)
		c.bytes("POST", "/force-files/look?side=right&hash="+look.Hash, nil, http.StatusOK, nil)
		var r gen.Recording
		c.bytes("POST", add(id, fmt.Sprintf("s%d.csv", n), "swing", "hash", look.Hash), nil, http.StatusCreated, &r)
		c.do("GET", "/recordings/"+r.Id+"/trace", "", nil, nil)
	}
}
