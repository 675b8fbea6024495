package httpapi_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/httpapi/gen"
)

func (c *client) upload(name string, b []byte, status int) gen.Upload {
	c.t.Helper()
	res, got := c.do("POST", "/uploads?name="+url.QueryEscape(name), "application/octet-stream", b, nil)
	require.Equal(c.t, status, res.StatusCode, "%.300s", got)
	var u gen.Upload
	_ = json.Unmarshal(got, &u)
	return u
}

func (c *client) settled(id string) gen.Upload {
	c.t.Helper()
	for range 600 {
		var u gen.Upload
		c.get("/uploads/"+id, http.StatusOK, &u)
		if u.State != "checking" && u.State != "saving" {
			return u
		}
		time.Sleep(20 * time.Millisecond)
	}
	c.t.Fatal("the import does not end")
	return gen.Upload{}
}

func TestAFileIsMappedCheckedSavedAndTakenBack(t *testing.T) {
	c := withDemo(t)
	var squad struct{ Athletes []gen.SquadRow }
	c.get("/athletes", http.StatusOK, &squad)
	name := squad.Athletes[0].Name
	file := "Name;Day;CMJ;Grip lead 1;mystery\n" + name + ";01.09.2026;31,5;40,5;x\nNobody Here;01.09.2026;30;;\n" + name + ";02.09.2026;95;;\n"
	u := c.upload("autumn.csv", []byte(file), http.StatusCreated)
	require.NotNil(t, u.Mapping)
	assert.Equal(t, ",", u.Mapping.Decimal)
	u.Mapping.Source = "barn sheet"
	clash := *u.Mapping
	clash.Columns = append(clash.Columns[:0:0], clash.Columns...)
	clash.Columns[4].Field = "golfer"
	p := c.post("/uploads/"+u.Id+"/check", clash, http.StatusUnprocessableEntity, nil)
	assert.Contains(t, *p.Detail, `"Name" and "mystery" both mean the golfer’s name`)
	c.post("/uploads/"+u.Id+"/commit", m{}, http.StatusForbidden, nil)
	c.post("/uploads/"+u.Id+"/check", u.Mapping, http.StatusOK, nil)
	got := c.settled(u.Id)
	assert.EqualValues(t, "checked", got.State)
	assert.Equal(t, []int{3, 1, 2}, []int{got.Report.Rows, got.Report.GoodRows, got.Report.ErrorRows})
	assert.Equal(t, 3, got.Report.Errors[0].Row)
	assert.Contains(t, got.Report.Errors[0].Text, "no golfer \"Nobody Here\"")
	assert.True(t, got.Report.Errors[1].Unlikely)
	c.post("/uploads/"+u.Id+"/commit", m{"keepUnlikely": true}, http.StatusOK, nil)
	got = c.settled(u.Id)
	assert.EqualValues(t, "checked", got.State, "one bad row and nothing is saved")

	good := strings.Replace(strings.Replace(file, "Nobody Here;01.09.2026;30;;\n", "", 1), ";95;;", ";33;;", 1)
	u = c.upload("autumn 2.csv", []byte(good), http.StatusCreated)
	assert.Equal(t, "barn sheet", *u.Known, "the source is remembered")
	c.post("/uploads/"+u.Id+"/check", u.Mapping, http.StatusOK, nil)
	require.Zero(t, c.settled(u.Id).Report.ErrorRows)
	c.post("/uploads/"+u.Id+"/commit", m{}, http.StatusOK, nil)
	got = c.settled(u.Id)
	assert.EqualValues(t, "saved", got.State, got.Note)
	var rows []gen.ScreenRow
	c.get("/athletes/"+squad.Athletes[0].Id+"/screens", http.StatusOK, &rows)
	n := len(rows)
	c.post("/uploads/"+u.Id+"/undo", nil, http.StatusOK, &got)
	assert.EqualValues(t, "undone", got.State)
	c.get("/athletes/"+squad.Athletes[0].Id+"/screens", http.StatusOK, &rows)
	assert.Len(t, rows, n-2, "the two screens it made are gone")
	c.post("/uploads/"+u.Id+"/undo", nil, http.StatusOK, &got)
	assert.EqualValues(t, "undone", got.State, "taking back twice is no error")

	c.upload("bad.png", []byte("\x89PNG\r\n\x1a\n\x00"), http.StatusUnprocessableEntity)
	c.upload("big.csv", bytes.Repeat([]byte("a,"), 7<<20), http.StatusRequestEntityTooLarge)
}

