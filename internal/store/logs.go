package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/training"
)

// The kinds of session that are logged.
const (
	LogPlanned = "planned"
	LogHome    = "home"
	LogClass   = "class"
	LogOther   = "other"
)

// SessionLog is a session as it was done. Entries are filled by the calls that say so.
type SessionLog struct {
	ID          string
	AthleteID   string
	Session     string
	Kind        string
	ProgrammeID string // the version it is done under; "": none
	ClassID     string
	Title       string
	Log         *training.Log
	Entries     []training.Entry
	UpdatedAt   time.Time
}

type logRow struct {
	ID          string `gorm:"default:gen_random_uuid()"`
	PracticeID  string
	AthleteID   string
	SessionID   string
	Kind        string
	ProgrammeID *string
	ClassID     *string
	Title       string
	Date        *time.Time
	State       string
	Effort      *int
	Minutes     *int
	Doc         string
	UpdatedAt   time.Time
}

func (logRow) TableName() string { return "session_logs" }

type entryRow struct {
	PracticeID string
	LogID      string `gorm:"primaryKey"`
	ID         string `gorm:"primaryKey"`
	What       string
	Item       string
	Number     int
	Value      *string
	Clock      int64
	Seen       string
	At         time.Time
	Device     string
	ByUser     *string
	ByName     string
	ReceivedAt time.Time `gorm:"default:now()"`
}

func (entryRow) TableName() string { return "log_entries" }

func (r *logRow) get() (SessionLog, error) {
	out := r.head()
	return out, json.Unmarshal([]byte(r.Doc), out.Log)
}

// head is the log with nothing of what was done.
func (r *logRow) head() SessionLog {
	out := SessionLog{ID: r.ID, AthleteID: r.AthleteID, Session: r.SessionID, Kind: r.Kind, Title: r.Title, Log: training.Fold(nil), UpdatedAt: r.UpdatedAt}
	if r.ProgrammeID != nil {
		out.ProgrammeID = *r.ProgrammeID
	}
	if r.ClassID != nil {
		out.ClassID = *r.ClassID
	}
	return out
}

func (r *entryRow) entry() training.Entry {
	e := training.Entry{
		ID: r.ID, What: training.What(r.What), Item: programme.ID(r.Item), Number: r.Number, Clock: r.Clock, Seen: r.Seen,
		At: r.At.UTC().Format(time.RFC3339Nano), Device: r.Device, By: r.ByName, Value: json.RawMessage("null"),
	}
	if r.Value != nil {
		e.Value = json.RawMessage(*r.Value)
	}
	return e
}

// SaveEntries adds entries to a golfer's log of a session, which is made where there is none,
// and returns it with all its entries. Those it has already are passed over: what is sent
// twice is kept once. Entries are given checked.
func (p *Practice) SaveEntries(ctx context.Context, of SessionLog, entries []training.Entry, by Editor) (*SessionLog, error) {
	var out *SessionLog
	err := p.tx(ctx, func(tx *gorm.DB) error {
		if err := lockGolfer(tx, of.AthleteID); err != nil {
			return err
		}
		var row logRow
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("athlete_id = ? AND session_id = ?", of.AthleteID, of.Session).Take(&row).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			row = logRow{AthleteID: of.AthleteID, SessionID: of.Session, Kind: of.Kind, Title: of.Title, ProgrammeID: textPtr(of.ProgrammeID), ClassID: textPtr(of.ClassID), Doc: "{}", UpdatedAt: time.Now().UTC()}
			err = tx.Create(&row).Error
		}
		if err != nil {
			return err
		}
		rows := make([]entryRow, len(entries))
		for i, e := range entries {
			at, err := time.Parse(time.RFC3339, e.At)
			if err != nil {
				return err
			}
			rows[i] = entryRow{LogID: row.ID, ID: e.ID, What: string(e.What), Item: string(e.Item), Number: e.Number, Clock: e.Clock, Seen: e.Seen, At: at.UTC(), Device: e.Device, ByName: by.Name, ByUser: textPtr(by.ID)}
			if v := string(e.Value); v != "" && v != "null" {
				rows[i].Value = &v
			}
		}
		if len(rows) > 0 {
			if err := tx.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&rows, 200).Error; err != nil {
				return err
			}
		}
		all, err := entriesOf(tx, row.ID)
		if err != nil {
			return err
		}
		folded := training.Fold(all)
		doc, err := json.Marshal(folded)
		if err != nil {
			return err
		}
		next := logRow{Date: datePtr(folded.Date), State: string(folded.State), Effort: folded.How.Effort, Minutes: folded.How.Minutes, Doc: string(doc), UpdatedAt: time.Now().UTC()}
		if err := tx.Model(&logRow{}).Where("id = ?", row.ID).Select("Date", "State", "Effort", "Minutes", "Doc", "UpdatedAt").Updates(&next).Error; err != nil {
			return err
		}
		row.Doc, row.UpdatedAt = next.Doc, next.UpdatedAt
		got, err := row.get()
		got.Entries, out = all, &got
		return err
	})
	return out, translate(err)
}

