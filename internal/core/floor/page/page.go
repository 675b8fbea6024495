// Package page is what the pages of the floor show, as it travels to the browser: today, a
// golfer's week, a session as it is run, a class, load. It only holds; what is in it comes from
// packages floor, class, training and load, put together by the use cases.
package page

import (
	"dunnock/internal/core/civil"
	"dunnock/internal/core/class"
	"dunnock/internal/core/floor"
	"dunnock/internal/core/load"
	"dunnock/internal/core/training"
	"dunnock/internal/core/warmup"
)

// Session is a session as it is run, with what was noted of it so far.
type Session struct {
	AthleteID   string         `json:"athleteId"`
	Name        string         `json:"name"` // of the golfer
	Session     string         `json:"session"`
	Kind        string         `json:"kind"`
	ProgrammeID string         `json:"programmeId"`
	Version     int            `json:"version"`
	Title       string         `json:"title"`
	Letter      string         `json:"letter"`
	Date        civil.Date     `json:"date"`  // it was planned for
	Today       civil.Date     `json:"today"` // the practice's day, as it was asked for
	Budget      int            `json:"budget"`
	Note        string         `json:"note"`
	Sheet       *floor.Sheet   `json:"sheet"`
	WarmUp      []warmup.Item  `json:"warmUp"`
	WarmUpWhy   string         `json:"warmUpWhy"` // why there is none
	Limits      []string       `json:"limits"`    // in force, in words
	Junior      bool           `json:"junior"`
	Stop        string         `json:"stop"` // why nothing is trained: not cleared, a red flag, a version withdrawn
	Easier      []floor.Change `json:"easier"`
	Log         *training.Log  `json:"log"`
}

// Row is a session in a list.
type Row struct {
	Session string     `json:"session"`
	Kind    string     `json:"kind"`
	Title   string     `json:"title"`
	Letter  string     `json:"letter"`
	Date    civil.Date `json:"date"`
	Minutes float64    `json:"minutes"`
	State   string     `json:"state"`  // of its log; "" nothing noted
	Missed  bool       `json:"missed"` // its day went by with nothing noted
	Effort  *int       `json:"effort"`
	Done    string     `json:"done"` // in words
	Items   []string   `json:"items"`
}

// Refusal is an entry that was not taken, and why.
type Refusal struct {
	ID    string `json:"id"`
	Field string `json:"field"`
	Text  string `json:"text"`
	Ask   bool   `json:"ask"` // it may be right: sent again with sure it is taken
}

// TodayRow is one golfer's session of a day.
type TodayRow struct {
	AthleteID string `json:"athleteId"`
	Name      string `json:"name"`
	StartsAt  string `json:"startsAt"` // HH:MM; "": not said
	Row
}

// Note is something a coach should know of a golfer.
type Note struct {
	AthleteID string     `json:"athleteId"`
	Name      string     `json:"name"`
	Date      civil.Date `json:"date"`
	Kind      string     `json:"kind"` // plays, screen, retest, due, dose, class, mark
	Text      string     `json:"text"`
}

// Day is a day of the week with what is on.
type Day struct {
	Date     civil.Date `json:"date"`
	Sessions []TodayRow `json:"sessions"`
	Notes    []Note     `json:"notes"`
}

// ClassRow is a class of the week.
type ClassRow struct {
	ID      string     `json:"id"`
	Date    civil.Date `json:"date"`
	Name    string     `json:"name"`
	Start   string     `json:"start"`
	Golfers int        `json:"golfers"`
}

// Today is the day and its week.
type Today struct {
	Date civil.Date `json:"date"`
	Days []Day      `json:"days"` // from Monday
	// Due is what waits whatever the day: proposals, retests, clearances.
	Due []Note `json:"due"`
	// In is what was logged since yesterday, newest first.
	In      []Note     `json:"in"`
	Classes []ClassRow `json:"classes"`
}

// Week is what a golfer trains this week and lately, and how far it is.
type Week struct {
	Date     civil.Date `json:"date"`
	Sessions []Row      `json:"sessions"` // of this week and the next
	Past     []Row      `json:"past"`     // of the weeks before, newest first
}

// ClassLine is a golfer at a station, as it is read there.
type ClassLine struct {
	Golfer   string   `json:"golfer"`
	Item     string   `json:"item"`
	Exercise string   `json:"exercise"`
	Name     string   `json:"name"` // of the exercise
	DoseText string   `json:"doseText"`
	LoadText string   `json:"loadText"`
	Caution  string   `json:"caution"`
	Cues     []string `json:"cues"`
	Sets     int      `json:"sets"`
}

// ClassStation is a station as it is read.
type ClassStation struct {
	ID    string      `json:"id"`
	Name  string      `json:"name"`
	Half  string      `json:"half"`
	Text  string      `json:"text"`
	Asks  []string    `json:"asks"`
	Lines []ClassLine `json:"lines"`
}

// ClassGolfer is who takes part, and how far they are.
type ClassGolfer struct {
	ID      string        `json:"id"`
	Name    string        `json:"name"`
	Session string        `json:"session"` // of their log
	Log     *training.Log `json:"log"`
}

// Class is a class with how far everybody is.
type Class struct {
	ID       string         `json:"id"`
	Date     civil.Date     `json:"date"`
	Name     string         `json:"name"`
	Start    string         `json:"start"`
	Minutes  int            `json:"minutes"`
	Each     int            `json:"each"`
	Games    bool           `json:"games"`
	Stations []ClassStation `json:"stations"`
	Rounds   []class.Round  `json:"rounds"`
	Notes    []string       `json:"notes"`
	Golfers  []ClassGolfer  `json:"golfers"`
	// BeganAt is since when its clock runs, RFC 3339, "" while it does not; Now is what the
	// server's clock says, so that devices whose own is off show the same.
	BeganAt string `json:"beganAt"`
	Now     string `json:"now"`
}

// Value is one number of a day.
type Value struct {
	Kind  string     `json:"kind"`
	Date  civil.Date `json:"date"`
	Value float64    `json:"value"`
}

// Load is a golfer's load.
type Load struct {
	Days       []load.Day  `json:"days"`
	Weeks      []load.Week `json:"weeks"`
	Recent     []*float64  `json:"recent"` // smoothed, one a day
	Usual      []*float64  `json:"usual"`
	RecentDays int         `json:"recentDays"`
	UsualDays  int         `json:"usualDays"`
	// From is the day of the first log; days before it are not shown.
	From civil.Date `json:"from"`
	// Values are the numbers of days: body mass, sleep, heart rate; oldest first.
	Values []Value `json:"values"`
	// ToCome are the weeks that are planned.
	ToCome []load.Week `json:"toCome"`
}
