package nextdose

import (
	"errors"
	"maps"
	"strings"

	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
)

// Apply makes the edits of proposals on a copy of a document and returns how it is judged.
// Each item that is changed carries the rule's sentence as its note. An edit whose place is
// gone, or is locked, is passed over; left says how many.
func Apply(b *plan.Basis, doc *programme.Programme, list []Proposal, prefix string) (made *plan.Judged, left int, err error) {
	out := b.Stamp(doc)
	for _, x := range list {
		for _, e := range x.Edits {
			if e.Note == "" {
				e.Note = x.Text
			}
			changed, err := b.Apply(out, e, prefix)
			var no *plan.EditError
			switch {
			case errors.As(err, &no):
				left++
				continue
			case err != nil:
				return nil, left, err
			}
			out = changed.Doc
			for _, id := range append([]programme.ID{e.At}, e.Also...) {
				if spot, ok := out.Find(id); ok {
					spot.Item.Note = x.Text
				}
			}
		}
		if len(x.Working) > 0 {
			working := maps.Clone(out.Working)
			if working == nil {
				working = map[string]programme.Weight{}
			}
			maps.Copy(working, x.Working)
			out.Working = working
		}
	}
	return b.Judge(out), left, nil
}

// Note is what the version says that accepts proposals: their sentences.
func Note(list []Proposal) string {
	var out []string
	for _, x := range list {
		out = append(out, x.Text)
	}
	return strings.Join(out, " ")
}
