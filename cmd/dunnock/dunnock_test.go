package main

import (
	"bytes"
	"context"
	"encoding/json"
	"net"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/programme"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
	"dunnock/internal/postgres/pgtest"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// run calls the command as a shell would and returns what it printed.
func run(t *testing.T, env map[string]string, args ...string) (string, error) {
	t.Helper()
	for k, v := range env {
		t.Setenv(k, v)
	}
	var out bytes.Buffer
	cmd := root()
	cmd.SetArgs(args)
	cmd.SetOut(&out)
	cmd.SetErr(&out)
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	err := cmd.ExecuteContext(ctx)
	return out.String(), err
}

func export(t *testing.T) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "golfer.json")
	f, err := os.Create(path)
	require.NoError(t, err)
	require.NoError(t, formats.WriteJSON(f, testkit.Strong()))
	require.NoError(t, f.Close())
	return path
}

func TestReadAndPlanAreTheSameByteForByte(t *testing.T) {
	path := export(t)
	for _, args := range [][]string{{"read", path, "--json"}, {"plan", path, "--school", "strength-first", "--json"}} {
		first, err := run(t, nil, args...)
		require.NoError(t, err)
		second, err := run(t, map[string]string{"TZ": "Pacific/Auckland"}, args...)
		require.NoError(t, err)
		assert.Equal(t, first, second)
	}
	words, err := run(t, nil, "plan", path)
	require.NoError(t, err)
	assert.Contains(t, words, "Trap-bar deadlift")
	words, err = run(t, nil, "read", path)
	require.NoError(t, err)
	assert.Contains(t, words, "Rotational power and vertical power hold Worked back most, and alike")
}

// Golden files: what a change of the rules, the library or the wording does to
// a whole read and a whole plan is seen in the diff. UPDATE=1 writes them anew.
func TestGolden(t *testing.T) {
	path := export(t)
	for name, args := range map[string][]string{"read.golden.json": {"read", path, "--json"}, "plan.golden.txt": {"plan", path}} {
		got, err := run(t, nil, args...)
		require.NoError(t, err)
		golden := filepath.Join("testdata", name)
		if os.Getenv("UPDATE") != "" {
			require.NoError(t, os.WriteFile(golden, []byte(got), 0o644))
		}
		want, err := os.ReadFile(golden)
		require.NoError(t, err)
		assert.Equal(t, string(want), got, name)
	}
}

func TestBadFilesAreNamedAndEndWithTwo(t *testing.T) {
	bad := filepath.Join(t.TempDir(), "bad.json")
	require.NoError(t, os.WriteFile(bad, []byte("{\n\"format\": 7}"), 0o600))
	for _, args := range [][]string{{"read", bad}, {"plan", bad}, {"read", "/no/such/file.json"}, {"read", export(t), "--school", "none"}} {
		out, err := run(t, nil, args...)
		var input badInput
		require.ErrorAs(t, err, &input, "%v", args)
		assert.Empty(t, out)
	}
	_, err := run(t, nil, "read", bad)
	assert.ErrorContains(t, err, "line 2")
}

func TestUsersAndExportsOnAServerOfOnesOwn(t *testing.T) {
	url := pgtest.URL(t)
	env := map[string]string{"DATABASE_URL": url, "DUNNOCK_PASSWORD": "long enough", "DUNNOCK_TODAY": "2026-11-24"}
	out, err := run(t, env, "migrate")
	require.NoError(t, err)
	assert.Contains(t, out, "up to date")
	out, err = run(t, env, "user", "add", "--email", "c@example.org", "--name", "C", "--practice", "P")
	require.NoError(t, err)
	assert.Contains(t, out, "c@example.org can sign in to P")
	_, err = run(t, env, "user", "add", "--email", "c@example.org", "--name", "C", "--practice", "P")
	assert.ErrorContains(t, err, "already")
	_, err = run(t, env, "user", "add", "--email", "d@example.org", "--name", "C", "--practice", "P", "--zone", "Nowhere/None")
	assert.ErrorContains(t, err, "time zone")
	out, err = run(t, env, "export", "list")
	require.NoError(t, err)
	assert.Empty(t, out)
	_, err = run(t, env, "export", "athlete", "00000000-0000-4000-8000-000000000000")
	assert.ErrorContains(t, err, "there is no golfer")
}

