package training

import (
	"crypto/sha256"
	"fmt"
	"time"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// Notebook notes a session as a device does, one entry after the other. The same notes of
// the same notebook have the same ids.
type Notebook struct {
	Device  string
	Session programme.ID
	At      time.Time // of the next note; each is a minute after the one before
	Entries []Entry
	clock   int64
	heads   map[place]string
}

// Note adds an entry.
func (n *Notebook) Note(what What, item programme.ID, number int, value any) {
	if n.heads == nil {
		n.heads = map[place]string{}
	}
	n.clock++
	sum := sha256.Sum256(fmt.Append(nil, n.Device, n.Session, n.clock, n.At.Unix()))
	sum[6], sum[8] = sum[6]&0x0f|0x40, sum[8]&0x3f|0x80
	e := Entry{
		ID:   fmt.Sprintf("%x-%x-%x-%x-%x", sum[0:4], sum[4:6], sum[6:8], sum[8:10], sum[10:16]),
		What: what, Item: item, Number: number, Value: Value(value), Clock: n.clock, At: n.At.UTC().Format(time.RFC3339), Device: n.Device,
	}
	e.Seen = n.heads[e.place()]
	n.heads[e.place()] = e.ID
	n.Entries = append(n.Entries, e)
	n.At = n.At.Add(time.Minute)
}

// AsPlanned is set number k, from 1, of an item as it was planned.
func AsPlanned(it *programme.Item, k int) SetDone {
	d := it.Dose
	out := SetDone{State: SetDoneState, AsPlanned: true}
	if d.Unit == library.Seconds {
		s := d.Seconds * max(1, d.Times)
		out.Seconds = &s
	} else {
		r := d.Reps
		out.Reps = &r
	}
	switch {
	case d.LoadKg != nil:
		kg := *d.LoadKg
		out.LoadKg = &kg
	case d.BallKg > 0:
		kg := d.BallKg
		out.LoadKg = &kg
	}
	if d.Reserve != nil {
		r := *d.Reserve
		out.Reserve = &r
	}
	return out
}

// Run notes a whole session: begun, every set as planned unless change makes it otherwise, and
// ended with how it was. change may be nil; where it returns false, the set is not noted.
func (n *Notebook) Run(s *programme.Session, on civil.Date, how How, change func(it *programme.Item, set int, x *SetDone) bool) {
	n.Note(Begun, "", 0, Begin{on})
	for i := range s.Items {
		it := &s.Items[i]
		for k := 1; k <= it.Dose.Sets+it.Dose.WeakerSets; k++ {
			x := AsPlanned(it, k)
			if change == nil || change(it, k, &x) {
				n.Note(Set, it.ID, k, x)
			}
		}
	}
	n.Note(After, "", 0, how)
	n.Note(Ended, "", 0, End{State: Done})
}