func entriesOf(tx *gorm.DB, logID string) ([]training.Entry, error) {
	var rows []entryRow
	if err := tx.Where("log_id = ?", logID).Order("clock, at, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]training.Entry, len(rows))
	for i := range rows {
		out[i] = rows[i].entry()
	}
	return out, nil
}

// SessionLog returns a golfer's log of a session with its entries; ErrNotFound where nothing
// was noted.
func (p *Practice) SessionLog(ctx context.Context, athleteID, session string) (out *SessionLog, err error) {
	err = p.Snapshot(ctx, func(p *Practice) error {
		var row logRow
		if err := p.db(ctx).Where("athlete_id = ? AND session_id = ?", athleteID, session).Take(&row).Error; err != nil {
			return translate(err)
		}
		got, err := row.get()
		if err != nil {
			return err
		}
		got.Entries, err = entriesOf(p.db(ctx), row.ID)
		out = &got
		return translate(err)
	})
	return out, err
}

// SessionLogs returns a golfer's logs of a stretch of days, both ends included, oldest first,
// and those that have no day yet.
func (p *Practice) SessionLogs(ctx context.Context, athleteID string, from, to civil.Date) ([]SessionLog, error) {
	return p.logs(p.db(ctx).Where("athlete_id = ? AND (date BETWEEN ? AND ? OR date IS NULL)", athleteID, date(from), date(to)))
}

// LogsBetween returns the practice's logs of a stretch of days, both ends included, oldest
// first.
func (p *Practice) LogsBetween(ctx context.Context, from, to civil.Date) ([]SessionLog, error) {
	return p.logs(p.db(ctx).Where("date BETWEEN ? AND ?", date(from), date(to)))
}

// LogHeadsBetween returns the same logs in short: of what was done there are the state, the day,
// effort and minutes alone.
func (p *Practice) LogHeadsBetween(ctx context.Context, from, to civil.Date) ([]SessionLog, error) {
	var rows []logRow
	q := p.db(ctx).Omit("doc").Where("date BETWEEN ? AND ?", date(from), date(to))
	if err := q.Order("date, updated_at").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]SessionLog, len(rows))
	for i := range rows {
		r := &rows[i]
		out[i] = r.head()
		out[i].Log.State, out[i].Log.Date = training.State(r.State), day(r.Date)
		out[i].Log.How = training.How{Effort: r.Effort, Minutes: r.Minutes}
	}
	return out, nil
}

// ClassLogs returns the logs of a class.
func (p *Practice) ClassLogs(ctx context.Context, classID string) ([]SessionLog, error) {
	return p.logs(p.db(ctx).Where("class_id = ?", classID))
}

func textPtr(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

func (p *Practice) logs(q *gorm.DB) ([]SessionLog, error) {
	var rows []logRow
	if err := q.Order("date, updated_at").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]SessionLog, len(rows))
	for i := range rows {
		var err error
		if out[i], err = rows[i].get(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// CountLogs says how many sessions a golfer trained, and the day of the newest.
func (p *Practice) CountLogs(ctx context.Context, athleteID string) (n int, last civil.Date, err error) {
	var rows []logRow
	err = p.db(ctx).Select("date").Where("athlete_id = ? AND state IN ('running', 'done', 'stopped')", athleteID).Order("date DESC NULLS LAST").Find(&rows).Error
	if len(rows) > 0 {
		last = day(rows[0].Date)
	}
	return len(rows), last, translate(err)
}

// DoseAnswer is what was said to a proposal of the next dose.
type DoseAnswer struct {
	Proposal    string
	Rule        string
	Text        string
	Accepted    bool
	ByItself    bool
	ProgrammeID string
	At          time.Time
	By          string
}

type doseAnswerRow struct {
	PracticeID  string
	AthleteID   string `gorm:"primaryKey"`
	Proposal    string `gorm:"primaryKey"`
	Rule        string
	Text        string
	Answer      string
	ByItself    bool
	ProgrammeID *string
	At          time.Time
	ByName      string
}

func (doseAnswerRow) TableName() string { return "dose_answers" }

const accepted, declined = "accepted", "declined"

// AnswerDose keeps what was said to proposals; what was said before gives way.
func (p *Practice) AnswerDose(ctx context.Context, athleteID string, answers []DoseAnswer) error {
	if len(answers) == 0 {
		return nil
	}
	rows := make([]doseAnswerRow, len(answers))
	for i, a := range answers {
		rows[i] = doseAnswerRow{AthleteID: athleteID, Proposal: a.Proposal, Rule: a.Rule, Text: a.Text, Answer: declined, ByItself: a.ByItself, ProgrammeID: textPtr(a.ProgrammeID), At: a.At.UTC(), ByName: a.By}
		if a.Accepted {
			rows[i].Answer = accepted
		}
	}
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		if err := lockGolfer(tx, athleteID); err != nil {
			return err
		}
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&rows).Error
	}))
}

