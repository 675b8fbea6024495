package formats

import (
	"encoding/csv"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/johnfercher/maroto/v2/pkg/consts/pagesize"
	"github.com/johnfercher/maroto/v2/pkg/props"
	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/card"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/warmup"
	"dunnock/internal/formats/table"
)

// PlanSheet is a programme as it goes on paper, or into a table.
type PlanSheet struct {
	Golfer  string
	Side    string     // the golfer plays from: cards say left and right
	On      civil.Date // the day it is dated
	Status  string     // "Version 2", or that it is a draft
	Limits  []string   // in force, in words
	Plan    *derive.Programme
	WarmUps map[programme.ID]*warmup.WarmUp // by session; where there is none, NoWarmUp says why
	// NoWarmUp says why sessions have no warm-up.
	NoWarmUp string
}

// Papers are the sizes a plan is written on.
var Papers = map[string]pagesize.Type{"a4": pagesize.A4, "a5": pagesize.A5, "letter": pagesize.Letter}

// scaleOn is how much larger than on A5 a sheet is written that has the room.
func scaleOn(size pagesize.Type) float64 {
	if size == pagesize.A5 {
		return 1
	}
	return 1.25
}

const cautions = "Stop at pain. Look behind you before anything fast. Not medical advice and no substitute for a licensed practitioner; local rules apply."

// WritePlan writes every session of a plan as a card on a page of its own, week by week,
// with its warm-up, and the home work of each week: PDF, real text.
func WritePlan(w io.Writer, p *PlanSheet, paper string) error {
	return WritePlans(w, []*PlanSheet{p}, paper)
}

// WritePlans is WritePlan for the plans of several golfers, one after another.
func WritePlans(w io.Writer, plans []*PlanSheet, paper string) error {
	size, ok := Papers[paper]
	if !ok {
		return fmt.Errorf("no paper %q", paper)
	}
	title := "Programmes"
	if len(plans) == 1 {
		title = plans[0].Golfer + ", programme"
	}
	pg, err := newPage(size, 12, plans[0].On, title)
	if err != nil {
		return fmt.Errorf("plan: %w", err)
	}
	pg.scale = scaleOn(size)
	first := true
	next := func() {
		if !first {
			pg.put(cautions, props.Text{Size: 8}, 4)
			pg.turn()
		}
		first = false
	}
	for _, p := range plans {
		p.pages(pg, next)
	}
	return pg.write(w, cautions)
}

// pages writes a plan's sessions and home work, calling next before each page.
func (p *PlanSheet) pages(pg *page, next func()) {
	for _, b := range p.Plan.Blocks {
		for i := range b.Weeks {
			week := &b.Weeks[i]
			for k := range week.Sessions {
				if len(week.Sessions[k].Items) == 0 {
					continue
				}
				next()
				p.session(pg, week, &week.Sessions[k])
			}
			if slices.ContainsFunc(week.Home, func(h derive.HomeDay) bool { return len(h.Items) > 0 }) {
				next()
				p.home(pg, week)
			}
		}
	}
}

// mostBoxes is for how many sets of an item there is room to write.
const mostBoxes = 8

var small = props.Text{Size: 8.5, VerticalPadding: 0.4}

func (p *PlanSheet) session(pg *page, week *derive.Week, s *derive.Session) {
	pg.put(p.Golfer, bold(14), 0)
	pg.put(s.Title, bold(11), 1)
	pg.put(fmt.Sprintf("%s · week %d, day %s · %.0f min · %s", s.Date.Words(), week.Number, s.Letter, s.Minutes, p.Status), plainText, 1)
	if len(p.Limits) > 0 {
		pg.put("Limits: "+strings.Join(p.Limits, "; "), small, 1)
	}
	switch warm := p.WarmUps[s.ID]; {
	case warm != nil:
		parts := make([]string, len(warm.Items))
		for i, it := range card.Of(p.Side).WarmUp(warm.Items) {
			dose := it.DoseText
			if dose == "" {
				dose = fmt.Sprintf("%d s", it.Seconds)
			}
			parts[i] = fmt.Sprintf("%s (%s)", it.Name, dose)
		}
		pg.put(fmt.Sprintf("Warm-up, %d min: %s", warm.Request.Minutes, strings.Join(parts, " · ")), small, 1)
	case p.NoWarmUp != "":
		pg.put("Warm-up: "+p.NoWarmUp, small, 1)
	}
	for _, note := range []string{week.Note, s.Note} {
		if note != "" {
			pg.put("Note: "+note, small, 1)
		}
	}
	pg.rule(3)
	for i := range s.Items {
		p.item(pg, i+1, &s.Items[i])
	}
	pg.rule(3)
	pg.put("How hard, 0 to 10: ____   Pain, 0 to 10 and where: ____________   Minutes: ____", plainText, 2)
}