func TestPlainWordsWhenItCannotStart(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = l.Close() }()
	for says, c := range map[string]struct {
		env  map[string]string
		args []string
	}{
		"is in use":               {map[string]string{"DUNNOCK_ADDR": l.Addr().String()}, []string{"serve"}},
		"does not answer":         {map[string]string{"DATABASE_URL": "postgres://x@127.0.0.1:9/x?sslmode=disable", "DUNNOCK_ADDR": "127.0.0.1:0"}, []string{"migrate"}},
		"DUNNOCK_TODAY":           {map[string]string{"DUNNOCK_TODAY": "tomorrow"}, []string{"version"}},
		"not one":                 {map[string]string{"DATABASE_URL": "nonsense://", "DUNNOCK_TODAY": ""}, []string{"migrate"}},
		"unknown command \"dance": {map[string]string{"DUNNOCK_TODAY": ""}, []string{"dance"}},
	} {
		_, err := run(t, c.env, c.args...)
		if assert.ErrorContains(t, err, says) {
			assert.Equal(t, 1, strings.Count(strings.TrimSpace(err.Error()), "\n")+1, "one line: %s", err)
		}
	}
}

func TestVersion(t *testing.T) {
	out, err := run(t, nil, "version")
	require.NoError(t, err)
	assert.Equal(t, "dunnock dev\n", out)
}

// A trial written by the stand-in plates reads back as it was made.
func TestForceCommands(t *testing.T) {
	dir := t.TempDir()
	jump := filepath.Join(dir, "jump.csv")
	_, err := run(t, nil, "sim", "plates", "--write", jump, "--mass", "70", "--height", "0.31", "--lead-share", "0.53")
	require.NoError(t, err)
	out, err := run(t, nil, "force", "jump", jump, "--json")
	require.NoError(t, err)
	var j struct {
		Kind                    string
		BodyMassKg, JumpHeightM float64
		SideDifferencePct       float64
		Flags                   []string
		Lead                    struct{ PropulsiveImpulseNs float64 }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &j))
	assert.Equal(t, "countermovement", j.Kind)
	assert.InDelta(t, 70, j.BodyMassKg, 0.2)
	assert.InDelta(t, 0.31, j.JumpHeightM, 0.01)
	assert.InDelta(t, 100*(0.53-0.47)/0.53, j.SideDifferencePct, 0.3)
	assert.Positive(t, j.Lead.PropulsiveImpulseNs)
	assert.Equal(t, []string{}, j.Flags)
	words, err := run(t, nil, "force", "jump", jump)
	require.NoError(t, err)
	assert.Contains(t, words, "Countermovement jump, 70.0 kg")

	for _, side := range []string{"right", "left"} {
		file := filepath.Join(dir, side+".c3d")
		_, err = run(t, nil, "sim", "plates", "--kind", "swing", "--write", file, "--side", side)
		require.NoError(t, err)
		out, err = run(t, nil, "force", "swing", file, "--impact", "2.6", "--top", "2.32", "--side", side, "--json")
		require.NoError(t, err)
		var s struct {
			Order                         []string
			Lateral, Rotational, Vertical struct{ Peak, PeakPerBodyWeight, TimeBeforeImpactS float64 }
		}
		require.NoError(t, json.Unmarshal([]byte(out), &s))
		assert.Equal(t, []string{"lateral", "rotational", "vertical"}, s.Order, side)
		assert.InDelta(t, 1.65, s.Vertical.PeakPerBodyWeight, 0.03)
		assert.InDelta(t, 0.68*78, s.Rotational.Peak, 1.5, side)
		assert.InDelta(t, 0.14, s.Lateral.TimeBeforeImpactS, 0.006)
	}
	words, err = run(t, nil, "force", "swing", filepath.Join(dir, "right.c3d"), "--side", "right")
	require.NoError(t, err, "the file names impact itself")
	assert.Contains(t, words, "Top is an estimate")
}

