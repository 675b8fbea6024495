package formats

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"strings"

	"github.com/samply/golang-fhir-models/fhir-models/fhir"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

// Code systems of the FHIR export.
const (
	systemTest   = "urn:dunnock:test"
	systemLOINC  = "http://loinc.org"
	systemSNOMED = "http://snomed.info/sct"
	systemUCUM   = "http://unitsofmeasure.org"
	systemAbsent = "http://terminology.hl7.org/CodeSystem/data-absent-reason"
	systemKind   = "http://terminology.hl7.org/CodeSystem/observation-category"
)

// loinc are the tests with a code of their own there.
var loinc = map[string][2]string{
	"mass":   {"29463-7", "Body weight"},
	"height": {"8302-2", "Body height"},
}

// ucum is how our units are written for machines.
var ucum = map[unit.Unit]string{
	unit.Kilogram: "kg", unit.Centimetre: "cm", unit.Metre: "m", unit.Millimetre: "mm", unit.Degree: "deg", unit.MetrePerSecond: "m/s", unit.Second: "s", unit.Millisecond: "ms",
	unit.Repetition: "{repetitions}", unit.KilogramPerSec: "kg/s", unit.Newton: "N", unit.Watt: "W", unit.Percent: "%", unit.Ratio: "{ratio}",
}

// WriteFHIR writes one golfer's results as a FHIR R4 bundle of the kind
// collection: a Patient and an Observation for each test, side and screen, with
// the single trials as components. Sides of the body are given as left and
// right, as clinics do.
func WriteFHIR(w io.Writer, f *athlete.File) error {
	bundle := fhir.Bundle{Type: fhir.BundleTypeCollection}
	patientURL := urn("patient", f.Athlete.Name, f.Athlete.BirthDate.String())
	add := func(url string, resource any) error {
		b, err := json.Marshal(resource)
		if err == nil {
			bundle.Entry = append(bundle.Entry, fhir.BundleEntry{FullUrl: &url, Resource: b})
		}
		return err
	}
	born := f.Athlete.BirthDate.String()
	patient := fhir.Patient{Name: []fhir.HumanName{{Text: &f.Athlete.Name}}, BirthDate: &born}
	switch f.Athlete.Sex {
	case athlete.Male:
		g := fhir.AdministrativeGenderMale
		patient.Gender = &g
	case athlete.Female:
		g := fhir.AdministrativeGenderFemale
		patient.Gender = &g
	}
	if err := add(patientURL, patient); err != nil {
		return err
	}
	tests := f.Tests()
	for i := range f.Screens {
		s := &f.Screens[i]
		for j := range tests.Tests() {
			t := &tests.Tests()[j]
			for _, side := range t.Kind.Sides() {
				o, ok := observation(f, s, t, side, patientURL)
				if !ok {
					continue
				}
				if err := add(urn("observation", born, f.Athlete.Name, s.Date.String(), t.ID, string(side)), o); err != nil {
					return err
				}
			}
		}
	}
	return WriteJSON(w, bundle)
}

// urn makes a steady identifier out of what something is.
func urn(parts ...string) string {
	h := sha256.Sum256([]byte(strings.Join(parts, "\x00")))
	h[6], h[8] = h[6]&0x0f|0x80, h[8]&0x3f|0x80 // a UUID of version 8, made from the facts
	x := hex.EncodeToString(h[:16])
	return fmt.Sprintf("urn:uuid:%s-%s-%s-%s-%s", x[:8], x[8:12], x[12:16], x[16:20], x[20:])
}

func coding(system, code, display string) fhir.Coding {
	c := fhir.Coding{System: &system, Code: &code}
	if display != "" {
		c.Display = &display
	}
	return c
}

func concept(text string, codes ...fhir.Coding) fhir.CodeableConcept {
	return fhir.CodeableConcept{Coding: codes, Text: &text}
}

func observation(f *athlete.File, s *athlete.Screen, t *measure.Test, side measure.Side, patient string) (*fhir.Observation, bool) {
	var trials []measure.Trial
	for _, tr := range s.Trials {
		if tr.Test == t.ID && tr.Side == side {
			trials = append(trials, tr)
		}
	}
	res, ok := t.ResultOf(trials)
	if !ok {
		return nil, false
	}
	name := t.Name
	if side != "" {
		name += ", " + string(side)
	}
	when := s.Date.String()
	o := &fhir.Observation{
		Status: fhir.ObservationStatusFinal, Code: concept(name, coding(systemTest, t.ID, t.Name)),
		Category: []fhir.CodeableConcept{{Coding: []fhir.Coding{coding(systemKind, "exam", "Exam")}}},
		Subject:  &fhir.Reference{Reference: &patient}, EffectiveDateTime: &when,
	}
	if c, ok := loinc[t.ID]; ok {
		o.Code.Coding = append(o.Code.Coding, coding(systemLOINC, c[0], c[1]))
	}
	if t.Kind == measure.Limbs {
		site := concept("left", coding(systemSNOMED, "7771000", "Left"))
		if f.Athlete.RightHanded(side) {
			site = concept("right", coding(systemSNOMED, "24028007", "Right"))
		}
		o.BodySite = &site
	}
	how := t.Setup
	if res.Variant != "" {
		how = strings.ReplaceAll(res.Variant, "-", " ") + ". " + how
	}
	method := concept(how)
	o.Method = &method
	switch {
	case res.Stopped:
		absent := concept("stopped: no result, not a zero", coding(systemAbsent, "not-performed", "Not Performed"))
		o.DataAbsentReason = &absent
	case res.Valid == 0:
		absent := concept("skipped", coding(systemAbsent, "not-performed", "Not Performed"))
		o.DataAbsentReason = &absent
	default:
		o.ValueQuantity = quantity(res.Value, t)
	}
	for _, tr := range trials {
		if tr.Note != "" || tr.Pain > 0 {
			text := tr.Note
			if tr.Pain > 0 {
				text = strings.TrimSpace(fmt.Sprintf("Trial %d: pain %d of 10 (%s). %s", tr.Number, tr.Pain, strings.ReplaceAll(tr.Region, "-", " "), tr.Note))
			}
			o.Note = append(o.Note, fhir.Annotation{Text: text})
		}
		if tr.Status == measure.Done && res.Valid > 0 {
			o.Component = append(
				o.Component,
				fhir.ObservationComponent{Code: concept(fmt.Sprintf("trial %d", tr.Number), coding(systemTest, t.ID+"-trial", "")), ValueQuantity: quantity(tr.Value, t)},
			)
		}
	}
	return o, true
}

func quantity(v float64, t *measure.Test) *fhir.Quantity {
	n, name, system, code := json.Number(unit.Compact(v, 4)), string(t.Unit), systemUCUM, ucum[t.Unit]
	return &fhir.Quantity{Value: &n, Unit: &name, System: &system, Code: &code}
}
