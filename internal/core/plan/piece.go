package plan

import (
	"errors"
	"math"
	"slices"

	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/unit"
)

// PieceKind is what a piece of a session is for.
type PieceKind string

// The kinds of piece.
const (
	SpeedPiece PieceKind = "speed" // sets of fast swings, club by club
	DrillPiece PieceKind = "drill" // rounds of drill swings, in balance to the end
	GripPiece  PieceKind = "grip"  // squeezes, pulses, firm and free
	LeverPiece PieceKind = "lever" // a club held out: hinged and rolled
)

// Piece is a small session within a session: exercises that belong together, laid out with
// numbers of their own as items that stand in the programme like all others.
type Piece struct {
	Kind PieceKind `json:"kind"`
	// Exercises are what it is made of, in order; of speed, the stance it is swung from.
	Exercises []string `json:"exercises"`
	// Clubs are, for speed, those swung in order, in % of driver mass.
	Clubs []int `json:"clubs,omitempty"`
	Sets  int   `json:"sets"`            // of each club, drill or exercise
	Reps  int   `json:"reps,omitempty"`  // swings a set; quick squeezes, hinges and rolls
	Times int   `json:"times,omitempty"` // holds a set
	// Seconds is how long each of them is held.
	Seconds        int  `json:"seconds,omitempty"`
	InTurn         bool `json:"inTurn,omitempty"`
	IntentPercent  int  `json:"intentPercent,omitempty"`
	OtherSideShare int  `json:"otherSideShare,omitempty"`
	BetweenSeconds int  `json:"betweenSeconds,omitempty"`
	RestSeconds    int  `json:"restSeconds"`
	BalanceSeconds int  `json:"balanceSeconds,omitempty"`
}

// A PieceKit is a kind of piece with what it may be made of and how it usually is.
type PieceKit struct {
	Kind      PieceKind `json:"kind"`
	Name      string    `json:"name"`
	Text      string    `json:"text"`
	Exercises []string  `json:"exercises"` // that it may be made of
	Usual     Piece     `json:"usual"`
	slot      library.Slot
}

// pieceKits are the kinds of piece, with their usual numbers: of speed sets and rests after
// the handbook, the grip dose one practitioner's, the others common practice, no source.
var pieceKits = []PieceKit{
	{
		SpeedPiece, "Speed swings", "Club by club, from light to heavy and back to light; both sides by the school's share.",
		[]string{"swing-driver", "swing-step-in", "swing-two-step", "swing-feet-together"},
		Piece{Kind: SpeedPiece, Exercises: []string{"swing-driver"}, Clubs: []int{-20, 0}, Sets: 2, Reps: 5, IntentPercent: 100, OtherSideShare: 50, BetweenSeconds: 5, RestSeconds: 90},
		library.SlotSwings,
	},
	{
		DrillPiece, "Drill round", "Rounds of ten: steps, a lifted foot, an overturned finish. Each ends in balance.",
		[]string{"swing-step-in", "swing-foot-lift", "swing-overturned", "swing-two-step", "swing-feet-together", "swing-jump-through"},
		Piece{Kind: DrillPiece, Exercises: []string{"swing-step-in", "swing-foot-lift", "swing-overturned"}, Sets: 1, Reps: 10, IntentPercent: 80, OtherSideShare: 50, BetweenSeconds: 3, RestSeconds: 60, BalanceSeconds: 2},
		library.SlotSwings,
	},
	{
		GripPiece, "Grip session", "About five seconds, five times, as long a rest, hands in turn.",
		[]string{"grip-squeeze", "grip-both", "grip-burst", "lever-firm-free", "swing-firm-free", "grip-ball-hold", "grip-finger-spread"},
		Piece{Kind: GripPiece, Exercises: []string{"grip-squeeze", "grip-both", "grip-burst", "lever-firm-free"}, Sets: 1, Reps: 10, Times: 5, Seconds: 5, InTurn: true, OtherSideShare: 50, BetweenSeconds: 5, RestSeconds: 30},
		library.SlotFinisher,
	},
	{
		LeverPiece, "Forearm lever", "The club held out by one hand, choked down at first; rolling is harder and starts lower.",
		[]string{"lever-hinge", "lever-roll", "lever-firm-free"},
		Piece{Kind: LeverPiece, Exercises: []string{"lever-hinge", "lever-roll"}, Sets: 2, Reps: 6, RestSeconds: 45},
		library.SlotFinisher,
	},
}

// PieceKits returns the kinds of piece in the order they are offered.
func PieceKits() []PieceKit { return slices.Clone(pieceKits) }

// Name is what the kind of a piece is called; its id where there is no such kind.
func (x *Piece) Name() string {
	for _, k := range pieceKits {
		if k.Kind == x.Kind {
			return k.Name
		}
	}
	return string(x.Kind)
}

