package app

import (
	"context"
	"errors"
	"fmt"
	"time"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/store"
)

// Change is one cell to be saved; an empty one is cleared. Seen is the revision
// of the cell the editor saw; nil saves over whatever is there.
type Change struct {
	measure.Cell
	Clear bool
	Seen  *int
}

// SaveCells saves all the cells of a screen or none of them. Two editors may
// save at once; a cell somebody else wrote differently since it was seen comes
// back as a Field with a Clash. circumstances may be nil. held is the revision of
// the sheet the editor holds, 0 for none: where nothing else moved since then,
// only what changed is returned.
func (a *App) SaveCells(ctx context.Context, who *Actor, id string, circumstances func(*athlete.Circumstances), changes []Change, held int) (*Sheet, error) {
	saved, err := a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		return a.saveCells(ctx, who, p, b, id, circumstances, changes)
	})
	if err != nil {
		return nil, words(err, "screen")
	}
	return saved.sheet(held, changes)
}

// saved is what a save did: the golfer's file as it was before and the screen as
// it is now.
type saved struct {
	file   *athlete.File
	screen *store.Screen
	tests  battery
	by     *method.Method
}

// sheet reads the screen anew; where the editor holds the sheet as it was just
// before, only what changed is returned.
func (s *saved) sheet(held int, changes []Change) (*Sheet, error) {
	var before *Sheet
	if held == s.screen.Revision-1 {
		was := *s.file
		var err error
		if before, err = sheetOf(s.screen, &was, s.tests, s.by); err != nil {
			return nil, err
		}
	}
	for i := range s.file.Screens {
		if s.file.Screens[i].Date == s.screen.Date {
			s.file.Screens[i] = s.screen.Screen
		}
	}
	now, err := sheetOf(s.screen, s.file, s.tests, s.by)
	if err == nil && before != nil {
		now.since(before, changes)
	}
	return now, err
}

// saveCells is SaveCells within a unit of work.
func (a *App) saveCells(
	ctx context.Context,
	who *Actor,
	p *store.Practice,
	b battery,
	id string,
	circumstances func(*athlete.Circumstances),
	changes []Change,
) (*saved, error) {
	of, err := p.LockScreen(ctx, id)
	if err != nil {
		return nil, words(err, "screen")
	}
	got, err := p.File(ctx, of)
	if err != nil {
		return nil, words(err, "golfer")
	}
	_, on, err := p.ScreenOf(ctx, id)
	if err != nil {
		return nil, words(err, "screen")
	}
	f := a.dress(who, &got.Facts)
	f.Battery = b.changes
	cells, fields := a.parse(who, f, b.tests, on, changes)
	if circumstances != nil {
		var c athlete.Circumstances
		circumstances(&c)
		if text := c.Check(); text != "" {
			fields = append(fields, Field{Name: "circumstances", Text: text})
		}
	}
	if len(fields) > 0 {
		return nil, &Error{Kind: Invalid, Text: fields[0].Text, Fields: fields}
	}
	s, err := p.SaveScreen(ctx, id, circumstances, cells)
	var clash *store.ClashError
	if errors.As(err, &clash) {
		return nil, clashWords(who, b.tests, clash)
	}
	if err != nil {
		return nil, words(err, "screen")
	}
	return &saved{f, s, b, b.method}, nil
}

func clashWords(who *Actor, tests *measure.Battery, clash *store.ClashError) *Error {
	e := &Error{Kind: Conflict, Text: "Somebody else wrote into the same cell."}
	for _, c := range clash.Cells {
		f := Field{Name: fmt.Sprintf("cells[%d].value", c.Index), Clash: &Clash{Seen: c.Rev}}
		if c.Now == nil {
			f.Text = "Somebody else cleared this cell meanwhile: keep yours, or leave it empty?"
		} else {
			t, _ := tests.Find(c.Now.Test)
			f.Clash.Text = shown(t, *c.Now, who)
			who := c.Now.Tester
			if who == "" {
				who = "Somebody else"
			}
			f.Text = fmt.Sprintf("%s wrote %s here meanwhile: keep yours, or take theirs?", who, f.Clash.Text)
		}
		e.Fields = append(e.Fields, f)
	}
	e.Text = e.Fields[0].Text
	return e
}

