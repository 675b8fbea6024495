package store

import (
	"time"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

// The rows below mirror the tables; their meaning is in the migrations.

type practiceRow struct {
	ID           string `gorm:"default:gen_random_uuid()"`
	Name         string
	Zone         string
	SpeedUnit    string
	MassUnit     string
	LengthUnit   string
	DistanceUnit string
	// DataVersion is the database's to set.
	DataVersion int64 `gorm:"default:1"`
	Ready       bool
	CreatedAt   time.Time
}

func (practiceRow) TableName() string { return "practices" }

type userRow struct {
	ID           string `gorm:"default:gen_random_uuid()"`
	PracticeID   string
	Email        string
	Name         string
	PasswordHash string
	CreatedAt    time.Time
}

func (userRow) TableName() string { return "users" }

type athleteRow struct {
	ID             string `gorm:"default:gen_random_uuid()"`
	PracticeID     string
	Revision       int
	Name           string
	BirthDate      time.Time
	Sex            string
	PlayingSide    string
	WritingHand    string
	TrainingMonths int
	Advanced       bool
	GoalSpeed      float64
	GoalText       string
	DriverMassG    float64
	AnsweredOn     *time.Time
	AnswersYes     []string `gorm:"serializer:json"`
	AnswersNo      []string `gorm:"serializer:json"`
	ClearedRole    string
	ClearedOn      *time.Time
	ClearedNote    string
	InjuredOn      *time.Time
	Guardian       string
	ConsentOn      *time.Time
	Days           []string `gorm:"serializer:json"`
	SessionsAWeek  int
	Minutes        int
	Kit            []string `gorm:"serializer:json"`
	BarKg          float64
	PlateStepKg    float64
	DumbbellStep   float64
	School         string
	OtherSideShare *int
	StartDate      *time.Time
	Situation      situation `gorm:"serializer:json"`
	ArchivedOn     *time.Time
	ImportID       *string
	FactsVersion   int64 `gorm:"default:1"` // the database's to raise
	UpdatedAt      time.Time
}

func (athleteRow) TableName() string { return "athletes" }

// situation is what else bears on a golfer's plan, and the kit at other places:
// facts that may all be missing.
type situation struct {
	athlete.Situation
	KitAt  map[string][]string `json:"kitAt,omitempty"`
	Plates []float64           `json:"plates,omitempty"`
	// When sessions begin, and where.
	StartsAt string `json:"startsAt,omitempty"`
	Where    string `json:"where,omitempty"`
	// The names the golfer goes by in files.
	AlsoWritten []string `json:"alsoWritten,omitempty"`
	Groups      []string `json:"groups,omitempty"`
	Notes       string   `json:"notes,omitempty"`
}

type limitRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	AthleteID  string
	Position   int
	Region     string
	Side       string
	Kind       string
	CapKg      float64
	Until      *time.Time
	SetBy      string
	Note       string
}

func (limitRow) TableName() string { return "limits" }

type competitionRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	AthleteID  string
	Date       time.Time
	LastDay    *time.Time
	Name       string
	Peak       bool
	Main       bool
}

// fact is the row as the core knows it.
func (r *competitionRow) fact() athlete.Competition {
	return athlete.Competition{Date: day(&r.Date), Last: day(r.LastDay), Name: r.Name, Peak: r.Peak, Main: r.Main}
}

func (competitionRow) TableName() string { return "competitions" }

type screenRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	AthleteID  string
	Revision   int
	Date       time.Time
	Before     string
	LastLesson *time.Time
	ClubChange string
	Intent     string
	Tester     string
	Place      string
	Floor      string
	Set        string
	ImportID   *string
}

func (r *screenRow) circumstances() athlete.Circumstances {
	return athlete.Circumstances{
		Before:     r.Before,
		LastLesson: day(r.LastLesson),
		ClubChange: r.ClubChange,
		Intent:     r.Intent,
		Tester:     r.Tester,
		Place:      r.Place,
		Floor:      r.Floor,
		Set:        r.Set,
	}
}

func (r *screenRow) under(c athlete.Circumstances) {
	r.Before, r.LastLesson, r.ClubChange, r.Intent = c.Before, datePtr(c.LastLesson), c.ClubChange, c.Intent
	r.Tester, r.Place, r.Floor, r.Set = c.Tester, c.Place, c.Floor, c.Set
}

