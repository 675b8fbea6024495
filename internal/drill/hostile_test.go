package drill

import (
	"archive/zip"
	"bytes"
	"fmt"
	"net/http"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Bounds of one upload, four at once: memory above the idle program, and time to
// its answer. The time is only held against in the target hostile: elsewhere
// something else may keep the machine busy.
const (
	most    = 256 << 20
	answers = 3 * time.Second
)

// hostileFiles are small to send and large to read.
func hostileFiles() map[string][]byte {
	workbook := func(shared, sheet string) []byte {
		var out bytes.Buffer
		z := zip.NewWriter(&out)
		for name, text := range map[string]string{
			"xl/workbook.xml":            `<workbook xmlns:r="x"><sheets><sheet name="A" r:id="r1"/></sheets></workbook>`,
			"xl/_rels/workbook.xml.rels": `<Relationships><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>`,
			"xl/sharedStrings.xml":       shared, "xl/worksheets/sheet1.xml": sheet,
		} {
			w, _ := z.Create(name)
			_, _ = w.Write([]byte(text))
		}
		_ = z.Close()
		return out.Bytes()
	}
	rows := func(n int, cells string) string {
		return "<worksheet><sheetData>" + strings.Repeat("<row>"+cells+"</row>", n) + "</sheetData></worksheet>"
	}
	cell := `<c t="s"><v>0</v></c>`
	var labels strings.Builder // each like a test's name, none of them one
	for r := range 160 {
		for c := range 380 {
			fmt.Fprintf(&labels, "hip internl rotaton %d grippp strengh %d jmp,", r, c)
		}
		labels.WriteString("\n")
	}
	json := func(s string) []byte { return []byte(s) }
	return map[string][]byte{
		"uploads: millions of shared texts":   workbook("<sst>"+strings.Repeat("<si><t>a</t></si>", 3_000_000)+"</sst>", rows(3, cell)),
		"uploads: a cell of 60 MB":            workbook("<sst><si><t>"+strings.Repeat("z", 60<<20)+"</t></si></sst>", rows(3, cell)),
		"uploads: 90 MB unfolded":             workbook("<sst/>", "<worksheet><sheetData>"+strings.Repeat(" ", 90<<20)+"</sheetData></worksheet>"),
		"uploads: the most rows there may be": workbook("<sst><si><t>name</t></si></sst>", rows(190_000, cell+cell+cell+`<c><v>1</v></c>`)),
		"uploads: one line of commas":         bytes.Repeat([]byte(","), 12<<20-10),
		"uploads: a quote never closed":       append([]byte("a,b\n\""), bytes.Repeat([]byte("x\n"), 5<<20)...),
		"uploads: a million short cells":      []byte("a,b,c,d,e\n" + strings.Repeat("1,2,3,4,5\n", 199_000)),
		"uploads: a sheet of near names":      []byte(labels.String()),
		"uploads: NULs":                       make([]byte, 11<<20),
		"uploads: half a workbook":            workbook("<sst/>", rows(1000, cell))[:500],
		"golfer-files: deep brackets":         json(strings.Repeat("[", 4<<20)),
		"golfer-files: a name of 7 MB":        json(`{"format":"dunnock-athlete/1","athlete":{"name":"` + strings.Repeat("x", 7<<20) + `"}}`),
		"golfer-files: many screens": json(
			`{"format":"dunnock-athlete/1","screens":[` + strings.TrimSuffix(strings.Repeat(`{"date":"2026-01-01","trials":[]},`, 200_000), ",") + `]}`,
		),
		"json: deep brackets":              json(`{"profile":` + strings.Repeat("[", 250_000) + strings.Repeat("]", 250_000) + `}`),
		"json: a hundred thousand members": json(`{"profile":{` + strings.TrimSuffix(strings.Repeat(`"a":1,`, 80_000), ",") + `}}`),
		"json: over the limit":             json(`{"profile":{"name":"` + strings.Repeat("x", 600<<10) + `"}}`),
	}
}

// TestHostile sends hostile bodies and files, four of each at once, and holds the
// program's memory and the time to an answer against their bounds.
func TestHostile(t *testing.T) {
	s := begin(t)
	c := s.client()
	limits := os.Getenv("DUNNOCK_DRILL_LIMITS") != ""
	idle, _ := s.memory()
	for name, body := range hostileFiles() {
		path, kind := "/uploads?name=f", "application/octet-stream"
		switch before, _, _ := strings.Cut(name, ":"); before {
		case "golfer-files":
			path = "/golfer-files"
		case "json":
			path, kind = "/athletes", "application/json"
		}
		var wg sync.WaitGroup
		var mu sync.Mutex
		statuses := map[int]int{}
		slowest := time.Duration(0)
		stopWatch := make(chan struct{})
		peak := idle
		watched := make(chan struct{})
		go func() {
			defer close(watched)
			for {
				select {
				case <-stopWatch:
					return
				case <-time.After(5 * time.Millisecond):
					now, _ := s.memory()
					peak = max(peak, now)
				}
			}
		}()
		for range 4 {
			wg.Go(func() {
				begin := time.Now()
				status := c.send(path, kind, body)
				mu.Lock()
				defer mu.Unlock()
				statuses[status]++
				slowest = max(slowest, time.Since(begin))
			})
		}
		wg.Wait()
		close(stopWatch)
		<-watched
		t.Logf("%-40s %6.1f MB sent: %v, slowest %.2f s, %d MB above idle", name, float64(len(body))/(1<<20), statuses, slowest.Seconds(), (peak-idle)>>20)
		for status := range statuses {
			assert.True(t, status == http.StatusCreated || status >= 400 && status < 500, "%s: %d", name, status)
		}
		assert.LessOrEqual(t, peak-idle, most, "%s: memory above the idle program", name)
		if limits {
			assert.LessOrEqual(t, slowest, answers, name)
		}
		require.True(t, s.healthy())
	}
}

// send is call with a body as it is.
func (c *client) send(path, kind string, body []byte) int {
	res, err := c.http.Post(c.s.base+"/api/v1"+path, kind, bytes.NewReader(body))
	if err != nil {
		fmt.Println(err)
		return 0
	}
	_ = res.Body.Close()
	return res.StatusCode
}
