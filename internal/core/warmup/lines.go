package warmup

import (
	_ "embed" // lines.json
	"encoding/json"
	"slices"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
)

// Line is something a warm-up may hold.
type Line struct {
	ID       string   `json:"id"`
	Phase    Phase    `json:"phase"`
	Region   string   `json:"region,omitempty"`
	Name     string   `json:"name"`
	Cue      string   `json:"cue"`
	Sides    string   `json:"sides,omitempty"` // one, direction or "" for both at once
	Arm      bool     `json:"arm,omitempty"`   // its sides are those of the arms
	Demands  []string `json:"demands"`         // region/kind it loads
	Targets  []string `json:"targets,omitempty"`
	Kit      []string `json:"kit,omitempty"`
	Floor    bool     `json:"floor,omitempty"`  // lying or sitting on it
	Seated   bool     `json:"seated,omitempty"` // may be done sitting
	Chair    bool     `json:"chair,omitempty"`  // needs one
	Stepping bool     `json:"stepping,omitempty"`
	Contacts int      `json:"contacts,omitempty"`
	Order    int      `json:"order"`          // from top to bottom, or from easy to brisk
	Rank     int      `json:"rank,omitempty"` // of joint lines: if few, the lowest
}

//go:embed lines.json
var linesFile []byte

var lines = func() []Line {
	var l []Line
	if err := json.Unmarshal(linesFile, &l); err != nil {
		panic("warmup: lines.json: " + err.Error()) // shipped with the program
	}
	return l
}()

// Lines returns everything a warm-up may hold, by phase and order. The slice is shared.
func Lines() []Line { return lines }

// FindLine returns a line by id.
func FindLine(id string) (*Line, bool) {
	i := slices.IndexFunc(lines, func(l Line) bool { return l.ID == id })
	if i < 0 {
		return nil, false
	}
	return &lines[i], true
}

// exercise is the line as the limits see it.
func (l *Line) exercise() *library.Exercise {
	return &library.Exercise{Demands: l.Demands, Sides: l.Sides, OneArm: l.Arm, Zone: library.M}
}

// blocked returns the limit that forbids a line, if one does, and the side that limits
// leave of it.
func (l *Line) blocked(limits []athlete.Limit) (sound string, by *athlete.Limit) {
	e := l.exercise()
	if x, no := e.Blocked(limits); no {
		return "", &x
	}
	return e.SoundSide(limits), nil
}

// fits says whether a line can be done where a request wants it.
func (l *Line) fits(r *Request) bool {
	if l.Floor && !r.Floor {
		return false
	}
	return !slices.ContainsFunc(l.Kit, func(k string) bool { return !slices.Contains(r.Kit, k) })
}

// Demands of swings: small ones, fast ones, and with something heavy in the hands.
var (
	swingDemands = []string{"thoracic-spine/work", "lumbar-spine/work", "wrist-hand/work", "shoulder/work", "hip/work", "knee/work", "elbow/work"}
	emptyDemands = []string{"thoracic-spine/work", "lumbar-spine/work", "shoulder/work", "hip/work", "knee/work"}
	fastDemands  = append(slices.Clone(swingDemands), "lumbar-spine/loaded-rotation", "lumbar-spine/maximal-effort")
)

// mayNot returns the limit that forbids demands, if one does.
func mayNot(demands []string, maximal bool, limits []athlete.Limit) *athlete.Limit {
	e := library.Exercise{Demands: demands, Sides: library.SwingSides, Maximal: maximal}
	if x, no := e.Blocked(limits); no {
		return &x
	}
	return nil
}

// heavyRegions are those whose limits keep a heavy implement away.
var heavyRegions = []string{"wrist-hand", "elbow", "shoulder", "lumbar-spine", "thoracic-spine"}
