package forcefile_test

import (
	"bytes"
	"fmt"
	"math"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/core/twoplates"
	"dunnock/internal/forcefile"
)

// table is a small recording written in a dialect: samples at 1,000 Hz, Fz of
// the lead foot 400 + i, of the trail foot 300.
type dialect struct {
	preamble, header, units string
	delimiter               string
	decimal                 string
	row                     func(i int) []float64
}

func (d dialect) text(rows int) string {
	var b strings.Builder
	b.WriteString(d.preamble + d.header)
	if d.units != "" {
		b.WriteString(d.units)
	}
	for i := range rows {
		for k, v := range d.row(i) {
			if k > 0 {
				b.WriteString(d.delimiter)
			}
			b.WriteString(strings.Replace(fmt.Sprintf("%.4f", v), ".", d.decimal, 1))
		}
		b.WriteString("\n")
	}
	return b.String()
}

func seconds(i int) []float64 { return []float64{float64(i) / 1000, 400 + float64(i), 300} }

func utf16le(s string, mark bool) []byte {
	var out []byte
	if mark {
		out = []byte{0xFF, 0xFE}
	}
	for _, u := range utf16.Encode([]rune(s)) {
		out = append(out, byte(u), byte(u>>8))
	}
	return out
}

// Every dialect gives the same recording.
func TestDialects(t *testing.T) {
	plain := dialect{"", "time,Fz_lead,Fz_trail\n", "", ",", ".", seconds}
	ms := func(i int) []float64 { return []float64{float64(i), 400 + float64(i), 300} }
	none := func(i int) []float64 { return []float64{400 + float64(i), 300} }
	kgf := func(i int) []float64 {
		return []float64{float64(i) / 1000, (400 + float64(i)) / force.G, 300 / force.G}
	}
	for name, b := range map[string][]byte{
		"comma":                  []byte(plain.text(50)),
		"semicolon and comma":    []byte(dialect{"", "Time;FZ.Lead;fz trail\n", "", ";", ",", seconds}.text(50)),
		"tabs":                   []byte(dialect{"", "t\tLead_Fz\tTrail_Fz\n", "", "\t", ".", seconds}.text(50)),
		"bars":                   []byte(dialect{"", "t|leadFz|trailFz\n", "", "|", ".", seconds}.text(50)),
		"blanks":                 []byte(dialect{"", "t   Fz_L  Fz_R\n", "", "  ", ".", seconds}.text(50)),
		"windows line ends":      []byte(strings.ReplaceAll(plain.text(50), "\n", "\r\n")),
		"units row":              []byte(dialect{"", "time,Fz_lead,Fz_trail\n", "ms,N,N\n", ",", ".", ms}.text(50)),
		"units in brackets":      []byte(dialect{"", "Time [ms];Fz lead (N);Fz trail [N]\n", "", ";", ".", ms}.text(50)),
		"units after a line":     []byte(dialect{"", "time_ms,Fz_lead_N,Fz_trail_N\n", "", ",", ".", ms}.text(50)),
		"ms without a unit":      []byte(dialect{"", "time,Fz_lead,Fz_trail\n", "", ",", ".", ms}.text(50)),
		"kilogram-force":         []byte(dialect{"", "time,Fz_lead_kgf,Fz_trail_kgf\n", "", ",", ".", kgf}.text(50)),
		"units above the header": []byte(dialect{"Recorded by the stand-in\nForce unit: kgf\n\n", "time,Fz_lead,Fz_trail\n", "", ",", ".", kgf}.text(50)),
		"rate above the header":  []byte(dialect{"Sampling rate: 1000 Hz\n", "Fz_lead,Fz_trail\n", "", ",", ".", none}.text(50)),
		"rate in kilohertz":      []byte(dialect{"Sampling frequency (kHz),1 kHz\n", "Fz1,Fz2\n", "", ",", ".", none}.text(50)),
		"plates in a row above":  []byte(dialect{"", ",Plate 1,Plate 2\ntime,Fz,Fz\ns,N,N\n", "", ",", ".", seconds}.text(50)),
		"byte order mark":        []byte("\uFEFF" + plain.text(50)),
		"UTF-16":                 utf16le(plain.text(50), true),
		"UTF-16 without a mark":  utf16le(plain.text(50), false),
		"quoted":                 []byte(quoted(dialect{"", "time,Fz_lead,Fz_trail\n", "", ",", ".", seconds}.text(50), ",")),
		"quoted, decimal comma":  []byte(strings.ReplaceAll(quoted(dialect{"", "time;Fz_lead;Fz_trail\n", "", ";", ",", seconds}.text(50), ";"), ";", ",")),
		"quoted names only":      []byte(dialect{"", "\"time, s\",\"Fz lead, N\",\"Fz trail, N\"\n", "", ",", ".", seconds}.text(50)),
		"separators at the end":  []byte(dialect{"", "time;Fz_lead;Fz_trail\n", "", ";", ",", seconds}.text(50) + ";;\n;;\n\n"),
		"separators on each row": []byte(strings.ReplaceAll(dialect{"", "time;Fz_lead;Fz_trail\n", "", ";", ",", seconds}.text(50), "\n", ";;\n")),
		"slashes before units":   []byte(dialect{"", "Zeit / ms\tFz lead / N\tFz trail / N\n", "", "\t", ".", ms}.text(50)),
		"units row in brackets": []byte(dialect{"", "Time;Left;Right;\n", "(ms);(kgf);(kgf);\n", ";", ",", func(i int) []float64 {
			return []float64{float64(i), (400 + float64(i)) / force.G, 300 / force.G}
		}}.text(50)),
		"units row, one unknown": []byte(dialect{"", "Time,Left,Right,Knee\n", "ms,N,N,grad\n", ",", ".", func(i int) []float64 { return append(ms(i), 160) }}.text(50)),
		"English feet":           []byte(dialect{"", "Time (s),Left Foot (N),Right Foot (N)\n", "", ",", ".", seconds}.text(50)),
		"English force":          []byte(dialect{"", "Elapsed Time,Vertical Force Left,Vertical Force Right\n", "", ",", ".", seconds}.text(50)),
		"German, Latin-1":        latin1(dialect{"Messung für den Prüfstand\n", "Zeit [s];Linker Fuß [N];Rechter Fuß [N]\n", "", ";", ",", seconds}.text(50)),
		"German force":           []byte(dialect{"", "Zeit;Kraft links;Kraft rechts\n", "s;N;N\n", ";", ",", seconds}.text(50)),
		"French":                 latin1(dialect{"Fréquence d'acquisition : 1000 Hz\n", "Temps (s);Pied gauche (N);Pied droit (N)\n", "", ";", ",", seconds}.text(50)),
		"French feet":            []byte(dialect{"", "Temps (s);Force pied avant (N);Force pied arrière (N)\n", "", ";", ",", seconds}.text(50)),
		"Spanish":                []byte(dialect{"", "Tiempo (s);Pie izquierdo (N);Pie derecho (N)\n", "", ";", ",", seconds}.text(50)),
		"Spanish force":          []byte(dialect{"Frecuencia: 1000 Hz\n", "Fuerza izquierda;Fuerza derecha\n", "", ";", ",", none}.text(50)),
		"on the plate":           []byte(dialect{"", "time,Fz_lead,Fz_trail\n", "", ",", ".", func(i int) []float64 { return []float64{float64(i) / 1000, -400 - float64(i), -300} }}.text(50)),
		"other columns":          []byte(dialect{"", "time,Fz_lead,Fz_trail,Temperature\n", "", ",", ".", func(i int) []float64 { return append(seconds(i), 21) }}.text(50)),
		"feet and their sum":     []byte(dialect{"", "time,Fz_lead,Fz_trail,Fz_total\n", "", ",", ".", func(i int) []float64 { return append(seconds(i), 700+float64(i)) }}.text(50)),
	} {
		t.Run(name, func(t *testing.T) {
			f, err := forcefile.Read(b)
			require.NoError(t, err)
			r, err := forcefile.Guess(f).Recording(f, force.RightSided)
			require.NoError(t, err)
			assert.InDelta(t, 1000, r.RateHz, 1e-9)
			require.Equal(t, 50, r.Len())
			assert.InDelta(t, 449, r.Lead.UpN[49], 0.01)
			assert.InDelta(t, 300, r.Trail.UpN[49], 0.01)
		})
	}
}

