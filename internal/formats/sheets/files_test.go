package sheets_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/civil"
)

// file is a spreadsheet in a shape people keep, and what is read of it when nobody
// says anything: golfer, day, test, side or hand, trial and text of each result.
type file struct {
	name  string
	text  string
	book  func(t testing.TB) []byte
	reads []string
	// dateless is set where the day has to be said for the whole file.
	dateless bool
	left     []string // what is said to be left out
	asks     []string // tests that have to be said
}

// on is the day most of the files are of.
const on = "Tue 24 Nov 2026"

func book(pages ...page) func(t testing.TB) []byte {
	return func(t testing.TB) []byte {
		f := excelize.NewFile()
		for i, p := range pages {
			if i == 0 {
				require.NoError(t, f.SetSheetName("Sheet1", p.name))
			} else {
				_, err := f.NewSheet(p.name)
				require.NoError(t, err)
			}
			for r, row := range p.rows {
				at, _ := excelize.CoordinatesToCellName(1, r+1)
				require.NoError(t, f.SetSheetRow(p.name, at, &row))
			}
			for _, m := range p.merged {
				require.NoError(t, f.MergeCell(p.name, m[0], m[1]))
			}
		}
		for _, p := range pages {
			if p.hidden {
				require.NoError(t, f.SetSheetVisible(p.name, false))
			}
		}
		var b bytes.Buffer
		require.NoError(t, f.Write(&b))
		return b.Bytes()
	}
}

type page struct {
	name   string
	hidden bool
	rows   [][]any
	merged [][2]string
}

var november = time.Date(2026, 11, 24, 0, 0, 0, 0, time.UTC)