func (screenRow) TableName() string { return "screens" }

type trialRow struct {
	PracticeID string
	ScreenID   string `gorm:"primaryKey"`
	Test       string `gorm:"primaryKey"`
	Side       string `gorm:"primaryKey"`
	Number     int    `gorm:"primaryKey;autoIncrement:false"`
	Status     string
	Value      *float64
	Reps       *int
	Reserve    *float64
	Variant    string
	Pain       int
	Region     string
	Tingling   bool
	Note       string
	Confirmed  bool
	Rev        int
	MassG      float64
	GaveOut    string
	Tester     string
	Device     string
	At         *time.Time
	ImportID   *string
}

func (trialRow) TableName() string { return "trials" }

type programmeRow struct {
	ID           string `gorm:"default:gen_random_uuid()"`
	PracticeID   string
	AthleteID    string
	Revision     int
	Status       string
	Version      int
	School       string
	StartDate    time.Time
	Weeks        int
	Emphasis     string
	Note         string
	IssuedOn     *time.Time
	IssuedBy     *string
	WithdrawnOn  *time.Time
	WithdrawnWhy string
	Recent       []Done `gorm:"serializer:json"`
	CreatedAt    time.Time
}

func (programmeRow) TableName() string { return "programmes" }

// docRow is a programme's document as it stands.
type docRow struct {
	PracticeID  string
	ProgrammeID string `gorm:"primaryKey"`
	Doc         string
	Frozen      *string // of an issued programme: method.Frozen
}

func (docRow) TableName() string { return "programme_docs" }

// stepRow is a change of a draft. Undone is 0 while it stands.
type stepRow struct {
	PracticeID  string
	ProgrammeID string `gorm:"primaryKey"`
	Seq         int    `gorm:"primaryKey;autoIncrement:false"`
	Label       string
	Change      string
	ByUser      *string
	ByName      string
	Undone      int
}

func (stepRow) TableName() string { return "programme_steps" }

func date(d civil.Date) time.Time { return d.Time() }

func datePtr(d civil.Date) *time.Time {
	if d.IsZero() {
		return nil
	}
	t := d.Time()
	return &t
}

func day(t *time.Time) civil.Date {
	if t == nil {
		return civil.Date{}
	}
	return civil.Of(t.UTC())
}

func list(v []string) []string {
	if v == nil {
		return []string{}
	}
	return v
}

func (r *athleteRow) from(f *athlete.File) {
	p, c, t := f.Athlete, f.Clearance, f.Training
	r.Name, r.BirthDate, r.Sex, r.PlayingSide, r.WritingHand = p.Name, date(p.BirthDate), p.Sex, p.PlayingSide, p.WritingHand
	r.TrainingMonths, r.Advanced, r.GoalSpeed, r.GoalText, r.DriverMassG = p.TrainingMonths, p.Advanced, p.GoalSpeed, p.GoalText, p.DriverMassG
	r.AnsweredOn, r.AnswersYes, r.AnswersNo, r.InjuredOn = datePtr(c.AnsweredOn), list(c.Yes), list(c.No), datePtr(c.InjuredOn)
	r.ClearedRole, r.ClearedOn, r.ClearedNote = "", nil, ""
	if c.Cleared != nil {
		r.ClearedRole, r.ClearedOn, r.ClearedNote = c.Cleared.Role, datePtr(c.Cleared.On), c.Cleared.Note
	}
	r.Guardian, r.ConsentOn = "", nil
	if f.Consent != nil {
		r.Guardian, r.ConsentOn = f.Consent.Guardian, datePtr(f.Consent.On)
	}
	r.Days, r.SessionsAWeek, r.Minutes, r.Kit = list(t.Days), t.Sessions, t.Minutes, list(t.Kit)
	r.BarKg, r.PlateStepKg, r.DumbbellStep = t.BarKg, t.PlateStepKg, t.DumbbellStep
	r.Situation = situation{f.Situation, t.KitAt, t.Plates, t.StartsAt, t.Where, p.AlsoWritten, p.Groups, p.Notes}
	r.ArchivedOn = datePtr(f.ArchivedOn)
	r.School, r.OtherSideShare, r.StartDate = f.School, f.OtherSideShare, datePtr(f.StartDate)
}