// latin1 writes a text as older programs do, one byte a letter.
func latin1(s string) []byte {
	var out []byte
	for _, r := range s {
		out = append(out, byte(r))
	}
	return out
}

// One column of force alone is the whole golfer's, with decimal commas and a
// time or without.
func TestOneColumnOfForce(t *testing.T) {
	for name, text := range map[string]string{
		"time; force":                   "Zeit (s);Kraft (N)\n0,000;801,5\n0,001;802,5\n0,002;803,5\n0,003;804,5\n",
		"blanks":                        "t F\n0,000 801,5\n0,001 802,5\n0,002 803,5\n0,003 804,5\n",
		"tabs":                          "Time\tGRF\n0,000\t801,5\n0,001\t802,5\n0,002\t803,5\n0,003\t804,5\n",
		"quoted":                        "\"Time\",\"Force, N\"\n\"0,000\",\"801,5\"\n\"0,001\",\"802,5\"\n\"0,002\",\"803,5\"\n\"0,003\",\"804,5\"\n",
		"commas for both":               "time,force\n0,000,801,5\n0,001,802,5\n0,002,803,5\n0,003,804,5\n",
		"force alone":                   "1000 Hz\nForce (N)\n801.5\n802.5\n803.5\n804.5\n",
		"force alone, decimal comma":    "1000 Hz\nFuerza vertical (N)\n801,5\n802,5\n803,5\n804,5\n",
		"unit in a row, kilogram-force": "1000 Hz\nGesamtkraft\nkgf\n81.7302\n81.8322\n81.9342\n82.0361\n",
	} {
		t.Run(name, func(t *testing.T) {
			f, err := forcefile.Read([]byte(text))
			require.NoError(t, err)
			r, err := forcefile.Guess(f).Recording(f, force.RightSided)
			require.NoError(t, err)
			assert.InDelta(t, 1000, r.RateHz, 1e-9)
			require.NotNil(t, r.Whole)
			assert.InDeltaSlice(t, []float64{801.5, 802.5, 803.5, 804.5}, r.Whole.UpN, 0.001)
			assert.Empty(t, r.Flags)
		})
	}
}

