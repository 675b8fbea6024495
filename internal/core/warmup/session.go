package warmup

import (
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
)

// SessionRequest is what a session of a programme asks of its warm-up: whether fast swings
// stand in it, and whether anything quick does, throws and jumps among it.
func SessionRequest(fast, quick bool, kit []string) Request {
	r := Request{Purpose: Training, Minutes: derive.WarmUpMinutes, Place: Gym, Floor: true, Kit: kit, FastFollows: fast}
	if !fast && !quick {
		r.Purpose = Strength
	}
	return r
}

// CountsIn is what a warm-up counts in the session behind it; nothing where none can be
// made.
func CountsIn(p *Person, r Request) rulebook.WarmUp {
	w, err := Build(p, r)
	if err != nil {
		return rulebook.WarmUp{}
	}
	return w.Counts()
}

// Counts is what a warm-up counts in the session behind it: landings and fast swings.
func (w *WarmUp) Counts() rulebook.WarmUp {
	var out rulebook.WarmUp
	for i := range w.Items {
		out.Landings += w.Items[i].Contacts
		if w.Items[i].Fast() {
			out.FastSwings += w.Items[i].Swings
		}
	}
	return out
}
