package rulebook

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"regexp"
	"strconv"
	"strings"
)

// Limits are the numbers of the rules, by rule. They stand in rules.json beside
// the sentence that says them; the generator keeps to them, the checks judge by
// them, and the sentence is made from them. Every one is above zero.
type Limits struct {
	Junior        JuniorLimits        `rule:"JUNIOR"`
	Growth        GrowthLimits        `rule:"GROWTH"`
	Senior        SeniorLimits        `rule:"SENIOR"`
	BothSides     BothSidesLimits     `rule:"BOTH-SIDES"`
	Special       SpecialLimits       `rule:"SPECIAL"`
	Wave          WaveLimits          `rule:"WAVE"`
	LoadStep      LoadStepLimits      `rule:"LOAD-STEP"`
	Reserve       ReserveLimits       `rule:"RESERVE"`
	ExplosiveReps ExplosiveRepsLimits `rule:"EXPLOSIVE-REPS"`
	Contacts      ContactsLimits      `rule:"CONTACTS"`
	Swings        SwingsLimits        `rule:"SWINGS"`
	Implement     ImplementLimits     `rule:"IMPLEMENT"`
	Spacing       SpacingLimits       `rule:"SPACING"`
	PushPull      PushPullLimits      `rule:"PUSH-PULL"`
	GripEve       GripEveLimits       `rule:"GRIP-EVE"`
	Range         RangeLimits         `rule:"RANGE"`
	SpeedAlways   SpeedAlwaysLimits   `rule:"SPEED-ALWAYS"`
	Taper         TaperLimits         `rule:"TAPER"`
	InSeason      InSeasonLimits      `rule:"IN-SEASON"`
	Novel         NovelLimits         `rule:"NOVEL"`
	Coverage      CoverageLimits      `rule:"COVERAGE"`
}

// JuniorLimits hold under an age in years; the load is in % of the predicted
// single, the rest a session.
type JuniorLimits struct {
	Age         int     `json:"age"`
	Reserve     int     `json:"reserve"`
	LoadPercent float64 `json:"loadPercent"`
	Swings      int     `json:"swings"`
	Throws      int     `json:"throws"`
	Contacts    int     `json:"contacts"`
}

// GrowthLimits hold near the growth spurt.
type GrowthLimits struct {
	Contacts    int     `json:"contacts"`
	LoadPercent float64 `json:"loadPercent"`
}

// SeniorLimits hold from an age in years on.
type SeniorLimits struct {
	Age      int `json:"age"`
	Contacts int `json:"contacts"`
	Swings   int `json:"swings"`
	// Reserve is the least that is left whatever the level; OverheadDegrees is the arm
	// raise an overhead throw needs.
	Reserve         int `json:"reserve" since:"2026.4" before:"1"`
	OverheadDegrees int `json:"overheadDegrees" since:"2026.4" before:"1"`
}

// BothSidesLimits is how far the other side's share of the swings may be off, in
// points of %, and how a novice comes to that share, in % and points a week.
type BothSidesLimits struct {
	Points      int `json:"points"`
	NoviceFirst int `json:"noviceFirst"`
	NoviceStep  int `json:"noviceStep"`
}

// SpecialLimits is the most look-alikes of the week's working sets, in %.
type SpecialLimits struct {
	SharePercent float64 `json:"sharePercent"`
}

// WaveLimits is how a line's weekly volume rises and falls, in %.
type WaveLimits struct {
	RisePercent      float64 `json:"risePercent"`
	QuickRisePercent float64 `json:"quickRisePercent"` // swings, throws and jumps
	FallLeastPercent float64 `json:"fallLeastPercent"`
	FallMostPercent  float64 `json:"fallMostPercent"`
}

// Limit returns the most a line's weekly volume may be after last, given
// the volume of one set (both sides) summed over the sessions it stands in.
func (w WaveLimits) Limit(last, oneSet int, quick bool) float64 {
	percent := w.RisePercent
	if quick {
		percent = w.QuickRisePercent
	}
	return math.Max(float64(last)*(1+percent/100), float64(last+oneSet))
}

// LoadStepLimits is the largest rise of a load in a week, in %.
type LoadStepLimits struct {
	Percent float64 `json:"percent"`
	// LeverPercent is that of a club held out, in its moment on the wrist.
	LeverPercent float64 `json:"leverPercent" since:"2026.7" before:"20"`
}

// Most is the largest load the week after a load.
func (l LoadStepLimits) Most(before float64) float64 { return before * (1 + l.Percent/100) }

// MostLever is the largest moment of a club held out the week after a moment.
func (l LoadStepLimits) MostLever(before float64) float64 { return before * (1 + l.LeverPercent/100) }

// ReserveLimits are repetitions left in reserve.
type ReserveLimits struct {
	Novice       int `json:"novice"`
	Intermediate int `json:"intermediate"`
	Advanced     int `json:"advanced"`
	New          int `json:"new"`      // an exercise in its first week
	PlayDays     int `json:"playDays"` // before an event to peak for it is one more
	// ThroughDays is the same before an event that is played through.
	ThroughDays int `json:"throughDays" since:"2026.6" before:"5"`
}

// ExplosiveRepsLimits is the most repetitions of a set of maximal throws or jumps.
type ExplosiveRepsLimits struct {
	Most int `json:"most"`
}

// ContactsLimits are landings a session.
type ContactsLimits struct {
	Novice       int `json:"novice"`
	Intermediate int `json:"intermediate"`
	Advanced     int `json:"advanced"`
}

