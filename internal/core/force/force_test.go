package force_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/force"
)

// The sign of the turn, once: a lead foot pushed away from the ball turns the
// body toward the target, on both sides a golfer plays from, and so does a trail
// foot pushed toward it; a force toward the target on a point nearer the ball
// than the axis does too.
func TestTurnSign(t *testing.T) {
	assert.Positive(t, force.Turn(0.25, 0, 0, -40), "lead foot, away from the ball")
	assert.Positive(t, force.Turn(-0.25, 0, 0, 40), "trail foot, toward the ball")
	assert.Positive(t, force.Turn(0, 0.1, 30, 0))
	assert.InDelta(t, 10, force.Turn(0.25, 0, 0, -40), 1e-12)
}

// In a right-handed laboratory (x toward the target, z up) the cross product
// about z counts counterclockwise from above: toward the target for golfers who
// play from the right, away from it for those from the left. Turn must agree with
// it on both sides once the forces are in the golfer's frame.
func TestLaboratoryFrame(t *testing.T) {
	const fx, fy, fz, x, y, free = 30.0, -12.0, 400.0, 0.2, 0.05, 3.0
	about := x*fy - y*fx // about z, by the right-hand rule
	flat := func(v float64) []float64 { return []float64{v, v, v, v} }
	for _, side := range []force.Side{force.RightSided, force.LeftSided} {
		p := func(place force.Place) force.Plate {
			return force.Plate{Place: place, Force: [3][]float64{flat(fx), flat(fy), flat(fz)}, CoP: [3][]float64{flat(x), flat(y), nil}, Free: flat(free)}
		}
		r, err := force.Gather([]force.Plate{p(force.Lead), p(force.Trail)}, force.Frame{Laboratory: true}, side, 1000)
		require.NoError(t, err)
		f := r.Lead
		want, sign := about, 1.0
		if side == force.LeftSided {
			want, sign = -about, -1
		}
		assert.InDelta(t, want, force.Turn(f.CoPToTargetM[0], f.CoPToBallM[0], f.ToTargetN[0], f.ToBallN[0]), 1e-12, side)
		assert.Equal(t, sign*free, f.FreeMomentNm[0], side)
		assert.Equal(t, fx, f.ToTargetN[0], side)
		assert.Equal(t, -sign*fy, f.ToBallN[0], "%s: facing the ball, the target is on the left hand from the right side", side)
		assert.Equal(t, fz, f.UpN[0], side)
	}
}

// Other ways a laboratory may lie: the target along −y, up along x or −z; a
// left-sided golfer who plays the other way; the force on the plate.
func TestOtherFrames(t *testing.T) {
	flat := func(v float64) []float64 { return []float64{v, v, v, v} }
	gather := func(f force.Frame, side force.Side, v [3]float64, free float64) *force.Foot {
		t.Helper()
		r, err := force.Gather([]force.Plate{{Place: force.Total, Force: [3][]float64{flat(v[0]), flat(v[1]), flat(v[2])}, Free: flat(free)}}, f, side, 500)
		require.NoError(t, err)
		return r.Whole
	}
	f := gather(force.Frame{Laboratory: true, Target: "-y", Up: "+z"}, force.RightSided, [3]float64{7, -30, 800}, 2)
	assert.Equal(t, 30.0, f.ToTargetN[0])
	assert.Equal(t, -7.0, f.ToBallN[0], "z × −y is +x, so the ball lies along −x")
	assert.Equal(t, 2.0, f.FreeMomentNm[0])
	f = gather(force.Frame{Laboratory: true, Target: "+x", Up: "-z"}, force.RightSided, [3]float64{30, 7, -800}, 2)
	assert.Equal(t, 800.0, f.UpN[0])
	assert.Equal(t, 7.0, f.ToBallN[0])
	assert.Equal(t, -2.0, f.FreeMomentNm[0], "counted the other way from below")
	f = gather(force.Frame{Laboratory: true, LeftOpposite: true}, force.LeftSided, [3]float64{30, 7, 800}, 2)
	assert.Equal(t, -30.0, f.ToTargetN[0])
	assert.Equal(t, -7.0, f.ToBallN[0], "who plays the other way stands as the others do")
	assert.Equal(t, -2.0, f.FreeMomentNm[0])
	f = gather(force.Frame{OnPlate: true}, force.RightSided, [3]float64{-30, -7, -800}, -2)
	assert.Equal(t, []float64{30, 7, 800, 2}, []float64{f.ToTargetN[0], f.ToBallN[0], f.UpN[0], f.FreeMomentNm[0]})
	for _, bad := range []force.Frame{{Laboratory: true, Target: "north"}, {Laboratory: true, Up: "w"}, {Laboratory: true, Target: "z", Up: "-z"}} {
		_, err := force.Gather(nil, bad, force.RightSided, 1000)
		assert.Error(t, err, "%+v", bad)
	}
}