// A file that plainly holds the force on the plate is turned and says so; one
// that merely dips below zero is not.
func TestForceOnThePlateIsTurned(t *testing.T) {
	read := func(text string) *force.Recording {
		t.Helper()
		f, err := forcefile.Read([]byte(text))
		require.NoError(t, err)
		r, err := forcefile.Guess(f).Recording(f, force.RightSided)
		require.NoError(t, err)
		return r
	}
	down := read("1000 Hz\nFx;Fz\n12;-800\n13;-801\n14;-802\n15;-803\n")
	assert.Equal(t, 800.0, down.Whole.UpN[0])
	assert.Equal(t, -12.0, down.Whole.ToTargetN[0], "all of the force is turned")
	assert.Contains(t, down.Flags, force.OnPlate)
	assert.Contains(t, strings.Join(down.Notes, " "), "force on the plate: it was turned round")
	for name, text := range map[string]string{
		"an offset":        "1000 Hz\nFz\n-4\n-5\n-4\n-5\n",
		"half of it":       "1000 Hz\nFz\n-800\n800\n-800\n800\n",
		"the usual":        "1000 Hz\nFz\n800\n800\n-20\n800\n",
		"shear below zero": "1000 Hz\nFx;Fz\n-300;800\n-300;800\n-300;800\n",
	} {
		assert.NotContains(t, read(text).Flags, force.OnPlate, name)
	}
}

func TestMarkers(t *testing.T) {
	rows := func(mark func(i int) string) []byte {
		var b strings.Builder
		b.WriteString("time,Fz,marker\n")
		for i := range 60 {
			fmt.Fprintf(&b, "%.3f,800,%s\n", 2+float64(i)/1000, mark(i))
		}
		return []byte(b.String())
	}
	read := func(b []byte) *force.Recording {
		t.Helper()
		f, err := forcefile.Read(b)
		require.NoError(t, err)
		r, err := forcefile.Guess(f).Recording(f, force.RightSided)
		require.NoError(t, err)
		return r
	}
	pulse := read(rows(func(i int) string {
		if i >= 40 && i < 45 {
			return "5"
		}
		return "0"
	}))
	require.NotNil(t, pulse.ImpactS)
	assert.InDelta(t, 2.040, *pulse.ImpactS, 1e-9, "on the file's own clock")
	words := read(rows(func(i int) string { return map[int]string{10: "Top", 40: "Impact"}[i] }))
	assert.InDelta(t, 2.040, *words.ImpactS, 1e-9)
	assert.InDelta(t, 2.010, *words.TopS, 1e-9)
	assert.Nil(t, read(rows(func(int) string { return "0" })).ImpactS, "a marker that never moves marks nothing")
	above := read([]byte("Impact: 0.030 s\nrate 1000 Hz\nFz\n" + strings.Repeat("800\n", 60)))
	assert.InDelta(t, 0.030, *above.ImpactS, 1e-9)
}