// SwingsLimits are fast swings: a set, a session, and days a week.
type SwingsLimits struct {
	SetLeast int `json:"setLeast"`
	SetMost  int `json:"setMost"`
	// RoundMost is the most of a round of drill swings.
	RoundMost int `json:"roundMost" since:"2026.7" before:"6"`
	Novice    int `json:"novice"`
	Others    int `json:"others"`
	Days      int `json:"days"`
}

// ImplementLimits is how much lighter and heavier than the driver, in %.
type ImplementLimits struct {
	LighterPercent int `json:"lighterPercent"`
	HeavierPercent int `json:"heavierPercent"`
}

// SpacingLimits are hours between hard lower-body days, and the landings from
// which a day is one.
type SpacingLimits struct {
	Hours    int `json:"hours"`
	Landings int `json:"landings"`
}

// PushPullLimits is the weekly ratio of push to pull sets.
type PushPullLimits struct {
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// GripEveLimits is for how many days before play the hands are spared.
type GripEveLimits struct {
	Days int `json:"days"`
}

// RangeLimits is the least doses a week of a joint that is short.
type RangeLimits struct {
	Doses int `json:"doses"`
}

// SpeedAlwaysLimits is the least pieces of fast work a week.
type SpeedAlwaysLimits struct {
	Items int `json:"items"`
}

// TaperLimits are by how much, in %, the volume of the two weeks before an event to
// peak for falls: of its first days, of the last NearDays, and of both together; how
// many of the sessions stay, in %; and how many hours before it legs are loaded last.
type TaperLimits struct {
	Days            int     `json:"days"`
	NearDays        int     `json:"nearDays"`
	FarLeast        float64 `json:"farLeast"`
	FarMost         float64 `json:"farMost"`
	NearLeast       float64 `json:"nearLeast"`
	NearMost        float64 `json:"nearMost"`
	LeastPercent    float64 `json:"leastPercent"`
	MostPercent     float64 `json:"mostPercent"`
	SessionsPercent float64 `json:"sessionsPercent"`
	LegHours        int     `json:"legHours"`
}

// InSeasonLimits are on how many days a week strength is trained in season, and at
// what share of its volume outside it, in %.
type InSeasonLimits struct {
	LeastDays    int     `json:"leastDays"`
	MostDays     int     `json:"mostDays"`
	LeastPercent float64 `json:"leastPercent"`
	MostPercent  float64 `json:"mostPercent"`
}

// NovelLimits are how many exercises may be new in a session, and after how many weeks
// one is new again.
type NovelLimits struct {
	Most  int `json:"most"`
	Weeks int `json:"weeks"`
}

// CoverageLimits is how old the one test a finding rests on may be, in days.
type CoverageLimits struct {
	Days int `json:"days"`
}

// take reads the numbers of one rule of a book of a version. A number that came
// later than the book (since) has the value it was as good as before.
func (l *Limits) take(version, rule string, params json.RawMessage) error {
	v := reflect.ValueOf(l).Elem()
	for i := range v.NumField() {
		if v.Type().Field(i).Tag.Get("rule") != rule {
			continue
		}
		if len(params) == 0 {
			return fmt.Errorf("rule %s needs its numbers in params", rule)
		}
		dec := json.NewDecoder(bytes.NewReader(params))
		dec.DisallowUnknownFields()
		if err := dec.Decode(v.Field(i).Addr().Interface()); err != nil {
			return fmt.Errorf("rule %s: %w", rule, err)
		}
		for j := range v.Field(i).NumField() {
			field := v.Field(i).Type().Field(j)
			if since := field.Tag.Get("since"); since > version && v.Field(i).Field(j).IsZero() {
				before, err := strconv.ParseInt(field.Tag.Get("before"), 10, 64)
				if err != nil {
					return fmt.Errorf("rule %s: %s: %w", rule, field.Name, err)
				}
				if n := v.Field(i).Field(j); n.CanInt() {
					n.SetInt(before)
				} else {
					n.SetFloat(float64(before))
				}
			}
			if n := v.Field(i).Field(j); n.CanInt() && n.Int() <= 0 || n.CanFloat() && !(n.Float() > 0) {
				return fmt.Errorf("rule %s: %s is missing or not above 0", rule, field.Tag.Get("json"))
			}
		}
		return nil
	}
	if len(params) > 0 {
		return fmt.Errorf("rule %s has numbers nothing reads", rule)
	}
	return nil
}

// wholes reports whether a number of a rule is a whole one.
func wholes(rule, name string) bool {
	t := reflect.TypeFor[Limits]()
	for i := range t.NumField() {
		if t.Field(i).Tag.Get("rule") != rule {
			continue
		}
		for j := range t.Field(i).Type.NumField() {
			if f := t.Field(i).Type.Field(j); f.Tag.Get("json") == name {
				return f.Type.Kind() == reflect.Int
			}
		}
	}
	return false
}

var placeholder = regexp.MustCompile(`\{(\w+)\}`)

// fill writes the numbers of a rule into its sentence. Each stands there once at
// least: what is judged by is said.
func fill(sentence string, params json.RawMessage) (string, error) {
	var values map[string]float64
	if len(params) > 0 {
		if err := json.Unmarshal(params, &values); err != nil {
			return "", err
		}
	}
	var missing []string
	said := map[string]bool{}
	out := placeholder.ReplaceAllStringFunc(sentence, func(m string) string {
		name := strings.Trim(m, "{}")
		v, ok := values[name]
		if !ok {
			missing = append(missing, name)
		}
		said[name] = true
		return strconv.FormatFloat(v, 'f', -1, 64)
	})
	for name := range values {
		if !said[name] {
			return "", fmt.Errorf("the sentence does not say %s", name)
		}
	}
	if len(missing) > 0 {
		return "", fmt.Errorf("the sentence speaks of %s, which is not among the numbers", strings.Join(missing, ", "))
	}
	return out, nil
}