// Invented files in the shapes people keep; the shapes are common practice, no source.
var files = []file{
	{
		name:  "a test a column, as we write it",
		text:  "Name,Date,Countermovement jump,Grip lead 1,Grip trail 1\nAda North,24/11/2026,31.5,40,38\n",
		reads: []string{"Ada North " + on + " cmj 1 31.5", "Ada North " + on + " grip lead 1 40", "Ada North " + on + " grip trail 1 38"},
	},
	{
		name:  "usual short names, left and right",
		text:  "Player,Date,CMJ,Grip L,Grip R,KTW (L),KTW (R)\nAda,24/11/2026,31.5,40,38,11,12\n",
		reads: []string{"Ada " + on + " cmj 1 31.5", "Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38", "Ada " + on + " ankle-lunge left 1 11", "Ada " + on + " ankle-lunge right 1 12"},
	},
	{
		name:  "titles above the header and a blank line",
		text:  "Barn screen,,,\nTested by Ansgar,,,\n,,,\nName,Date,CMJ,Grip L\nAda,24/11/2026,31,40\nBo,24/11/2026,33,44\n",
		reads: []string{"Ada " + on + " cmj 1 31", "Ada " + on + " grip left 1 40", "Bo " + on + " cmj 1 33", "Bo " + on + " grip left 1 44"},
	},
	{
		name:  "the day in a title",
		text:  "Screen day,,\nDate: 24 November 2026,,\nName,CMJ,Grip R\nAda,31,40\n",
		reads: []string{"Ada " + on + " cmj 1 31", "Ada " + on + " grip right 1 40"},
	},
	{
		name:  "a trial a row",
		text:  "golfer;date;test;side;trial;value;unit\nAda;2026-11-24;Grip;L;1;40,5;kg\nAda;2026-11-24;Grip;L;2;41,5;kg\nAda;2026-11-24;Vertical jump;;1;31,0;cm\n",
		reads: []string{"Ada " + on + " grip left 1 40,5 kg", "Ada " + on + " grip left 2 41,5 kg", "Ada " + on + " cmj 1 31,0 cm"},
	},
	{
		name:  "a trial a row, no trial numbers",
		text:  "Who,When,What,Side,Result\nAda,24 Nov 2026,Grip,left,40\nAda,24 Nov 2026,Grip,left,41\nAda,24 Nov 2026,Grip,right,38\n",
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip left 2 41", "Ada " + on + " grip right 1 38"},
	},
	{
		name:  "names nobody listed are asked",
		text:  "Name,Date,Exercise,Score\nAda,24/11/2026,Griip strenght,40\nAda,24/11/2026,Beep test,9\n",
		asks:  []string{"Griip strenght → grip", "Beep test → "},
		reads: []string{},
	},
	{
		name:  "tabs",
		text:  "Name\tDate\tCMJ\nAda\t24-Nov-26\t31.5\n",
		reads: []string{"Ada " + on + " cmj 1 31.5"},
	},
	{
		name:  "bars",
		text:  "Name|Date|CMJ\nAda|24.11.2026|31.5\n",
		reads: []string{"Ada " + on + " cmj 1 31.5"},
	},
	{
		name:  "a line that says the separator",
		text:  "sep=;\nName;Date;CMJ\nAda;24.11.26;31,5\n",
		reads: []string{"Ada " + on + " cmj 1 31,5"},
	},
	{
		name:  "Windows-1252",
		text:  "Name;Date;CMJ;Shoulder flexion L (\xb0)\nJos\xe9;24.11.2026;31;160\xb0\n",
		reads: []string{"José " + on + " cmj 1 31", "José " + on + " shoulder-flexion left 1 160° deg"},
	},
	{
		name:  "month first, because one day can be nothing else",
		text:  "Name,Date,CMJ\nAda,11/24/2026,31\nBo,11/03/2026,30\n",
		reads: []string{"Ada " + on + " cmj 1 31", "Bo Tue 3 Nov 2026 cmj 1 30"},
	},
	{
		name:  "dates written out",
		text:  "Name,Date,CMJ\nAda,\"Nov 24, 2026\",31\nBo,24th November 2026,30\nCy,Tue 24 Nov 2026,29\nDi,2026/11/24,28\nEd,20261124,27\nFi,2026-11-24 10:15,26\nGo,2026-11-24T10:15:00Z,25\n",
		reads: []string{"Ada " + on + " cmj 1 31", "Bo " + on + " cmj 1 30", "Cy " + on + " cmj 1 29", "Di " + on + " cmj 1 28", "Ed " + on + " cmj 1 27", "Fi " + on + " cmj 1 26", "Go " + on + " cmj 1 25"},
	},
	{
		name:  "a header of two rows: tests above, sides below",
		text:  "Name,Date,Grip,,Hip IR,,CMJ\n,,L,R,L,R,\nAda,24/11/2026,40,38,42,44,31\n",
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38", "Ada " + on + " hip-ir left 1 42", "Ada " + on + " hip-ir right 1 44", "Ada " + on + " cmj 1 31"},
	},
	{
		name:  "a header of two rows: tests above, trials below",
		text:  "Name,Date,CMJ,,,Trap bar,\n,,1,2,3,,\nAda,24/11/2026,30,31,32,,\n",
		reads: []string{"Ada " + on + " cmj 1 30", "Ada " + on + " cmj 2 31", "Ada " + on + " cmj 3 32"},
	},
	{
		name:  "a header of three rows: test, side, trial",
		text:  "Name,Date,Grip,,,\n,,Left,,Right,\n,,T1,T2,T1,T2\nAda,24/11/2026,40,41,38,39\n",
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip left 2 41", "Ada " + on + " grip right 1 38", "Ada " + on + " grip right 2 39"},
	},
	{
		name:  "units in a row of their own",
		text:  "Name,Date,Body weight,CMJ\n,,lb,in\nAda,24/11/2026,140,12.5\n",
		reads: []string{"Ada " + on + " mass 1 140 lb", "Ada " + on + " cmj 1 12.5 in"},
	},
	{
		name:  "groups of tests over the header",
		text:  ",,Mobility,,Power\nName,Date,Hip IR L,Hip IR R,CMJ\nAda,24/11/2026,42,44,31\n",
		reads: []string{"Ada " + on + " hip-ir left 1 42", "Ada " + on + " hip-ir right 1 44", "Ada " + on + " cmj 1 31"},
	},
	{
		name:  "days above the tests",
		text:  "Name,24/11/2026,,01/09/2026,\n,CMJ,Grip L,CMJ,Grip L\nAda,31,40,29,38\n",
		reads: []string{"Ada " + on + " cmj 1 31", "Ada " + on + " grip left 1 40", "Ada Tue 1 Sep 2026 cmj 1 29", "Ada Tue 1 Sep 2026 grip left 1 38"},
	},
	{
		name:  "golfers across",
		text:  "Date: 24/11/2026,,\nTest,Ada North,Bo South\nCMJ,31,35\nGrip L,40,48\nGrip R,38,47\n",
		reads: []string{"Ada North " + on + " cmj 1 31", "Ada North " + on + " grip left 1 40", "Ada North " + on + " grip right 1 38", "Bo South " + on + " cmj 1 35", "Bo South " + on + " grip left 1 48", "Bo South " + on + " grip right 1 47"},
	},
	{
		name:  "golfers across, sides in a column",
		text:  "24 Nov 2026,,,\nTest,Side,Ada North,Bo South\nGrip,L,40,48\nGrip,R,38,47\nCMJ,,31,35\n",
		reads: []string{"Ada North " + on + " grip left 1 40", "Ada North " + on + " grip right 1 38", "Ada North " + on + " cmj 1 31", "Bo South " + on + " grip left 1 48", "Bo South " + on + " grip right 1 47", "Bo South " + on + " cmj 1 35"},
	},
	{
		name:  "one golfer, days across",
		text:  "Test,1 Sep 2026,24 Nov 2026\nCMJ,29,31\nGrip L,38,40\n",
		reads: []string{" Tue 1 Sep 2026 cmj 1 29", " Tue 1 Sep 2026 grip left 1 38", " " + on + " cmj 1 31", " " + on + " grip left 1 40"},
	},
	{
		name:  "one golfer, tests down, sides and trials across",
		text:  "Screen of 24 Nov 2026,,,,\nDate: 24 Nov 2026,,,,\nTest,L1,L2,R1,R2\nGrip,40,41,38,39\nHip IR,42,43,44,45\n",
		reads: []string{" " + on + " grip left 1 40", " " + on + " grip left 2 41", " " + on + " grip right 1 38", " " + on + " grip right 2 39", " " + on + " hip-ir left 1 42", " " + on + " hip-ir left 2 43", " " + on + " hip-ir right 1 44", " " + on + " hip-ir right 2 45"},
	},
	{
		name:     "tests down without any header",
		text:     "Grip L,40,41\nGrip R,38,39\nCMJ,30,31\n",
		dateless: true,
		reads:    []string{" " + on + " grip left 1 40", " " + on + " grip left 2 41", " " + on + " grip right 1 38", " " + on + " grip right 2 39", " " + on + " cmj 1 30", " " + on + " cmj 2 31"},
	},
	{
		name:  "two values in a cell",
		text:  "Name,Date,Grip L/R,Hip IR (R/L)\nAda,24/11/2026,52/48,44 / 42\n",
		reads: []string{"Ada " + on + " grip left 1 52", "Ada " + on + " grip right 1 48", "Ada " + on + " hip-ir right 1 44", "Ada " + on + " hip-ir left 1 42"},
	},
	{
		name:  "two values in a cell and a heading without sides",
		text:  "Name,Date,Grip\nAda,24/11/2026,52/48\nBo,24/11/2026,50/50\n",
		reads: []string{"Ada " + on + " grip left 1 52", "Ada " + on + " grip right 1 48", "Bo " + on + " grip left 1 50", "Bo " + on + " grip right 1 50"},
	},
	{
		name:  "all trials in a cell",
		text:  "Name,Date,CMJ,Grip L\nAda,24/11/2026,30/31/32,40; 41\n",
		reads: []string{"Ada " + on + " cmj 1 30", "Ada " + on + " cmj 2 31", "Ada " + on + " cmj 3 32", "Ada " + on + " grip left 1 40", "Ada " + on + " grip left 2 41"},
	},
	{
		name:  "units and signs in the cells",
		text:  "Name,Date,Weight,Height,Hip IR L,Club speed\nAda,24/11/2026,140 lb,\"5'6\"\"\",38°,95 mph\n",
		reads: []string{"Ada " + on + " mass 1 140 lb", `Ada ` + on + ` height 1 5'6"`, "Ada " + on + " hip-ir left 1 38°", "Ada " + on + " driver-speed 1 95 mph"},
	},
	{
		name:  "what was not measured",
		text:  "Name,Date,CMJ,Grip L,Grip R\nAda,24/11/2026,n/a,-,DNT\nBo,24/11/2026,31,x,40\n",
		reads: []string{"Bo " + on + " cmj 1 31", "Bo " + on + " grip right 1 40"},
		left:  []string{"4 cells in which nothing was measured"},
	},
	{
		name:  "averages in columns",
		text:  "Name,Date,CMJ 1,CMJ 2,CMJ avg,Grip L,Grip R,Grip diff %\nAda,24/11/2026,30,32,31,40,38,5\n",
		reads: []string{"Ada " + on + " cmj 1 30", "Ada " + on + " cmj 2 32", "Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38"},
		left:  []string{"CMJ avg (worked out from others)", "Grip diff % (worked out from others)"},
	},
	{
		name:  "averages and a footnote in rows",
		text:  "Name,Date,CMJ,Grip L\nAda,24/11/2026,30,40\nBo,24/11/2026,34,44\nTeam average,,32,42\nSD,,2.8,2.8\n* tested in the barn,,,\n",
		reads: []string{"Ada " + on + " cmj 1 30", "Ada " + on + " grip left 1 40", "Bo " + on + " cmj 1 34", "Bo " + on + " grip left 1 44"},
		left:  []string{"2 rows with averages", "“* tested in the barn”"},
	},
	{
		name:  "the header again at the top of a page",
		text:  "Name,Date,CMJ\nAda,24/11/2026,30\nName,Date,CMJ\nBo,24/11/2026,34\n",
		reads: []string{"Ada " + on + " cmj 1 30", "Bo " + on + " cmj 1 34"},
		left:  []string{"1 row that repeats the header"},
	},
	{
		name:  "the name once for several rows",
		text:  "Name,Date,Test,L,R\nAda,24/11/2026,Grip,40,38\n,,Hip IR,42,44\nBo,24/11/2026,Grip,48,47\n,,Hip IR,40,39\n",
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38", "Ada " + on + " hip-ir left 1 42", "Ada " + on + " hip-ir right 1 44", "Bo " + on + " grip left 1 48", "Bo " + on + " grip right 1 47", "Bo " + on + " hip-ir left 1 40", "Bo " + on + " hip-ir right 1 39"},
	},
	{
		name:  "the date once, before the names, and a name once",
		text:  "Date,Name,Test,L,R\n24/11/2026,Ada,Grip,40,38\n,,Hip IR,42,44\n,Bo,Grip,48,47\n,,Hip IR,40,39\n",
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38", "Ada " + on + " hip-ir left 1 42", "Ada " + on + " hip-ir right 1 44", "Bo " + on + " grip left 1 48", "Bo " + on + " grip right 1 47", "Bo " + on + " hip-ir left 1 40", "Bo " + on + " hip-ir right 1 39"},
	},
	{
		name:  "first and last name apart, born and handed",
		text:  "First name,Surname,DOB,Gender,Handed,Date,CMJ\nAda,North,1 May 1990,F,RH,24/11/2026,31\n",
		reads: []string{"Ada North " + on + " cmj 1 31"},
	},
	{
		name:  "a column nobody knows",
		text:  "Name,Date,CMJ,Shoe size,Locker\nAda,24/11/2026,31,39,7\n",
		reads: []string{"Ada " + on + " cmj 1 31"},
		left:  []string{"Shoe size", "Locker"},
	},
	{
		name:  "names near ours",
		text:  "Name,Date,Countermovment jump,Hip intrnal rotation L\nAda,24/11/2026,31,42\n",
		reads: []string{"Ada " + on + " cmj 1 31", "Ada " + on + " hip-ir left 1 42"},
	},
	{
		name:  "the second side by a letter alone",
		text:  "Name,Date,Grip L,R,Hip IR L,R\nAda,24/11/2026,40,38,42,44\n",
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38", "Ada " + on + " hip-ir left 1 42", "Ada " + on + " hip-ir right 1 44"},
	},
	{
		name:  "the same heading three times is three trials",
		text:  "Name,Date,CMJ,CMJ,CMJ\nAda,24/11/2026,30,31,32\n",
		reads: []string{"Ada " + on + " cmj 1 30", "Ada " + on + " cmj 2 31", "Ada " + on + " cmj 3 32"},
	},
	{
		name: "a workbook: merged titles and heads, its own dates",
		book: book(page{name: "Squad", rows: [][]any{
			{"Autumn screen"}, {}, {"Name", "Date", "Grip", nil, "CMJ"}, {nil, nil, "L", "R", nil}, {"Ada", november, 40, 38.5, 31.200000000000003}, {"Bo", november, 48, 47, 35},
		}, merged: [][2]string{{"A1", "E1"}, {"C3", "D3"}, {"A3", "A4"}, {"B3", "B4"}}}),
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38.5", "Ada " + on + " cmj 1 31.2", "Bo " + on + " grip left 1 48", "Bo " + on + " grip right 1 47", "Bo " + on + " cmj 1 35"},
	},
	{
		name: "a workbook: the results are on the second sheet, a third is hidden",
		book: book(
			page{name: "Read me", rows: [][]any{{"How this sheet works"}, {"Ask Ansgar first"}}},
			page{name: "Results", rows: [][]any{{"Name", "Date", "CMJ"}, {"Ada", november, 31}}},
			page{name: "Old", hidden: true, rows: [][]any{{"Name", "Date", "CMJ", "Grip L", "Grip R"}, {"Ada", november, 11, 1, 1}}},
		),
		reads: []string{"Ada " + on + " cmj 1 31"},
	},
	{
		name:  "a workbook: merged names beside their rows",
		book:  book(page{name: "S", rows: [][]any{{"Name", "Date", "Test", "Left", "Right"}, {"Ada", november, "Grip", 40, 38}, {nil, nil, "Hip IR", 42, 44}}, merged: [][2]string{{"A2", "A3"}, {"B2", "B3"}}}),
		reads: []string{"Ada " + on + " grip left 1 40", "Ada " + on + " grip right 1 38", "Ada " + on + " hip-ir left 1 42", "Ada " + on + " hip-ir right 1 44"},
	},
	{
		name:  "a workbook: days across above the tests",
		book:  book(page{name: "S", rows: [][]any{{nil, november, nil}, {"Name", "CMJ", "Grip L"}, {"Ada", 31, 40}}, merged: [][2]string{{"B1", "C1"}}}),
		reads: []string{"Ada " + on + " cmj 1 31", "Ada " + on + " grip left 1 40"},
	},
	{
		name:     "a workbook: a year in the title is no day",
		book:     book(page{name: "S", rows: [][]any{{"Screens", 2026}, {"Name", "CMJ"}, {"Ada", 31}}}),
		dateless: true,
		reads:    []string{"Ada " + on + " cmj 1 31"},
	},
	{
		name:  "a workbook: the sheet is called by its day",
		book:  book(page{name: "24 Nov 2026", rows: [][]any{{"Name", "CMJ"}, {"Ada", 31}}}),
		reads: []string{"Ada " + on + " cmj 1 31"},
	},
	{
		name:  "a workbook: tests down, one golfer's days across",
		book:  book(page{name: "Ada North", rows: [][]any{{"Test", november}, {"CMJ", 31}, {"Grip L", 40}}}),
		reads: []string{" " + on + " cmj 1 31", " " + on + " grip left 1 40"},
	},
}