// What cannot be read is refused by row, column or byte.
func TestRefusals(t *testing.T) {
	good := dialect{"", "time,Fz_lead,Fz_trail\n", "", ",", ".", seconds}.text(50)
	lines := strings.Split(good, "\n")
	with := func(row int, text string) []byte {
		l := append([]string(nil), lines...)
		l[row-1] = text
		return []byte(strings.Join(l, "\n"))
	}
	gap := append([]string(nil), lines...)
	for i := 20; i < 25; i++ {
		gap[i] = fmt.Sprintf("%.4f,,300", float64(i-1)/1000)
	}
	for name, c := range map[string]struct {
		b    []byte
		want string
	}{
		"nothing":                {nil, "empty"},
		"a cut-off row":          {with(30, "0.0280,42"), "row 30 has 2 of 3 columns"},
		"too many columns":       {with(30, "0.0280,428,300,7"), "row 30 has more than the 3 columns"},
		"text in a number":       {with(30, "0.0280,4x8,300"), "row 30, column Fz_lead: “4x8” is no number"},
		"an infinity":            {with(30, "0.0280,Inf,300"), "row 30"},
		"time repeated":          {with(30, "0.0270,428,300"), "row 30: the time 0.027 s is repeated"},
		"time going back":        {with(30, "0.0200,428,300"), "row 30: the time goes back"},
		"no time":                {with(30, ",428,300"), "row 30: the time is missing"},
		"a run of missing":       {[]byte(strings.Join(gap, "\n")), "from row 21 on, 5 samples"},
		"a hole in time":         {[]byte(strings.Join(append(append([]string(nil), lines[:20]...), lines[30:]...), "\n")), "row 21: 10 samples are missing"},
		"no rate":                {[]byte("Fz_lead,Fz_trail\n400,300\n401,300\n402,300\n"), "sampling rate is not known"},
		"two rates":              {[]byte("rate: 500 Hz\n" + good), "1000 Hz, but 500 Hz are stated"},
		"no plates":              {[]byte(strings.ReplaceAll(good, "Fz", "Gz")), "no column of a force plate was found"},
		"one foot":               {[]byte("time,Fz_lead\n0,1\n0.001,1\n0.002,1\n"), "one foot only"},
		"no numbers":             {[]byte("a letter to the plate\nwith regards\n"), "no rows of numbers"},
		"a picture":              {append([]byte("\x89PNG\r\n\x1a\n"), make([]byte, 300)...), "a picture (image/png)"},
		"zeros":                  {make([]byte, 5000), "neither a text"},
		"a zero far down":        {append([]byte(good), 0), "is zero: this is no text"},
		"binary":                 {bytes.Repeat([]byte{0x8f, 0x01, 0xfe, 0x90}, 300), "neither a text"},
		"half a UTF-16":          {utf16le(good, true)[:601], "odd number of bytes"},
		"a wrong unit":           {[]byte(strings.Replace(good, "Fz_lead", "Fz_lead [mm]", 1)), "is no unit of force"},
		"a negative rate":        {[]byte("Sampling rate: -1000 Hz\n" + good), "-1000 Hz above the header (“Sampling rate: -1000 Hz”) is none"},
		"a negative interval":    {[]byte("dt = -0.001\n" + good), "-1000 Hz above the header"},
		"a rate of nothing":      {[]byte("fs: 0 Hz\n" + good), "0 Hz above the header"},
		"an unclosed quote":      {with(30, `0.0280,"428,300`), "row 30, column Fz_lead opens a quote and does not close it"},
		"an unclosed name":       {with(1, `time,"Fz_lead,Fz_trail`), "row 1 opens a quote and does not close it"},
		"commas for both, once":  {[]byte("time,force\n0,001,800,5\n0,002,801,5\n0,003,802\n0,004,802,5\n"), "row 4: commas stand between"},
		"two decimal marks":      {[]byte("t;Fz\n0,001;800.5\n0,002;801.5\n0,003;802.5\n"), "row 2 writes 800.5 with a point, others have a comma"},
		"a later decimal mark":   {[]byte("1000 Hz\nFz\n" + strings.Repeat("800,5\n", 400) + "1.234,5\n"), "row 403"},
		"a silly rate":           {[]byte("rate: 3 Hz\n" + good), "none a force plate has"},
		"a header and no number": {[]byte("time,Fz\n0.001,800\n"), "no recording"},
	} {
		t.Run(name, func(t *testing.T) {
			f, err := forcefile.Read(c.b)
			if err == nil {
				_, err = forcefile.Guess(f).Recording(f, force.RightSided)
			}
			assert.ErrorContains(t, err, c.want)
		})
	}
	_, err := forcefile.ReadAll(zeros(200 << 20))
	assert.ErrorContains(t, err, "larger than 64 MB")
	many := "time,Fz\n" + strings.Repeat("0,0\n", 4<<20)
	_, err = forcefile.Read([]byte(many))
	assert.ErrorContains(t, err, "million numbers")
}

