package force

import (
	"errors"
	"fmt"
	"math"
)

// Place is the plate or foot a channel of a file belongs to.
type Place string

// The places. First and Second are plates by number.
const (
	Lead   Place = "lead"
	Trail  Place = "trail"
	Left   Place = "left"
	Right  Place = "right"
	First  Place = "1"
	Second Place = "2"
	Total  Place = "total"
)

// Axis is a signed axis of a file's own frame: +x, -x, +y, -y, +z or -z.
type Axis string

// known splits an axis into its place among x, y, z and its sign.
func (a Axis) known() (k int, sign float64, ok bool) {
	if len(a) == 1 {
		a = "+" + a
	}
	if len(a) != 2 || a[0] != '+' && a[0] != '-' || a[1] < 'x' || a[1] > 'z' {
		return 0, 0, false
	}
	if sign = 1; a[0] == '-' {
		sign = -1
	}
	return int(a[1] - 'x'), sign, true
}

// Frame says what the axes of a file mean.
type Frame struct {
	// Laboratory is true for a right-handed frame fixed to the floor: the axis to
	// the ball and the sign of moments then follow from Target, Up and the side
	// the golfer plays from. False means the golfer's own frame: x toward the
	// target, y toward the ball, moments positive toward the target, for both
	// sides.
	Laboratory bool `json:"laboratory"`
	Target     Axis `json:"target,omitempty"` // +x when empty
	Up         Axis `json:"up,omitempty"`     // +z when empty
	// LeftOpposite is true when golfers who play from the left play toward the
	// other end of the laboratory: they stand as the others do and turn the
	// other way.
	LeftOpposite bool `json:"leftOpposite"`
	// OnPlate is true when the file holds the force of the golfer on the plate.
	OnPlate bool `json:"onPlate"`
}

// Check says what is wrong with a frame.
func (f Frame) Check() error {
	if !f.Laboratory {
		return nil
	}
	t, _, ok := f.target().known()
	if !ok {
		return fmt.Errorf("the axis toward the target is +x, -x, +y, -y, +z or -z, not %q", f.Target)
	}
	u, _, ok := f.up().known()
	if !ok {
		return fmt.Errorf("the axis up is +x, -x, +y, -y, +z or -z, not %q", f.Up)
	}
	if t == u {
		return errors.New("the axis toward the target and the axis up are the same")
	}
	return nil
}

func (f Frame) target() Axis {
	if f.Target == "" {
		return "+x"
	}
	return f.Target
}

func (f Frame) up() Axis {
	if f.Up == "" {
		return "+z"
	}
	return f.Up
}

// Plate is what one plate measured, in the file's own frame and SI units. Nil
// channels were not measured.
type Plate struct {
	Place Place
	// Force and CoP stand by the file's own axes x, y, z; the centre of pressure
	// has none along the one that is up. Free is the moment through it about that
	// axis, x, y or z, by the right-hand rule in a laboratory frame.
	Force, CoP [3][]float64
	Free       []float64
}

// Gather turns the plates of a file into a recording in the golfer's frame. The
// channels are taken over, not copied, and changed in place. It fills short gaps,
// leaves out a channel with a long one, and fails where the vertical force
// cannot be read.
func Gather(plates []Plate, f Frame, side Side, rateHz float64) (*Recording, error) {
	if err := f.Check(); err != nil {
		return nil, err
	}
	if !(rateHz > 0) || math.IsInf(rateHz, 0) {
		return nil, errors.New("the sampling rate is not known: name it, or give a time column")
	}
	r := &Recording{RateHz: rateHz}
	feet := make([]*Foot, len(plates))
	for i := range plates {
		foot, err := r.foot(&plates[i], f, side)
		if err != nil {
			return nil, err
		}
		feet[i] = foot
	}
	if err := r.assign(plates, feet, side); err != nil {
		return nil, err
	}
	for _, g := range r.Feet() {
		if len(g.UpN) != r.Len() {
			return nil, errors.New("the plates hold different numbers of samples")
		}
	}
	return r, nil
}