// DoseAnswers returns what was said to a golfer's proposals, newest first.
func (p *Practice) DoseAnswers(ctx context.Context, athleteID string) ([]DoseAnswer, error) {
	var rows []doseAnswerRow
	if err := p.db(ctx).Where("athlete_id = ?", athleteID).Order("at DESC, proposal").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]DoseAnswer, len(rows))
	for i, r := range rows {
		out[i] = DoseAnswer{Proposal: r.Proposal, Rule: r.Rule, Text: r.Text, Accepted: r.Answer == accepted, ByItself: r.ByItself, At: r.At, By: r.ByName}
		if r.ProgrammeID != nil {
			out[i].ProgrammeID = *r.ProgrammeID
		}
	}
	return out, nil
}

// TakeBackAnswer forgets what was said to a proposal: it is asked again.
func (p *Practice) TakeBackAnswer(ctx context.Context, athleteID, proposal string) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Where("athlete_id = ? AND proposal = ?", athleteID, proposal).Delete(&doseAnswerRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	}))
}

// FloorSettings is how a practice works on the floor.
type FloorSettings struct {
	SmallSteps bool // small rises pass by themselves
	RecentDays int
	UsualDays  int
}

type floorSettingsRow struct {
	PracticeID string `gorm:"primaryKey"`
	SmallSteps bool
	RecentDays int
	UsualDays  int
}

func (floorSettingsRow) TableName() string { return "floor_settings" }

// FloorSettings returns the practice's; what it never set is as we ship it.
func (p *Practice) FloorSettings(ctx context.Context) (FloorSettings, error) {
	row := []floorSettingsRow{}
	err := p.db(ctx).Limit(1).Find(&row).Error
	if err != nil || len(row) == 0 {
		return FloorSettings{RecentDays: 7, UsualDays: 28}, translate(err)
	}
	return FloorSettings{row[0].SmallSteps, row[0].RecentDays, row[0].UsualDays}, nil
}

// SaveFloorSettings keeps how the practice works on the floor.
func (p *Practice) SaveFloorSettings(ctx context.Context, s FloorSettings) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		row := floorSettingsRow{SmallSteps: s.SmallSteps, RecentDays: s.RecentDays, UsualDays: s.UsualDays}
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "practice_id"}}, DoUpdates: clause.AssignmentColumns([]string{"small_steps", "recent_days", "usual_days"})}).Create(&row).Error
	}))
}

// DoseWaiting is how many proposals wait for an answer, and the first of them.
type DoseWaiting struct {
	AthleteID string
	Count     int
	Text      string
}

type doseWaitingRow struct {
	PracticeID string
	AthleteID  string `gorm:"primaryKey"`
	Count      int
	Text       string
}

func (doseWaitingRow) TableName() string { return "dose_waiting" }

// SaveDoseWaiting keeps how many proposals of a golfer wait.
func (p *Practice) SaveDoseWaiting(ctx context.Context, w DoseWaiting) error {
	return translate(p.tx(ctx, func(tx *gorm.DB) error {
		row := doseWaitingRow{AthleteID: w.AthleteID, Count: w.Count, Text: w.Text}
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "athlete_id"}}, DoUpdates: clause.AssignmentColumns([]string{"count", "text"})}).Create(&row).Error
	}))
}

// DosesWaiting returns the golfers of whom proposals wait.
func (p *Practice) DosesWaiting(ctx context.Context) ([]DoseWaiting, error) {
	var rows []doseWaitingRow
	if err := p.db(ctx).Where("count > 0").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]DoseWaiting, len(rows))
	for i, r := range rows {
		out[i] = DoseWaiting{r.AthleteID, r.Count, r.Text}
	}
	return out, nil
}

// ClassMark says how many logs a class has and when the newest was noted in.
func (p *Practice) ClassMark(ctx context.Context, classID string) (n int, at time.Time, err error) {
	var rows []logRow
	err = p.db(ctx).Select("updated_at").Where("class_id = ?", classID).Order("updated_at DESC").Find(&rows).Error
	if len(rows) > 0 {
		at = rows[0].UpdatedAt
	}
	return len(rows), at, translate(err)
}