// What cannot be done is said on standard error with exit code 2, and nothing is
// written on standard output.
func TestForceRefuses(t *testing.T) {
	dir := t.TempDir()
	write := func(name, text string) string {
		p := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(p, []byte(text), 0o600))
		return p
	}
	csv := write("jump.csv", "time,Fz\n0,800\n0.001,8x0\n0.002,800\n")
	for want, args := range map[string][]string{
		"row 3, column Fz":      {"jump", csv, "--json"},
		"--side is needed":      {"swing", csv},
		"not \"up\"":            {"swing", csv, "--side", "up"},
		"accepts 1 arg":         {"jump"},
		"unknown flag":          {"jump", csv, "--nonsense"},
		"no such file":          {"jump", filepath.Join(dir, "none.csv")},
		"unknown field":         {"jump", csv, "--map", write("map.json", `{"colour": 1}`)},
		"said to be Fz of lead": {"jump", csv, "--map", write("twice.json", `{"columns":[{"name":"a","quantity":"Fz","place":"lead"},{"name":"b","quantity":"Fz","place":"lead"}],"frame":{}}`)},
		"half a second":         {"jump", write("short.csv", "time,Fz\n0,800\n0.001,800\n0.002,800\n")},
		"where is impact":       {"swing", write("swing.csv", "rate 100 Hz\nFz_lead,Fz_trail\n"+strings.Repeat("400,400\n", 300)), "--side", "left"},
		"--rate and --mass":     {"jump", csv, "--mass", "-4"},
	} {
		out, err := run(t, nil, append([]string{"force"}, args...)...)
		var bad badInput
		require.ErrorAs(t, err, &bad, want)
		assert.ErrorContains(t, err, want)
		assert.Empty(t, out)
	}
	_, err := run(t, nil, "sim", "plates", "--kind", "walk")
	assert.ErrorContains(t, err, "walk")
	_, err = run(t, nil, "sim", "plates", "--write", filepath.Join(dir, "x.csv"), "--side", "up")
	assert.ErrorContains(t, err, "--side")
}

// The stand-in plates are played on this machine only, and said in words.
func TestPlatesAreAStandIn(t *testing.T) {
	_, err := run(t, nil, "sim", "plates", "--listen", "0.0.0.0:7461")
	var bad badInput
	require.ErrorAs(t, err, &bad)
	assert.ErrorContains(t, err, "on this machine only")
	path := filepath.Join(t.TempDir(), "squat.csv")
	truth, err := run(t, nil, "sim", "plates", "--write", path, "--kind", "squat", "--height", "0.28", "--noise", "3", "--offset", "40", "--hum", "5", "--drift", "0.5")
	require.NoError(t, err)
	assert.Contains(t, truth, `"HeightM": 0.28`)
	words, err := run(t, nil, "force", "jump", path, "--onset", "back30ms", "--cutoff", "-1")
	require.NoError(t, err)
	assert.Contains(t, words, "Squat jump, 7")
	assert.Contains(t, words, "height, take-off speed")
	assert.Contains(t, words, "Mains hum of 8 N at 50.0 Hz was taken off")
}