// foot turns one plate into the golfer's frame.
func (r *Recording) foot(p *Plate, f Frame, side Side) (*Foot, error) {
	out := &Foot{FreeMomentNm: p.Free}
	moment := 1.0
	if f.Laboratory {
		target, up := f.target(), f.up()
		t, ts, _ := target.known()
		u, us, _ := up.known()
		if side == LeftSided && f.LeftOpposite {
			ts = -ts
		}
		// Facing the ball, a golfer who plays from the right has the target on
		// the left hand: up × toTarget points from the ball to the golfer.
		b := 3 - t - u
		bs := ts * us
		if (u+1)%3 != t {
			bs = -bs
		}
		// now +b·bs is up × toTarget
		if side == RightSided {
			bs = -bs
		}
		// Seen from above, the turn toward the target is counterclockwise for
		// golfers who play from the right.
		if moment = us; side == LeftSided {
			moment = -us
		}
		out.ToTargetN, out.ToBallN, out.UpN = scaled(p.Force[t], ts), scaled(p.Force[b], bs), scaled(p.Force[u], us)
		out.CoPToTargetM, out.CoPToBallM = scaled(p.CoP[t], ts), scaled(p.CoP[b], bs)
	} else {
		out.ToTargetN, out.ToBallN, out.UpN = p.Force[0], p.Force[1], p.Force[2]
		out.CoPToTargetM, out.CoPToBallM = p.CoP[0], p.CoP[1]
	}
	if f.OnPlate {
		moment = -moment
		scaled(out.ToTargetN, -1)
		scaled(out.ToBallN, -1)
		scaled(out.UpN, -1)
	}
	scaled(out.FreeMomentNm, moment)
	for k, c := range out.channels() {
		if *c == nil {
			continue
		}
		if k >= 3 {
			unloaded(*c, out.UpN)
		}
		filled, err := FillGaps(*c)
		var gap *GapError
		switch {
		case errors.As(err, &gap) && k == 2:
			return nil, fmt.Errorf("the vertical force of plate %q: %w", p.Place, err)
		case errors.As(err, &gap):
			r.flag(ChannelRefused, fmt.Sprintf("%s of plate %s is left out: %d samples are missing in a row.", ChannelNames[k], p.Place, gap.Samples))
			*c = nil
		case filled > 0:
			r.flag(GapsFilled, fmt.Sprintf("%d samples of %s of plate %s were filled in.", filled, ChannelNames[k], p.Place))
		}
	}
	if out.UpN == nil {
		return nil, fmt.Errorf("plate %q has no vertical force", p.Place)
	}
	if out.CoPToTargetM == nil || out.CoPToBallM == nil {
		out.CoPToTargetM, out.CoPToBallM = nil, nil
	}
	return out, nil
}

// unloaded sets what a plate says of the centre of pressure and free moment
// while nobody stands on it, which files write as NaN, to zero: there is no
// force there to have one.
func unloaded(x, up []float64) {
	if len(up) != len(x) {
		return
	}
	for i := range x {
		if math.IsNaN(x[i]) && math.Abs(up[i]) < 30 {
			x[i] = 0
		}
	}
}

func scaled(x []float64, by float64) []float64 {
	if by != 1 {
		for i := range x {
			x[i] *= by
		}
	}
	return x
}

// Flag records a doubt and says it in words; each flag once.
func (r *Recording) flag(f Flag, words string) {
	r.Notes = append(r.Notes, words)
	for _, have := range r.Flags {
		if have == f {
			return
		}
	}
	r.Flags = append(r.Flags, f)
}

// Note records a doubt about the recording.
func (r *Recording) Note(f Flag, words string) { r.flag(f, words) }

// assign says which plate is under which foot.
func (r *Recording) assign(plates []Plate, feet []*Foot, side Side) error {
	lead := Left
	if side == LeftSided {
		lead = Right
	}
	var numbered [2]*Foot
	for i, p := range plates {
		at := &r.Trail
		switch p.Place {
		case Lead, lead:
			at = &r.Lead
		case Trail, Left, Right:
		case Total:
			at = &r.Whole
		case First:
			at = &numbered[0]
		case Second:
			at = &numbered[1]
		default:
			return fmt.Errorf("%q is no plate or foot", p.Place)
		}
		if *at != nil {
			return fmt.Errorf("two plates are said to be the %s one", p.Place)
		}
		*at = feet[i]
	}
	switch {
	case numbered[0] != nil && numbered[1] != nil && r.Lead == nil && r.Trail == nil:
		r.Lead, r.Trail = numbered[0], numbered[1]
		a, aok := meanCoP(r.Lead)
		b, bok := meanCoP(r.Trail)
		switch {
		case !aok || !bok || math.Abs(a-b) < 0.05:
			r.flag(FeetAssumed, "Plate 1 is taken as the lead foot's: the file does not say.")
		case a < b:
			r.Lead, r.Trail = r.Trail, r.Lead
		}
	case numbered[0] != nil && numbered[1] == nil && r.Whole == nil && r.Lead == nil && r.Trail == nil:
		r.Whole = numbered[0]
	case numbered[0] != nil || numbered[1] != nil:
		return errors.New("plates are named both by number and by foot")
	}
	if r.Lead != nil && r.Trail != nil {
		r.Whole = nil // the sum says nothing more
		return nil
	}
	if r.Whole != nil {
		r.Lead, r.Trail = nil, nil
		return nil
	}
	if r.Lead != nil || r.Trail != nil {
		return errors.New("one foot only: a jump or swing needs both, or a plate that carries both")
	}
	return errors.New("no vertical force was found")
}

// meanCoP is where a foot stands along the target line, weighted by load.
func meanCoP(f *Foot) (float64, bool) {
	if f.CoPToTargetM == nil {
		return 0, false
	}
	sum, load := 0.0, 0.0
	for i, v := range f.UpN {
		if v > 50 {
			sum += v * f.CoPToTargetM[i]
			load += v
		}
	}
	return sum / load, load > 0
}
