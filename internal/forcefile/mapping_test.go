package forcefile_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
	"dunnock/internal/forcefile"
)

// A mapping by hand reads what no name tells: other names, a sign, a laboratory
// frame, the force on the plate.
func TestMappingByHand(t *testing.T) {
	b := dialect{"", "clock,A,B,C,D\n", "", ",", ".", func(i int) []float64 {
		return []float64{float64(i) / 1000, -400, 30, -300, 12}
	}}.text(50)
	f, err := forcefile.Read([]byte(b))
	require.NoError(t, err)
	m := forcefile.Mapping{Columns: []forcefile.Column{
		{Name: "clock", Quantity: forcefile.Time}, {Name: "A", Quantity: forcefile.Fz, Place: force.Left}, {Name: "b", Quantity: forcefile.Fx, Place: force.Left},
		{Name: "C", Quantity: forcefile.Fz, Place: force.Right}, {Name: "D", Quantity: forcefile.Fx, Place: force.Right, Negate: true},
	}, Frame: force.Frame{Laboratory: true, Target: "+x", OnPlate: true}}
	require.NoError(t, m.Check())
	r, err := m.Recording(f, force.LeftSided)
	require.NoError(t, err)
	assert.Equal(t, 300.0, r.Lead.UpN[0], "the right foot leads from the left")
	assert.Equal(t, 12.0, r.Lead.ToTargetN[0])
	assert.Equal(t, -30.0, r.Trail.ToTargetN[0])
	assert.Contains(t, r.Flags, force.OnPlate)
	// The file is as it was: it can be read again.
	again, err := m.Recording(f, force.LeftSided)
	require.NoError(t, err)
	assert.Equal(t, r.Lead, again.Lead)

	for want, bad := range map[string]forcefile.Mapping{
		"both said to be Fz of lead": {Columns: []forcefile.Column{{Name: "A", Quantity: forcefile.Fz, Place: "lead"}, {Name: "B", Quantity: forcefile.Fz, Place: "lead"}}},
		"both said to be the time":   {Columns: []forcefile.Column{{Name: "A", Quantity: forcefile.Time}, {Name: "B", Quantity: forcefile.Time}}},
		"sampling rate":              {RateHz: -5},
		"axis up":                    {Frame: force.Frame{Laboratory: true, Up: "north"}},
	} {
		assert.ErrorContains(t, bad.Check(), want)
	}
	for want, bad := range map[string][]forcefile.Column{
		"no column \"E\"":   {{Name: "E", Quantity: forcefile.Fz, Place: "total"}},
		"nothing a plate":   {{Name: "A", Quantity: "speed", Place: "total"}},
		"no unit of force":  {{Name: "A", Quantity: forcefile.Fz, Place: "total", Unit: "furlong"}},
		"are said to be Fz": {{Name: "A", Quantity: forcefile.Fz, Place: "total"}, {Name: "B", Quantity: forcefile.Fz, Place: "total"}},
		"to be the time":    {{Name: "clock", Quantity: forcefile.Time}, {Name: "A", Quantity: forcefile.Time}},
	} {
		_, err := forcefile.Mapping{Columns: bad, RateHz: 1000}.Recording(f, force.RightSided)
		assert.ErrorContains(t, err, want)
	}
}

// Names as plates write them: quantity, foot or plate before or after it, joined
// by anything, and a unit.
func TestNames(t *testing.T) {
	for name, want := range map[string]string{
		"Fz_lead": "Fz lead ", "fz.TRAIL": "Fz trail ", "LeadFz": "Fz lead ", "Left Fz [N]": "Fz left N", "L_Fz_N": "Fz left N", "FzR": "Fz right ",
		"Fz1": "Fz 1 ", "2.Fx": "Fx 2 ", "Fz": "Fz total ", "Fz_total (kgf)": "Fz total kgf", "CoPx_lead_mm": "CoPx lead mm", "copy trail": "CoPy trail ",
		"Tz_trail (N·mm)": "Tz trail N·mm", "TzLead_Nm": "Tz lead Nm", "Plate 1 Fy": "Fy 1 ", "Time (ms)": "time  ms", "t": "time  ", "time_s": "time  s", "Impact": "impact  ", "marker": "impact  ",
		"Temperature": "", "Fq_lead": "", "lead": "", "Fz_middle": "", "frame": "", "EMG 1": "",
	} {
		f, err := forcefile.Read([]byte("nothing;" + name + "\n1;2\n2;3\n3;4\n4;5\n"))
		require.NoError(t, err, name)
		got := ""
		for _, c := range forcefile.Guess(f).Columns {
			got += fmt.Sprintf("%s %s %s", c.Quantity, c.Place, c.Unit)
		}
		assert.Equal(t, want, got, name)
	}
}

// Whatever a mapping says, a file is read by it or refused.
func FuzzMapping(f *testing.F) {
	f.Add(
		[]byte(
			`{"columns":[{"name":"A","quantity":"Fz","place":"lead","unit":"kgf","negate":true},{"name":"B","quantity":"Fz","place":"trail"}],"rateHz":1000,"frame":{"laboratory":true,"target":"-y","up":"+z"}}`,
		),
	)
	f.Add([]byte(`{"columns":[{"name":"t","quantity":"time"},{"name":"A","quantity":"Fz","place":"total"}],"frame":{"onPlate":true}}`))
	file, err := forcefile.Read([]byte("t;A;B;C\n0;400;300;1\n0,001;401;300;1\n0,002;402;300;1\n0,003;403;300;0\n"))
	require.NoError(f, err)
	f.Fuzz(func(t *testing.T, b []byte) {
		var m forcefile.Mapping
		if json.Unmarshal(b, &m) != nil {
			return
		}
		for _, side := range []force.Side{force.RightSided, force.LeftSided} {
			r, err := m.Recording(file, side)
			if err == nil && m.Check() == nil && r.Len() < 3 {
				t.Fatal("a recording of nothing")
			}
		}
	})
}

// quoted puts every cell of a text between quotes.
func quoted(s, delimiter string) string {
	lines := strings.Split(strings.TrimSpace(s), "\n")
	for i := range lines {
		lines[i] = `"` + strings.ReplaceAll(lines[i], delimiter, `"`+delimiter+`"`) + `"`
	}
	return strings.Join(lines, "\n") + "\n"
}
