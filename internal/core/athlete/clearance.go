package athlete

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
)

// Question is one clearance question, in our own words.
type Question struct {
	ID      string `json:"id"`
	Text    string `json:"text"`
	RedFlag bool   `json:"redFlag"` // a yes stops everything: no exertion, no draft
}

//go:embed questions.json
var questionsJSON []byte

var questions = func() (q []Question) {
	if err := json.Unmarshal(questionsJSON, &q); err != nil {
		panic("athlete: questions.json: " + err.Error())
	}
	return q
}()

// Questions returns the clearance questions in the order they are asked. The
// slice is shared: do not change it.
func Questions() []Question { return questions }

// Clearance is what the golfer answered and who cleared them.
type Clearance struct {
	AnsweredOn civil.Date `json:"answeredOn"`
	Yes        []string   `json:"yes"` // ids of the questions answered with yes
	// No are the ids answered with no while others are still open; once all are
	// answered, those that are not in Yes are.
	No      []string `json:"no,omitempty"`
	Cleared *Cleared `json:"cleared,omitempty"`
	// InjuredOn is the day of a new injury: answers and a clearance from before it
	// no longer hold.
	InjuredOn civil.Date `json:"injuredOn,omitzero"`
}

// Cleared records who allowed what.
type Cleared struct {
	Role string     `json:"role"` // doctor or physiotherapist
	On   civil.Date `json:"on"`
	Note string     `json:"note,omitempty"`
}

// ClearanceState is what may be done with a golfer.
type ClearanceState string

// The states, from nothing allowed to everything.
const (
	RedFlag        ClearanceState = "red-flag"
	NotAsked       ClearanceState = "not-asked"
	NeedsClearance ClearanceState = "needs-clearance"
	Expired        ClearanceState = "expired"
	NeedsConsent   ClearanceState = "needs-consent"
	Clear          ClearanceState = "clear"
)

// clearanceMonths is how long answers and a clearance hold (house rule: 12 months).
const clearanceMonths = 12

// ClearanceStatus is a state with its sentence.
type ClearanceStatus struct {
	State ClearanceState `json:"state"`
	Text  string         `json:"text"`
	// Until is the last day the clearance holds, when it is clear.
	Until civil.Date `json:"until"`
}

// MayExert reports whether tests that cost effort may be done and a programme
// issued.
func (s ClearanceStatus) MayExert() bool { return s.State == Clear }