// parse reads changes into cells and names what is wrong with each.
func (a *App) parse(who *Actor, f *athlete.File, tests *measure.Battery, on civil.Date, changes []Change) ([]store.Cell, []Field) {
	var cells []store.Cell
	var fields []Field
	seen := map[string]int{}
	now := a.now().UTC().Format(time.RFC3339)
	for i, c := range changes {
		at := func(name string) string { return fmt.Sprintf("cells[%d].%s", i, name) }
		if c.Clear {
			cells = append(cells, store.Cell{Trial: measure.Trial{Test: c.Test, Side: measure.Side(c.Side), Number: c.Trial}, Clear: true, Seen: c.Seen})
			continue
		}
		if c.At == "" {
			c.At = now
		}
		if c.Tester == "" {
			c.Tester = who.Name
		}
		t, err := c.Parse(tests, f.Athlete.ReferenceVariant(on))
		if err != nil {
			var ce *measure.CellError
			if errors.As(err, &ce) {
				fields = append(fields, Field{Name: at(ce.Field), Text: ce.Text, Unlikely: ce.Unlikely, Offers: ce.Offers})
			}
			continue
		}
		if text := mayNot(f, tests, t); text != "" {
			fields = append(fields, Field{Name: at("test"), Text: text})
			continue
		}
		// What an instrument measured is no slip of the pen.
		if text := farFromOwn(f, tests, on, t); text != "" && !c.Confirmed && c.Device == "" {
			fields = append(fields, Field{Name: at("value"), Text: text, Unlikely: true})
			continue
		}
		if first, twice := seen[t.Key()]; twice {
			fields = append(fields, Field{Name: at("trial"), Text: fmt.Sprintf("the same trial as cell %d", first+1)})
			continue
		}
		seen[t.Key()] = i
		cells = append(cells, store.Cell{Trial: t, Seen: c.Seen})
	}
	return cells, fields
}

// mayNot says why a trial may not be recorded: tests that cost effort need a
// cleared golfer.
func mayNot(f *athlete.File, tests *measure.Battery, t measure.Trial) string {
	test, _ := tests.Find(t.Test)
	if c := f.ClearanceOn(f.AsOf); test.Exertion && t.Status == measure.Done && !c.MayExert() {
		return test.Name + " costs effort, and the golfer is not cleared for it. " + c.Text
	}
	return ""
}

// farFromOwn asks about a value far from the golfer's own past; "" where there is
// nothing to ask.
func farFromOwn(f *athlete.File, tests *measure.Battery, on civil.Date, t measure.Trial) string {
	test, ok := tests.Find(t.Test)
	if !ok {
		return ""
	}
	last, far := f.Far(on, test, t)
	if !far {
		return ""
	}
	typed := f.Units.Quantity(t.Value, test.Unit, test.Decimals)
	if t.Lift != nil {
		typed = t.Text(test, "")
	}
	cell := measure.Cell{Side: string(t.Side), Trial: t.Number}
	return fmt.Sprintf("%s: %s is far from the %s of %s: check it, then confirm", cell.Place(test), typed, f.Units.Quantity(last.Value, test.Unit, test.Decimals), last.On.Words())
}

// sameResult reports whether two trials say the same was measured.
func sameResult(a, b measure.Trial) bool {
	if (a.Lift == nil) != (b.Lift == nil) || a.Lift != nil && *a.Lift != *b.Lift {
		return false
	}
	return a.Status == b.Status && a.Value == b.Value && a.MassG == b.MassG
}

// shown writes what stands in a cell, in the units the practice sees.
func shown(test *measure.Test, t measure.Trial, who *Actor) string {
	if t.Status != measure.Done || test == nil {
		return string(t.Status)
	}
	return t.Text(test, who.Units.Shown(test.Unit))
}
