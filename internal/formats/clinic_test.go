package formats_test

import (
	"bytes"
	"encoding/json"
	"os"
	"testing"

	"github.com/samply/golang-fhir-models/fhir-models/fhir"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/quality"
	"dunnock/internal/core/referral"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
)

// The bundle reads back into the published R4 structures (models generated from
// the definitions), says what the screen says, and is the golden file that the
// front end's tests hold against a FHIR validator.
func TestFHIRBundle(t *testing.T) {
	f := testkit.Weak()
	f.Screens[0].Trials = append(
		f.Screens[0].Trials,
		measure.Trial{Test: "side-hold", Side: "lead", Number: 1, Status: measure.Stopped, Pain: 6, Region: "lumbar-spine", Note: "dull"},
	)
	var b bytes.Buffer
	require.NoError(t, formats.WriteFHIR(&b, f))
	bundle, err := fhir.UnmarshalBundle(b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, fhir.BundleTypeCollection, bundle.Type)
	seen := map[string]bool{}
	var grip, hold *fhir.Observation
	for i, e := range bundle.Entry {
		require.False(t, seen[*e.FullUrl], "every entry has a url of its own")
		seen[*e.FullUrl] = true
		if i == 0 {
			p, err := fhir.UnmarshalPatient(e.Resource)
			require.NoError(t, err)
			assert.Equal(t, "2005-06-01", *p.BirthDate)
			assert.Equal(t, fhir.AdministrativeGenderFemale, *p.Gender)
			continue
		}
		o, err := fhir.UnmarshalObservation(e.Resource)
		require.NoError(t, err)
		assert.Equal(t, fhir.ObservationStatusFinal, o.Status)
		assert.Equal(t, *bundle.Entry[0].FullUrl, *o.Subject.Reference)
		switch {
		case *o.Code.Coding[0].Code == "grip" && *o.BodySite.Text == "right":
			grip = &o
		case *o.Code.Coding[0].Code == "side-hold":
			hold = &o
		}
	}
	require.NotNil(t, grip)
	assert.Contains(t, *grip.Code.Text, "lead", "a left-sided golfer's lead hand is the right one")
	assert.Equal(t, json.Number("25"), *grip.ValueQuantity.Value)
	assert.Equal(t, "kg", *grip.ValueQuantity.Code)
	assert.Len(t, grip.Component, 3)
	require.NotNil(t, hold)
	assert.Nil(t, hold.ValueQuantity, "a stopped test has no value")
	assert.Equal(t, "not-performed", *hold.DataAbsentReason.Coding[0].Code)
	assert.Contains(t, hold.Note[0].Text, "pain 6 of 10 (lumbar spine)")

	golden := "testdata/bundle.fhir.json"
	if os.Getenv("UPDATE") != "" {
		require.NoError(t, os.WriteFile(golden, b.Bytes(), 0o600))
	}
	want, err := os.ReadFile(golden)
	require.NoError(t, err)
	assert.Equal(t, string(want), b.String())
}

func TestReferralNoteAsPDF(t *testing.T) {
	f := testkit.Strong()
	f.Screens[0].Trials[0].Pain, f.Screens[0].Trials[0].Region = 3, "knee"
	sch, _ := method.Shipped().Schools.Find("")
	n := referral.Of(f, quality.Compute(f, sch, nil), referral.Doctor, "Skerravoe Links", "Coach Ünal Ørsted", "Thank you – 3 × 5 at 80 %")
	var a, b bytes.Buffer
	require.NoError(t, formats.WriteReferral(&a, &n))
	require.NoError(t, formats.WriteReferral(&b, &n))
	assert.True(t, bytes.HasPrefix(a.Bytes(), []byte("%PDF-")))
	assert.Greater(t, a.Len(), 5000)
	// The day is the note's, whenever it is printed.
	assert.Contains(t, a.String(), "/CreationDate (D:20261124000000)")
}

// A name in any script, with pictures and joined signs, gives a page: what the
// shipped font lacks is drawn as a box, and the page says so.
func TestAReferralInAnyScript(t *testing.T) {
	n := &referral.Note{
		To:       "doctor",
		On:       testkit.Day,
		Golfer:   "李 Łukasz 🏌️‍♂️ Ωmega",
		Born:     testkit.Day.Add(-9000),
		Practice: "Клуб",
		Coach:    "ন 𝔘",
		Remark:   "👩‍⚕️ line\nbreak\x00",
		Footer:   "–",
	}
	var b bytes.Buffer
	require.NoError(t, formats.WriteReferral(&b, n))
	assert.True(t, bytes.HasPrefix(b.Bytes(), []byte("%PDF")))
	text, lacks := formats.Printable("a李b🏌️‍♂️c")
	assert.True(t, lacks)
	assert.Equal(t, "a□b□c", text)
	text, lacks = formats.Printable("Łukasz é – plain")
	assert.False(t, lacks)
	assert.Equal(t, "Łukasz é – plain", text)
}