func (p *PlanSheet) item(pg *page, n int, it *derive.Item) {
	own := card.Of(p.Side).Item(it)
	name := fmt.Sprintf("%d  %s", n, own.Name)
	if it.Paired || it.Superset {
		name += " (in turns with the one before)"
	}
	pg.row(name, own.Dose, restWords(it.Dose.RestSeconds), props.Text{Size: 10, Top: 2.5})
	cue := strings.Join(it.Cues, ". ")
	if cue != "" {
		cue += "."
	}
	if own.For != "" {
		cue = strings.TrimSpace(cue + " " + strings.ToUpper(own.For[:1]) + own.For[1:] + ".")
	}
	pg.row(cue, strings.Repeat("____  ", min(it.Dose.Sets+it.Dose.WeakerSets, mostBoxes)), "", small)
	if it.Note != "" {
		pg.put("Note: "+it.Note, small, 0.5)
	}
}

func (p *PlanSheet) home(pg *page, week *derive.Week) {
	pg.put(p.Golfer, bold(14), 0)
	pg.put(fmt.Sprintf("Home work of week %d, %s", week.Number, p.Status), bold(11), 1)
	for _, h := range week.Home {
		if len(h.Items) == 0 {
			continue
		}
		pg.put(h.Date.Words(), bold(10), 3)
		for i := range h.Items {
			p.item(pg, i+1, &h.Items[i])
		}
	}
}

// restWords is a rest as it stands at the right of a line: 90 s is 1:30.
func restWords(seconds int) string {
	switch {
	case seconds == 0:
		return ""
	case seconds < 60:
		return fmt.Sprintf("%d s", seconds)
	}
	return fmt.Sprintf("%d:%02d", seconds/60, seconds%60)
}

// PlanColumns are the columns of a plan as a table: one row an item. Reps are a set's, each
// side for one-sided work; seconds a set's; day is a session's letter, or home.
var PlanColumns = []string{
	"golfer", "week", "kind", "date", "day", "title", "order", "exercise", "name", "sets", "reps", "seconds", "side", "loadKg",
	"reserve", "restSeconds", "dose", "minutes", "note",
}

// planNumbers are the columns that are numbers in a workbook.
var planNumbers = []int{1, 6, 9, 10, 11, 13, 14, 15, 17}

func (p *PlanSheet) rows(yield func(cells []string) error) error {
	number := func(n int) string {
		if n == 0 {
			return ""
		}
		return strconv.Itoa(n)
	}
	items := func(week *derive.Week, date civil.Date, day, title string, list []derive.Item) error {
		for i := range list {
			it := &list[i]
			load, reserve := "", ""
			if it.Dose.LoadKg != nil {
				load = strconv.FormatFloat(*it.Dose.LoadKg, 'f', -1, 64)
			}
			if it.Dose.Reserve != nil {
				reserve = strconv.Itoa(*it.Dose.Reserve)
			}
			side := it.Dose.Side
			if side == "" {
				side = it.Dose.Sides
			}
			if err := yield([]string{
				p.Golfer, strconv.Itoa(week.Number), string(week.Kind), date.String(), day, title, strconv.Itoa(i + 1), it.Exercise, it.Name,
				number(it.Dose.Sets), number(it.Dose.Reps), number(it.Dose.Seconds), side, load, reserve, number(it.Dose.RestSeconds),
				strings.TrimSuffix(it.DoseText+", "+it.LoadText, ", "), strconv.FormatFloat(math.Round(it.Minutes*10)/10, 'f', -1, 64), it.Note,
			}); err != nil {
				return err
			}
		}
		return nil
	}
	for _, b := range p.Plan.Blocks {
		for i := range b.Weeks {
			week := &b.Weeks[i]
			for k := range week.Sessions {
				s := &week.Sessions[k]
				if err := items(week, s.Date, string(s.Letter), s.Title, s.Items); err != nil {
					return err
				}
			}
			for _, h := range week.Home {
				if err := items(week, h.Date, "home", "Home work", h.Items); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

// WritePlanCSV writes a plan as UTF-8 CSV with decimal points; a text a spreadsheet would
// run gets an apostrophe in front.
func WritePlanCSV(w io.Writer, p *PlanSheet) error {
	cw := csv.NewWriter(w)
	if err := cw.Write(PlanColumns); err != nil {
		return err
	}
	if err := p.rows(func(cells []string) error {
		for i := range cells {
			cells[i] = table.Quote(cells[i])
		}
		return cw.Write(cells)
	}); err != nil {
		return err
	}
	cw.Flush()
	return cw.Error()
}

// WritePlanXLSX writes the same as a workbook; its cells are values, never formulas.
func WritePlanXLSX(w io.Writer, p *PlanSheet) error {
	f := excelize.NewFile()
	defer func() { _ = f.Close() }()
	if err := f.SetSheetName("Sheet1", "plan"); err != nil {
		return err
	}
	sw, err := f.NewStreamWriter("plan")
	if err != nil {
		return err
	}
	row := 1
	if err := writeRow(sw, row, PlanColumns); err != nil {
		return err
	}
	if err := p.rows(func(cells []string) error {
		row++
		return writeRow(sw, row, cells, planNumbers...)
	}); err != nil {
		return err
	}
	if err := sw.Flush(); err != nil {
		return err
	}
	return f.Write(w)
}