// ClearanceOn returns the state of clearance on a day.
func (f *File) ClearanceOn(day civil.Date) ClearanceStatus {
	c := f.Clearance
	var flags, yes []string
	for _, q := range questions {
		if !slices.Contains(c.Yes, q.ID) {
			continue
		}
		if q.RedFlag {
			flags = append(flags, q.Text)
		} else {
			yes = append(yes, q.Text)
		}
	}
	expires := func(on civil.Date) civil.Date { return civil.Of(on.Time().AddDate(0, clearanceMonths, 0)) }
	switch {
	case len(flags) > 0:
		return ClearanceStatus{State: RedFlag, Text: "Red flag: " + strings.Join(flags, " ") + " No testing with effort and no programme: refer to a doctor now."}
	case c.AnsweredOn.IsZero():
		return ClearanceStatus{
			State: NotAsked,
			Text:  "The clearance questions have not been answered. Size and range may be measured; a programme may be drafted, not issued.",
		}
	case !c.InjuredOn.IsZero() && !c.InjuredOn.After(day) && c.AnsweredOn.Before(c.InjuredOn):
		return ClearanceStatus{
			State: Expired,
			Text:  fmt.Sprintf("A new injury on %s: the answers of %s no longer hold. Ask again before effort or issuing.", c.InjuredOn.Words(), c.AnsweredOn.Words()),
		}
	case len(yes) > 0 && c.Cleared != nil && !c.InjuredOn.IsZero() && c.Cleared.On.Before(c.InjuredOn):
		return ClearanceStatus{
			State: Expired,
			Text:  fmt.Sprintf("A new injury on %s: the %s's clearance of %s no longer holds.", c.InjuredOn.Words(), c.Cleared.Role, c.Cleared.On.Words()),
		}
	case !expires(c.AnsweredOn).After(day):
		return ClearanceStatus{
			State: Expired,
			Text:  fmt.Sprintf("The clearance answers of %s are more than %d months old: ask again before effort or issuing.", c.AnsweredOn.Words(), clearanceMonths),
		}
	case f.askedAnew(day) != "":
		return ClearanceStatus{State: NeedsClearance, Text: f.askedAnew(day)}
	case len(yes) > 0 && c.Cleared == nil:
		return ClearanceStatus{State: NeedsClearance, Text: "Answered yes: " + strings.Join(yes, " ") + " Record who cleared what, and when, before effort or issuing."}
	case len(yes) > 0 && !expires(c.Cleared.On).After(day):
		return ClearanceStatus{State: Expired, Text: fmt.Sprintf("The %s's clearance of %s has expired: ask for a new one.", c.Cleared.Role, c.Cleared.On.Words())}
	case f.Athlete.Junior(day) && f.Consent == nil:
		return ClearanceStatus{State: NeedsConsent, Text: "Under 18: record the guardian's consent before effort or issuing."}
	}
	until := expires(c.AnsweredOn)
	text := fmt.Sprintf("Cleared: no health question answered with yes on %s.", c.AnsweredOn.Words())
	if len(yes) > 0 {
		if e := expires(c.Cleared.On); e.Before(until) {
			until = e
		}
		text = fmt.Sprintf("Cleared by the %s on %s.", c.Cleared.Role, c.Cleared.On.Words())
	}
	return ClearanceStatus{State: Clear, Text: text + fmt.Sprintf(" Holds until %s or a new injury.", until.Add(-1).Words()), Until: until.Add(-1)}
}

// LimitKind is what a limit forbids.
type LimitKind string

// The kinds of limit.
const (
	NoImpact         LimitKind = "no-impact"
	NoLoadedFlexion  LimitKind = "no-loaded-flexion"
	NoLoadedRotation LimitKind = "no-loaded-rotation"
	NoOverhead       LimitKind = "no-overhead"
	NoMaximalEffort  LimitKind = "no-maximal-effort"
	LoadCap          LimitKind = "load-cap"
	NoEndRange       LimitKind = "no-end-range"
	NoneOfPattern    LimitKind = "none-of-this-pattern"
)

// LimitKinds returns every kind in the order they are offered.
func LimitKinds() []LimitKind {
	return []LimitKind{NoImpact, NoLoadedFlexion, NoLoadedRotation, NoOverhead, NoMaximalEffort, LoadCap, NoEndRange, NoneOfPattern}
}

// Words returns the kind as it is read in a sentence.
func (k LimitKind) Words() string { return strings.ReplaceAll(string(k), "-", " ") }

// Limit is something a golfer must not do.
type Limit struct {
	Region string     `json:"region"`
	Side   string     `json:"side,omitempty"` // lead, trail or both
	Kind   LimitKind  `json:"kind"`
	CapKg  float64    `json:"capKg,omitempty"` // for load-cap
	Until  civil.Date `json:"until"`           // no date: until lifted
	SetBy  string     `json:"setBy"`           // doctor, physiotherapist, coach, or pain on a test
	Note   string     `json:"note,omitempty"`
}

// Words returns the limit as a sentence part.
func (l Limit) Words() string {
	s := strings.ReplaceAll(l.Region, "-", " ")
	switch l.Side {
	case "":
	case "both":
		s += ", both sides"
	default:
		s += ", " + l.Side + " side"
	}
	s += ": " + l.Kind.Words()
	if l.Kind == LoadCap {
		s += fmt.Sprintf(" %g kg", l.CapKg)
	}
	s += " (" + l.SetBy
	if !l.Until.IsZero() {
		s += ", until " + l.Until.Words()
	}
	return s + ")"
}