func wideFile(golfers, values int) []byte {
	var b bytes.Buffer
	b.WriteString("golfer,birth date,playing side,sex,date")
	n := 0
	for _, h := range []string{"mass 1", "mass 2", "height 1", "height 2", "span 1", "span 2"} {
		b.WriteString("," + h)
		n++
	}
	for _, id := range []string{"hip-ir", "hip-er", "shoulder-er", "shoulder-ir", "shoulder-flexion", "ankle-lunge", "leg-raise", "wrist-radial", "wrist-ulnar", "forearm-pronation", "forearm-supination", "side-bend", "grip-sustain"} {
		for _, side := range []string{"lead", "trail"} {
			for trial := 1; trial <= 2 && n < values; trial++ {
				fmt.Fprintf(&b, ",%s %s %d", id, side, trial)
				n++
			}
		}
	}
	for trial := 1; n < values; trial++ {
		fmt.Fprintf(&b, ",cmj %d", trial)
		n++
	}
	base := []string{"70", "70.2", "175", "175", "178", "178"}
	header := strings.Split(strings.TrimSpace(b.String()), ",")
	for g := range golfers {
		fmt.Fprintf(&b, "\nGolfer %04d,1990-01-%02d,right,male,2026-09-20", g, 1+g%28)
		for i, h := range header[5:] {
			switch {
			case i < 6:
				b.WriteString("," + base[i])
			case strings.HasPrefix(h, "shoulder-flexion"):
				b.WriteString(",160")
			case strings.HasPrefix(h, "shoulder"):
				b.WriteString(",95")
			case strings.HasPrefix(h, "leg"), strings.HasPrefix(h, "forearm"):
				b.WriteString(",75")
			case strings.HasPrefix(h, "ankle"), strings.HasPrefix(h, "side"):
				b.WriteString(",12.5")
			default:
				b.WriteString(",30.5")
			}
		}
	}
	return b.Bytes()
}

func TestAnImportCanBeCancelled(t *testing.T) {
	c := withDemo(t)
	u := c.upload("many.csv", wideFile(700, 58), http.StatusCreated)
	u.Mapping.AddGolfers = true
	c.post("/uploads/"+u.Id+"/check", u.Mapping, http.StatusOK, nil)
	checked := c.settled(u.Id)
	require.Zero(t, checked.Report.ErrorRows, "%+v", checked.Report.Verdicts[:1])
	c.post("/uploads/"+u.Id+"/commit", m{}, http.StatusOK, nil)
	c.post("/uploads/"+u.Id+"/cancel", nil, http.StatusNoContent, nil)
	got := c.settled(u.Id)
	assert.EqualValues(t, "cancelled", got.State)
	assert.Len(t, c.everybody(), 6, "nothing of it is there")
}

func TestDownloads(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Magnus")
	for path, kind := range map[string]string{
		"/athletes/" + id + "/exports/csv": "text/csv", "/athletes/" + id + "/exports/fhir": "application/fhir+json", "/exports/csv": "text/csv",
		"/athletes/" + id + "/exports/xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "/exports/xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
		"/athletes/" + id + "/referral.pdf": "application/pdf",
	} {
		method, kindOf, sent := "GET", "", []byte(nil)
		if kind == "application/pdf" {
			method, kindOf, sent = "POST", "application/json", []byte(`{"to":"doctor","remark":"Please see"}`)
		}
		res, body := c.do(method, path, kindOf, sent, nil)
		require.Equal(t, http.StatusOK, res.StatusCode, "%s %.200s", path, body)
		assert.Equal(t, kind, res.Header.Get("Content-Type"), path)
		assert.Contains(t, res.Header.Get("Content-Disposition"), "attachment; filename=", path)
		assert.Greater(t, len(body), 500, path)
	}
	c.post("/athletes/"+id+"/referral", m{"to": "barber"}, http.StatusUnprocessableEntity, nil)
	var n gen.Referral
	c.post("/athletes/"+id+"/referral", m{"to": "physiotherapist"}, http.StatusOK, &n)
	assert.Equal(t, "physiotherapist", n.To)
}

// What is exported as JSON comes back whole: erased, brought in and exported again
// it is the same file.
func TestAGolferGoesRoundAsJSON(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	_, file := c.do("GET", "/athletes/"+id+"/export", "", nil, nil)
	res, _ := c.do("POST", "/golfer-files", "application/octet-stream", file, nil)
	assert.Equal(t, http.StatusConflict, res.StatusCode, "he is here already")
	c.json("DELETE", "/athletes/"+id, nil, http.StatusNoContent, nil)
	res, body := c.do("POST", "/golfer-files", "application/octet-stream", file, nil)
	require.Equal(t, http.StatusCreated, res.StatusCode, "%.300s", body)
	_, again := c.do("GET", "/athletes/"+c.golfer("Torquil")+"/export", "", nil, nil)
	assert.JSONEq(t, string(file), string(again))
	res, body = c.do("POST", "/golfer-files", "application/octet-stream", []byte(`{"format":"dunnock-athlete/1","shoe":43}`), nil)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, string(body), "shoe")
}