func TestWhichFootIsWhich(t *testing.T) {
	plate := func(place force.Place, cop float64) force.Plate {
		up, x, y := make([]float64, 10), make([]float64, 10), make([]float64, 10)
		for i := range up {
			up[i], x[i] = 400+float64(len(place)), cop
		}
		return force.Plate{Place: place, Force: [3][]float64{nil, nil, up}, CoP: [3][]float64{x, y}}
	}
	of := func(side force.Side, p ...force.Plate) (*force.Recording, error) {
		return force.Gather(p, force.Frame{}, side, 1000)
	}
	r, err := of(force.RightSided, plate(force.Left, 0), plate(force.Right, 0))
	require.NoError(t, err)
	assert.Equal(t, 404.0, r.Lead.UpN[0], "the left foot leads from the right side")
	r, err = of(force.LeftSided, plate(force.Left, 0), plate(force.Right, 0))
	require.NoError(t, err)
	assert.Equal(t, 405.0, r.Lead.UpN[0], "the right foot from the left")
	r, err = of(force.RightSided, plate(force.First, -0.2), plate(force.Second, 0.2))
	require.NoError(t, err)
	assert.Equal(t, 0.2, r.Lead.CoPToTargetM[0], "plates by number: the one nearer the target")
	assert.Empty(t, r.Flags)
	r, err = of(force.RightSided, plate(force.First, 0), plate(force.Second, 0))
	require.NoError(t, err)
	assert.Equal(t, []force.Flag{force.FeetAssumed}, r.Flags)
	r, err = of(force.RightSided, plate(force.Lead, 0.2), plate(force.Trail, -0.2), plate(force.Total, 0))
	require.NoError(t, err)
	assert.Nil(t, r.Whole, "the sum says nothing more")
	assert.Len(t, r.Channels(), 6)
	r, err = of(force.RightSided, plate(force.First, 0))
	require.NoError(t, err)
	assert.NotNil(t, r.Whole, "one plate carries both feet")
	for _, bad := range [][]force.Plate{
		{plate(force.Left, 0)}, {plate(force.Left, 0), plate(force.Lead, 0)}, {plate(force.First, 0), plate(force.Left, 0)}, {plate("nose", 0)}, nil,
		{{Place: force.Total}}, {plate(force.Lead, 0), {Place: force.Trail, Force: [3][]float64{nil, nil, make([]float64, 7)}}},
	} {
		_, err := of(force.RightSided, bad...)
		assert.Error(t, err)
	}
	_, err = force.Gather([]force.Plate{plate(force.Total, 0)}, force.Frame{}, force.RightSided, 0)
	assert.ErrorContains(t, err, "sampling rate")
}