// Speed and warm-up from a script: the fields a curve needs are left out without one, and
// what is impossible ends with exit code 2, a sentence, and nothing on standard output.
func TestSpeedAndWarmUpCommands(t *testing.T) {
	decode := func(out string) map[string]any {
		m := map[string]any{}
		require.NoError(t, json.Unmarshal([]byte(out), &m))
		return m
	}
	out, err := run(t, nil, "speed", "coldstart", "--mps", "45.1,46.9,47.6,48.3,48.2,48.9,48.6,49,48.8,48.9", "--json")
	require.NoError(t, err)
	m := decode(out)
	assert.Equal(t, "curve", m["fit"])
	assert.InDelta(t, 48.89573, m["ceilingMps"], 1e-5)
	assert.InDelta(t, 3.74993, m["firstDeficitMps"], 1e-5)
	assert.InDelta(t, 1.76996, m["tauSwings"], 1e-5)
	assert.InDelta(t, 4.6058, m["swingsTo99"], 1e-4)
	out, err = run(t, nil, "speed", "coldstart", "--mps", "45, 47, 48", "--json")
	require.NoError(t, err)
	m = decode(out)
	assert.Equal(t, "none", m["fit"])
	assert.Contains(t, m["reason"], "too few")
	for _, k := range []string{"ceilingMps", "firstDeficitMps", "tauSwings", "swingsTo99"} {
		assert.NotContains(t, m, k)
	}
	out, err = run(t, nil, "speed", "carry", "--club-mps", "44.704", "--json")
	require.NoError(t, err)
	m = decode(out)
	assert.InDelta(t, 200*0.9144, m["rule"].(map[string]any)["lowM"], 1e-9)
	assert.InDelta(t, 1.4882, m["smashLimit"], 1e-9)

	path := export(t)
	out, err = run(t, nil, "warmup", path, "--minutes", "10", "--place", "tee", "--purpose", "tee", "--walk", "4", "--tee", "9:00", "--json")
	require.NoError(t, err)
	m = decode(out)
	assert.Equal(t, "08:41", m["startAt"])
	assert.LessOrEqual(t, m["totalSeconds"], 600.0)
	assert.Len(t, m["rules"], 10)
	first := m["items"].([]any)[0].(map[string]any)
	assert.Equal(t, "raise", first["phase"])
	for _, k := range []string{"name", "seconds", "side", "repetitions", "swings", "intentPercent", "holdSeconds"} {
		assert.Contains(t, first, k)
	}
	out, err = run(t, nil, "warmup", path, "--minutes", "4", "--place", "car-park")
	require.NoError(t, err)
	assert.Contains(t, out, "To the tee, 4 minutes in the car park")

	for _, args := range [][]string{
		{"speed", "coldstart"}, {"speed", "coldstart", "--mps", ""}, {"speed", "coldstart", "--mps", "45,x"}, {"speed", "coldstart", "--mps", "45,9"},
		{"speed", "coldstart", "--mps", "45,NaN"}, {"speed", "coldstart", "--mps", "40,90"}, {"speed", "carry", "--club-mps", "5"}, {"speed", "carry"},
		{"speed", "carry", "--club-mps", "45", "--set", "Z"}, {"speed", "carry", "--club-mps", "45", "--launch", "-3"}, {"speed", "carry", "--club-mps", "45", "--shots", "45"},
		{"warmup", path, "--minutes", "0"}, {"warmup", path, "--place", "moon"}, {"warmup", path, "--tee", "noon"}, {"warmup", "/no/such/file.json"},
		{"speed", "carry", "--club-mps", "fast"}, {"warmup", path, "--minutes", "ten"}, {"speed", "carry", "--no-such"},
	} {
		out, err := run(t, nil, args...)
		assert.Empty(t, out, args)
		var bad badInput
		assert.ErrorAs(t, err, &bad, "%v", args)
	}
}

// A plan is checked from a script: 0 all kept, 1 broken, 2 unreadable.
func TestCheckCommand(t *testing.T) {
	golfer := export(t)
	text, err := run(t, nil, "plan", golfer, "--json")
	require.NoError(t, err)
	dir := t.TempDir()
	write := func(name, text string) string {
		p := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(p, []byte(text), 0o600))
		return p
	}
	out, err := run(t, nil, "check", write("plan.json", text), "--golfer", golfer, "--json")
	require.NoError(t, err, out)
	var rules []map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &rules))
	assert.Greater(t, len(rules), 25)

	reps := regexp.MustCompile(`"reps": \d+,`)
	var bad badInput
	out, err = run(t, nil, "check", write("long.json", reps.ReplaceAllString(text, `"reps": 29,`)), "--golfer", golfer)
	require.ErrorContains(t, err, "broken")
	assert.NotErrorAs(t, err, &bad)
	assert.Contains(t, out, "EXPLOSIVE-REPS")
	out, err = run(t, nil, "check", write("strange.json", strings.ReplaceAll(text, `"exercise": "`, `"exercise": "x-`)), "--golfer", golfer)
	require.Error(t, err)
	assert.Contains(t, out, "is not in the library")

	for want, file := range map[string]string{
		"it is no plan":      write("torn.json", text[:len(text)/2]),
		"holds no programme": write("none.json", `{"read": {}}`),
		"its format is":      write("old.json", strings.Replace(text, programme.Format, "dunnock-programme/9", 1)),
		"two parts":          write("twice.json", strings.Replace(text, `"id": "plan-3"`, `"id": "plan-2"`, 1)),
		"no such file":       filepath.Join(dir, "missing.json"),
		"holds no block":     write("empty.json", `{"programme": {"format": "`+programme.Format+`", "blocks": []}}`),
		"there is no school": write("byre.json", strings.Replace(text, `"school": "measured-gap"`, `"school": "byre"`, 2)),
	} {
		out, err := run(t, nil, "check", file, "--golfer", golfer)
		require.ErrorAs(t, err, &bad, want)
		assert.ErrorContains(t, err, want)
		assert.Empty(t, out)
	}
	_, err = run(t, nil, "check", write("plan.json", text))
	require.ErrorContains(t, err, "golfer")
}