// zeros reads as so many zero bytes.
type zeros int

func (z zeros) Read(p []byte) (int, error) { clear(p); return len(p), nil }

// Short gaps are filled and said.
func TestShortGapIsFilled(t *testing.T) {
	b := dialect{"", "time,Fz_lead,Fz_trail\n", "", ",", ".", func(i int) []float64 {
		if i == 20 || i == 21 {
			return []float64{float64(i) / 1000, math.NaN(), 300}
		}
		return seconds(i)
	}}.text(50)
	f, err := forcefile.Read([]byte(b))
	require.NoError(t, err)
	r, err := forcefile.Guess(f).Recording(f, force.RightSided)
	require.NoError(t, err)
	assert.InDelta(t, 420, r.Lead.UpN[20], 1e-9)
	assert.Equal(t, []force.Flag{force.GapsFilled}, r.Flags)
}

// What is exported is read back the same, to the decimals written.
func TestWriteAndRead(t *testing.T) {
	for name, r := range map[string]*force.Recording{"swing": func() *force.Recording { r, _ := twoplates.UsualSwing().Make(twoplates.Noise{}); return r }(), "jump": func() *force.Recording { r, _ := twoplates.Usual().Make(twoplates.Noise{}); return r }()} {
		var b bytes.Buffer
		require.NoError(t, forcefile.WriteCSV(&b, r))
		f, err := forcefile.Read(b.Bytes())
		require.NoError(t, err)
		got, err := forcefile.Guess(f).Recording(f, force.RightSided)
		require.NoError(t, err)
		require.Equal(t, r.Len(), got.Len(), name)
		want, have := r.Channels(), got.Channels()
		require.Len(t, have, len(want))
		for i := range want {
			assert.Equal(t, want[i].Name, have[i].Name)
			assert.InDeltaSlice(t, want[i].Values, have[i].Values, 6e-4)
		}
		if r.ImpactS != nil {
			assert.InDelta(t, *r.ImpactS, *got.ImpactS, 0.0006)
		}
		assert.NotEmpty(t, f.Fingerprint())
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(dialect{"rate 1000 Hz\n", "time;Fz_lead;Fz_trail;marker\n", "s;N;N;\n", ";", ",", func(i int) []float64 { return append(seconds(i), 0) }}.text(5)))
	f.Add(utf16le("t\tFz\n0\t1\n1\t2\n2\t3\n", true))
	var b bytes.Buffer
	r, _ := twoplates.Usual().Make(twoplates.Noise{})
	r.Lead.UpN, r.Trail.UpN = r.Lead.UpN[:20], r.Trail.UpN[:20]
	_ = forcefile.WriteC3D(&b, r, force.RightSided)
	f.Add(b.Bytes())
	f.Fuzz(func(t *testing.T, b []byte) {
		file, err := forcefile.Read(b)
		if err != nil {
			return
		}
		m := forcefile.Guess(file)
		if r, err := m.Recording(file, force.LeftSided); err == nil && (r.Len() == 0 || !(r.RateHz > 0)) {
			t.Fatal("a recording of nothing")
		}
	})
}

func BenchmarkCSV(b *testing.B) {
	r, _ := twoplates.UsualSwing().Make(twoplates.Noise{})
	var buf bytes.Buffer
	require.NoError(b, forcefile.WriteCSV(&buf, r))
	b.SetBytes(int64(buf.Len()))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := forcefile.Read(buf.Bytes()); err != nil {
			b.Fatal(err)
		}
	}
}

// The rate above the header, in the ways it is written, and what is none.
func TestRateAboveTheHeader(t *testing.T) {
	for line, want := range map[string]float64{
		"Sampling rate: 1000 Hz": 1000, "# sample rate = 500": 500, "Frequency,1200": 1200, "fs: 2 kHz": 2000, "Rate;1000,0 Hz": 1000, "Sampling interval: 2 ms": 500,
		"dt = 0.001 s": 1000, "Samples: 4000": 0, "Filter: low-pass 50 Hz": 0, "Cut-off frequency: 40 Hz": 0, "Heart rate 60": 0, "Trial 3 of 7": 0,
	} {
		f, err := forcefile.Read([]byte(line + "\nFz_lead;Fz_trail\n1;2\n2;3\n3;4\n4;5\n"))
		require.NoError(t, err, line)
		assert.InDelta(t, want, f.RateHz, 1e-6, line)
	}
}