// check says which number of a piece cannot be.
func (x *Piece) check(kit *PieceKit) error {
	errs := []error{
		checkRange("sets", &x.Sets), checkRange("restSeconds", &x.RestSeconds), checkRange("betweenSeconds", &x.BetweenSeconds),
		checkRange("balanceSeconds", &x.BalanceSeconds), checkRange("otherSideShare", &x.OtherSideShare),
	}
	if kit.Kind != GripPiece || x.Reps > 0 {
		errs = append(errs, checkRange("reps", &x.Reps))
	}
	if kit.Kind == GripPiece {
		errs = append(errs, checkRange("seconds", &x.Seconds), checkRange("times", &x.Times))
	}
	if x.IntentPercent > 0 {
		errs = append(errs, checkRange("intentPercent", &x.IntentPercent))
	}
	if len(x.Exercises) == 0 || len(x.Exercises) > len(kit.Exercises) {
		errs = append(errs, refuse("piece.exercises", "choose what it is made of: 1 to %d of what is offered", len(kit.Exercises)))
	}
	for _, id := range x.Exercises {
		if !slices.Contains(kit.Exercises, id) {
			errs = append(errs, refuse("piece.exercises", "%q is no exercise of this kind of piece", id))
		}
	}
	if kit.Kind == SpeedPiece && (len(x.Clubs) == 0 || len(x.Clubs) > 6) {
		errs = append(errs, refuse("piece.clubs", "choose 1 to 6 clubs"))
	}
	for i := range x.Clubs {
		errs = append(errs, checkRange("implementPercent", &x.Clubs[i]))
	}
	return errors.Join(errs...)
}

// element is one exercise of a piece with the club it is done with.
type element struct {
	ex      *library.Exercise
	percent int
}

// elements are the exercises of a piece in order; a speed piece from the usual stance takes
// the exercise that goes with the weight of each club.
func (p *planner) elements(e Edit, kit *PieceKit) ([]element, error) {
	var out []element
	take := func(id string, percent int) error {
		ex, err := p.placeable(e, id, kit.slot)
		out = append(out, element{ex, percent})
		return err
	}
	if kit.Kind != SpeedPiece {
		for _, id := range e.Piece.Exercises {
			ex, _ := p.by.Exercises.Find(id)
			if err := take(id, ex.ImplementPercent); err != nil {
				return nil, err
			}
		}
		return out, nil
	}
	for _, percent := range e.Piece.Clubs {
		id := e.Piece.Exercises[0]
		if id == "swing-driver" {
			switch {
			case percent < 0:
				id = "swing-light"
			case percent > 0:
				id = "swing-weighted"
			}
		}
		if err := take(id, percent); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// addPiece lays a piece out in a session, or in those of its kind of day from there on.
func (ed *editor) addPiece() (string, error) {
	e := ed.edit
	asked, ok := ed.doc.Session(e.At)
	if !ok {
		return "", missing("at", "session")
	}
	if err := ed.free(asked.ID); err != nil {
		return "", err
	}
	if e.Piece == nil {
		return "", refuse("piece", "say what the piece is made of")
	}
	at := slices.IndexFunc(pieceKits, func(k PieceKit) bool { return k.Kind == e.Piece.Kind })
	if at < 0 {
		return "", refuse("piece.kind", "there is no piece %q", e.Piece.Kind)
	}
	kit := &pieceKits[at]
	if err := e.Piece.check(kit); err != nil {
		return "", err
	}
	elements, err := ed.elements(e, kit)
	if err != nil {
		return "", err
	}
	ed.eachFrom(asked, func(c course, w *programme.Week, s *programme.Session) {
		for _, x := range elements {
			it := ed.item(x.ex, place{s.Letter, kit.slot}, c.step(w.Number-1), c.weeks, ed.byHand(x.ex, e, kit.Name))
			it.Dose = ed.pieceDose(it.Dose, x, e.Piece)
			switch w.Kind {
			case programme.Easier:
				ease(&it.Dose)
			case programme.Taper:
				lighten(&it, w.Kind, max(1, it.Dose.Sets/2))
			}
			it.Note = e.Note
			s.Items = slices.Insert(s.Items, positionOf(kit.slot, s.Items), it)
		}
		s.Title = title(s.Items, ed.by.Exercises)
	})
	return "added: " + e.Piece.Name(), nil
}

// pieceDose is the usual dose of an exercise with the numbers of its piece.
func (p *planner) pieceDose(d programme.Dose, x element, piece *Piece) programme.Dose {
	d.Sets, d.RestSeconds, d.BetweenSeconds = piece.Sets, piece.RestSeconds, piece.BetweenSeconds
	two := x.ex.Sides == library.OneSided && d.Side == ""
	d.Reserve = nil
	switch x.ex.DoseUnit {
	case library.Swings:
		d.Reps, d.OtherSideShare = max(piece.Reps, 1), piece.OtherSideShare
		d.IntentPercent, d.BalanceSeconds, d.ImplementPercent = piece.IntentPercent, piece.BalanceSeconds, x.percent
		if g := p.file.Athlete.DriverMassG; g > 0 {
			d.ImplementG = int(unit.Round(g*(1+float64(x.percent)/100), 0))
		}
	case library.Seconds:
		d.Seconds, d.Times, d.InTurn = piece.Seconds, piece.Times, piece.InTurn && two
		if d.InTurn {
			d.BetweenSeconds = 0 // the other hand's work is the rest
		}
	default:
		d.Reps = max(piece.Reps, 1)
		if x.ex.Pattern == "lever" {
			d.InTurn, d.BetweenSeconds = false, 0
		} else {
			d.InTurn = piece.InTurn && two
			d.BetweenSeconds = 0
		}
	}
	return d
}

// ease makes a dose of the easier week: fewer sets, or where there is one alone, less in
// it.
func ease(d *programme.Dose) {
	share := func(n int) int { return max(1, int(math.Round(easyShare*float64(n)))) }
	switch {
	case d.Sets > 1:
		d.Sets = share(d.Sets)
	case d.Unit == library.Seconds && d.Times > 1:
		d.Times = share(d.Times)
	case d.Unit == library.Seconds:
		d.Seconds = share(d.Seconds)
	default:
		d.Reps = share(d.Reps)
	}
}