func TestGaps(t *testing.T) {
	nan := math.NaN()
	x := []float64{nan, 2, nan, nan, nan, 6, 7, nan}
	filled, err := force.FillGaps(x)
	require.NoError(t, err)
	assert.Equal(t, 5, filled)
	assert.InDeltaSlice(t, []float64{2, 2, 3, 4, 5, 6, 7, 7}, x, 1e-12)
	_, err = force.FillGaps([]float64{1, nan, nan, nan, nan, 2})
	var gap *force.GapError
	require.ErrorAs(t, err, &gap)
	assert.Equal(t, force.GapError{Sample: 1, Samples: 4}, *gap)
	assert.Contains(t, gap.Error(), "4 samples")

	up := []float64{400, 400, 400, 400, 400, 400}
	hole := []float64{1, nan, nan, nan, nan, 2}
	plates := func(fx, fz []float64) []force.Plate {
		return []force.Plate{{Place: force.Total, Force: [3][]float64{fx, nil, fz}}}
	}
	r, err := force.Gather(plates(hole, up), force.Frame{}, force.RightSided, 1000)
	require.NoError(t, err)
	assert.Nil(t, r.Whole.ToTargetN, "a channel with a long gap is left out")
	assert.Equal(t, []force.Flag{force.ChannelRefused}, r.Flags)
	r, err = force.Gather(plates([]float64{1, nan, 3, 4, 5, 6}, up), force.Frame{}, force.RightSided, 1000)
	require.NoError(t, err)
	assert.Equal(t, 2.0, r.Whole.ToTargetN[1])
	assert.Equal(t, []force.Flag{force.GapsFilled}, r.Flags)
	_, err = force.Gather(plates(nil, hole), force.Frame{}, force.RightSided, 1000)
	assert.ErrorAs(t, err, &gap, "the vertical force cannot be left out")
	// Under an empty plate there is no centre of pressure: files write NaN.
	r, err = force.Gather(
		[]force.Plate{
			{Place: force.Total, Force: [3][]float64{nil, nil, {0, 0, 0, 0, 0, 400}}, CoP: [3][]float64{{nan, nan, nan, nan, nan, 0.1}, {nan, nan, nan, nan, nan, 0.2}}},
		},
		force.Frame{},
		force.RightSided,
		1000,
	)
	require.NoError(t, err)
	assert.Empty(t, r.Flags)
	assert.Equal(t, 0.1, r.Whole.CoPToTargetM[5])
}

func TestTimeColumn(t *testing.T) {
	c, err := force.CheckTime([]float64{5, 5.001, 5.002, 5.003, 5.004})
	require.NoError(t, err)
	assert.Equal(t, force.Clock{RateHz: 1000, StartS: 5}, c)
	skip := []float64{0, 0.001, 0.004, 0.005, 0.006}
	c, err = force.CheckTime(skip)
	require.NoError(t, err)
	assert.Equal(t, []force.Gap{{2, 2}}, c.Missing)
	got := c.Spread(skip, []float64{1, 2, 5, 6, 7})
	require.Len(t, got, 7)
	assert.True(t, math.IsNaN(got[2]) && math.IsNaN(got[3]))
	assert.Equal(t, 5.0, got[4])
	uneven := []float64{0, 0.001, 0.0028, 0.003, 0.0048, 0.005}
	c, err = force.CheckTime(uneven)
	require.NoError(t, err)
	assert.True(t, c.Uneven)
	y := c.Spread(uneven, uneven)
	for i, v := range y {
		assert.InDelta(t, float64(i)/c.RateHz, v, 1e-9, "a straight line stays one")
	}
	var te *force.TimeError
	for _, bad := range [][]float64{{0, 1}, {0, 1, 1}, {0, 2, 1}, {0, math.NaN(), 1}, {0, 0.001, 0.002, 0.009, 0.010}} {
		_, err := force.CheckTime(bad)
		require.ErrorAs(t, err, &te, "%v", bad)
	}
	assert.Equal(t, 3, te.Sample)
	r := force.Recording{RateHz: 1000, StartS: 2}
	assert.InDelta(t, 2.5, r.Time(500), 1e-12)
	assert.InDelta(t, 500, r.Sample(2.5), 1e-9)
	assert.Zero(t, r.Len())
}

func TestBaseline(t *testing.T) {
	assert.Nil(t, force.BaselineOf(nil))
	b := force.BaselineOf([]map[string]float64{{"a": 2, "b": 7}, {"a": 4}, {"a": 9}})
	assert.Equal(t, 3, b.Trials)
	assert.InDelta(t, 5, b.Mean["a"], 1e-12)
	assert.InDelta(t, 3.605551, b.SD["a"], 1e-6, "√((9 + 1 + 16) ÷ 2)")
	assert.InDelta(t, 9, b.Best["a"], 0)
	_, ok := b.SD["b"]
	assert.False(t, ok, "one value has no spread")
}
