// Package upgrade reads programme documents of every format there has been. What
// was stored stays as it is; a document of an older format is brought to the
// present one each time it is read, always in the same way.
package upgrade

import (
	"bytes"
	"encoding/json"
	"fmt"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
)

// First is the format before parts had ids.
const First = "dunnock-programme/1"

// Read reads a document of any format. The error says what is wrong with it: a
// format of a newer version, a field the format does not have, a part without an
// id.
func Read(b []byte) (*programme.Programme, error) {
	format, err := formatOf(b)
	if err != nil {
		return nil, fmt.Errorf("read a programme: %w", err)
	}
	switch format {
	case programme.Format:
		p := &programme.Programme{}
		if err := strictly(b, p); err != nil {
			return nil, err
		}
		if err := p.Check(); err != nil {
			return nil, fmt.Errorf("read a programme: %w", err)
		}
		return p, nil
	case First:
		var old first
		if err := strictly(b, &old); err != nil {
			return nil, err
		}
		return old.upgrade(), nil
	default:
		return nil, fmt.Errorf(
			"read a programme: the format is %q, and this version reads %s and %s: it was written by a newer one",
			format,
			First,
			programme.Format,
		)
	}
}

// formatOf returns the format a document says it has. It stands first in what we
// write, and nothing behind it is read then.
func formatOf(b []byte) (string, error) {
	dec := json.NewDecoder(bytes.NewReader(b))
	if _, err := dec.Token(); err != nil {
		return "", err
	}
	if key, err := dec.Token(); err == nil && key == "format" {
		var format string
		err := dec.Decode(&format)
		return format, err
	}
	var head struct {
		Format string `json:"format"`
	}
	err := json.Unmarshal(b, &head)
	return head.Format, err
}

func strictly(b []byte, into any) error {
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(into); err != nil {
		return fmt.Errorf("read a programme: %w", err)
	}
	return nil
}

// first is the first format: it named parts by their places and stored names,
// minutes and words beside them. What can be worked out is left behind.
type first struct {
	programme.Head
	SchoolName string `json:"schoolName"`
	Blocks     []struct {
		Place    string      `json:"place"`
		Emphasis string      `json:"emphasis"`
		Weeks    []firstWeek `json:"weeks"`
	} `json:"blocks"`
}

type firstWeek struct {
	Place    string             `json:"place"`
	Number   int                `json:"number"`
	Kind     programme.WeekKind `json:"kind"`
	Start    civil.Date         `json:"start"`
	Sessions []struct {
		Place   string           `json:"place"`
		Date    civil.Date       `json:"date"`
		Letter  programme.Letter `json:"letter"`
		Title   string           `json:"title"`
		Budget  int              `json:"budgetMinutes"`
		Minutes float64          `json:"minutes"`
		Items   []firstItem      `json:"items"`
	} `json:"sessions"`
	Home []struct {
		Place string      `json:"place"`
		Date  civil.Date  `json:"date"`
		Items []firstItem `json:"items"`
	} `json:"home"`
	Retest *programme.Retest `json:"retest"`
	Totals json.RawMessage   `json:"totals"`
}

type firstItem struct {
	Place    string           `json:"place"`
	Slot     library.Slot     `json:"slot"`
	Exercise string           `json:"exercise"`
	Name     string           `json:"name"`
	Zone     string           `json:"zone"`
	Dose     programme.Dose   `json:"dose"`
	DoseText string           `json:"doseText"`
	LoadText string           `json:"loadText"`
	Minutes  float64          `json:"minutes"`
	Cues     []string         `json:"cues"`
	Reason   programme.Reason `json:"reason"`
	Edited   bool             `json:"edited"`
	Note     string           `json:"note"`
}

// upgrade names parts by what they are (the week's number, the day's letter, the
// slot and the exercise), not by where they stand: so a line keeps its id over the
// undo steps of a draft, whatever was put before it.
func (f *first) upgrade() *programme.Programme {
	p := &programme.Programme{Head: f.Head}
	p.Format = programme.Format
	ids := unique{}
	for bi, b := range f.Blocks {
		block := programme.Block{ID: ids.of("b%d", bi+1), Phase: programme.Preparation, Emphasis: b.Emphasis}
		for _, w := range b.Weeks {
			block.Weeks = append(block.Weeks, w.upgrade(block.ID, ids))
		}
		p.Blocks = append(p.Blocks, block)
	}
	return p
}

func (w *firstWeek) upgrade(block programme.ID, ids unique) programme.Week {
	out := programme.Week{ID: ids.of("%s-w%d", block, w.Number), Number: w.Number, Kind: w.Kind, Start: w.Start, Retest: w.Retest}
	for _, s := range w.Sessions {
		id := ids.of("%s-%s", out.ID, s.Letter)
		out.Sessions = append(
			out.Sessions,
			programme.Session{ID: id, Date: s.Date, Letter: s.Letter, Title: s.Title, Budget: s.Budget, Items: upgradeItems(s.Items, id, ids)},
		)
	}
	for _, h := range w.Home {
		id := ids.of("%s-home", out.ID)
		out.Home = append(out.Home, programme.HomeDay{ID: id, Date: h.Date, Items: upgradeItems(h.Items, id, ids)})
	}
	return out
}

func upgradeItems(items []firstItem, session programme.ID, ids unique) []programme.Item {
	out := make([]programme.Item, len(items))
	for i, it := range items {
		out[i] = programme.Item{
			ID:       ids.of("%s-%s-%s", session, it.Slot, it.Exercise),
			Slot:     it.Slot,
			Exercise: it.Exercise,
			Dose:     it.Dose,
			Reason:   it.Reason,
			Edited:   it.Edited,
			Note:     it.Note,
		}
	}
	return out
}

// unique counts ids: one that is taken already gets a number.
type unique map[programme.ID]int

func (u unique) of(format string, args ...any) programme.ID {
	id := programme.ID(fmt.Sprintf(format, args...))
	u[id]++
	if n := u[id]; n > 1 {
		return u.of("%s-%d", id, n)
	}
	return id
}