// Every shape is read as it is meant, whatever is left out is said, and what is not
// known is asked.
func TestFilesInTheShapesPeopleKeep(t *testing.T) {
	require.GreaterOrEqual(t, len(files), 40)
	for _, x := range files {
		t.Run(x.name, func(t *testing.T) {
			b := []byte(x.text)
			if x.book != nil {
				b = x.book(t)
			}
			l := lay(t, b)
			if !l.m.NamesGolfers() {
				l.m.Golfer = "one"
			}
			if x.dateless {
				l.m.Date = civil.MustParse("2026-11-24")
			}
			records, bad, r := l.read(t)
			got := []string{}
			for _, rec := range records {
				side := string(rec.Hand) + rec.Cell.Side
				if side != "" {
					side += " "
				}
				line := fmt.Sprintf("%s %s %s %s%d %s %s", rec.Golfer, rec.Date.Words(), rec.Cell.Test, side, rec.Cell.Trial, rec.Cell.Text, rec.Cell.Unit)
				got = append(got, strings.TrimRight(line, " "))
			}
			assert.Equal(t, x.reads, got, "%+v\n%+v\n%+v", l.layout, l.table.Header, l.m.Columns)
			var asked []string
			for _, u := range r.Unknown() {
				asked = append(asked, u.Written+" → "+u.Near)
			}
			assert.Equal(t, x.asks, asked)
			if x.asks == nil {
				assert.Empty(t, bad)
			}
			left := r.LeftOut()
			if len(x.left) == 0 {
				assert.Empty(t, left)
			} else {
				assert.Equal(t, x.left, left)
			}
		})
	}
}