func (r *athleteRow) file() athlete.File {
	f := athlete.File{
		Format: athlete.Format, StartDate: day(r.StartDate), School: r.School, OtherSideShare: r.OtherSideShare, ArchivedOn: day(r.ArchivedOn),
		Athlete: athlete.Profile{
			Name: r.Name, BirthDate: day(&r.BirthDate), Sex: r.Sex, PlayingSide: r.PlayingSide, WritingHand: r.WritingHand,
			TrainingMonths: r.TrainingMonths, Advanced: r.Advanced, GoalSpeed: r.GoalSpeed, GoalText: r.GoalText, DriverMassG: r.DriverMassG, AlsoWritten: r.Situation.AlsoWritten, Groups: r.Situation.Groups, Notes: r.Situation.Notes,
		},
		Clearance: athlete.Clearance{AnsweredOn: day(r.AnsweredOn), Yes: list(r.AnswersYes), InjuredOn: day(r.InjuredOn)},
		Training: athlete.Training{
			Days:         list(r.Days),
			Sessions:     r.SessionsAWeek,
			Minutes:      r.Minutes,
			Kit:          list(r.Kit),
			BarKg:        r.BarKg,
			PlateStepKg:  r.PlateStepKg,
			DumbbellStep: r.DumbbellStep,
			KitAt:        r.Situation.KitAt,
			Plates:       r.Situation.Plates,
			StartsAt:     r.Situation.StartsAt,
			Where:        r.Situation.Where,
		},
		Situation:    r.Situation.Situation,
		Limits:       []athlete.Limit{},
		Competitions: []athlete.Competition{},
		Screens:      []athlete.Screen{},
	}
	if len(r.AnswersNo) > 0 {
		f.Clearance.No = r.AnswersNo
	}
	if r.ClearedRole != "" {
		f.Clearance.Cleared = &athlete.Cleared{Role: r.ClearedRole, On: day(r.ClearedOn), Note: r.ClearedNote}
	}
	if r.Guardian != "" {
		f.Consent = &athlete.Consent{Guardian: r.Guardian, On: day(r.ConsentOn)}
	}
	return f
}

func trialFrom(screenID string, rev int, t measure.Trial) trialRow {
	r := trialRow{
		ScreenID:  screenID,
		Test:      t.Test,
		Side:      string(t.Side),
		Number:    t.Number,
		Status:    string(t.Status),
		Variant:   t.Variant,
		Pain:      t.Pain,
		Region:    t.Region,
		Tingling:  t.Tingling,
		Note:      t.Note,
		Confirmed: t.Confirmed,
		Rev:       rev,
		MassG:     t.MassG,
		GaveOut:   t.GaveOut,
		Tester:    t.Tester,
		Device:    t.Device,
	}
	if at, err := time.Parse(time.RFC3339, t.At); err == nil {
		at = at.UTC()
		r.At = &at
	}
	if t.Status == measure.Done {
		v := t.Value
		r.Value = &v
		if t.Lift != nil {
			reps, reserve := t.Lift.Reps, t.Lift.Reserve
			r.Reps, r.Reserve = &reps, &reserve
		}
	}
	return r
}

func (r *trialRow) trial() measure.Trial {
	t := measure.Trial{
		Test:      r.Test,
		Side:      measure.Side(r.Side),
		Number:    r.Number,
		Status:    measure.Status(r.Status),
		Variant:   r.Variant,
		Pain:      r.Pain,
		Region:    r.Region,
		Tingling:  r.Tingling,
		Note:      r.Note,
		Confirmed: r.Confirmed,
		MassG:     r.MassG,
		GaveOut:   r.GaveOut,
		Tester:    r.Tester,
		Device:    r.Device,
	}
	if r.At != nil {
		t.At = r.At.UTC().Format(time.RFC3339)
	}
	if r.Value != nil {
		t.Value = *r.Value
		if r.Reps != nil && r.Reserve != nil {
			t.Lift = &measure.Lift{LoadKg: *r.Value, Reps: *r.Reps, Reserve: *r.Reserve}
		}
	}
	return t
}
