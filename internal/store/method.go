package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// RuleNumbers are numbers of rules, by rule and name.
type RuleNumbers map[string]map[string]float64

// MethodChanges is what a practice changed of what it works by; revision 0: nothing yet.
type MethodChanges struct {
	Revision int
	Schools  []json.RawMessage
	Rules    RuleNumbers
}

// RuleChange is an entry of the journal of rules. After is empty where the numbers were put
// back.
type RuleChange struct {
	At            time.Time
	By            string
	Rule          string
	Before, After map[string]float64
	Reason        string
}

type methodRow struct {
	PracticeID string            `gorm:"primaryKey"`
	Revision   int               //
	Schools    []json.RawMessage `gorm:"serializer:json"`
	Rules      RuleNumbers       `gorm:"serializer:json"`
}

func (methodRow) TableName() string { return "method_changes" }

type ruleJournalRow struct {
	ID         int64 `gorm:"->"`
	PracticeID string
	At         time.Time `gorm:"default:now()"`
	ByName     string
	Rule       string
	Before     map[string]float64 `gorm:"serializer:json"`
	After      map[string]float64 `gorm:"serializer:json"`
	Reason     string
}

func (ruleJournalRow) TableName() string { return "rule_journal" }

// Method returns what the practice changed of what it works by.
func (p *Practice) Method(ctx context.Context) (*MethodChanges, error) {
	var row methodRow
	err := translate(p.db(ctx).Take(&row).Error)
	if errors.Is(err, ErrNotFound) {
		return &MethodChanges{}, nil
	}
	if err != nil {
		return nil, err
	}
	return &MethodChanges{row.Revision, row.Schools, row.Rules}, nil
}

// ChangeMethod changes what the practice works by, one change after another: change is
// given it as it is and changes it in place; its error is returned and changes nothing.
// Entries go into the journal of rules with it.
func (p *Practice) ChangeMethod(ctx context.Context, change func(*MethodChanges) ([]RuleChange, error)) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		empty := methodRow{Schools: []json.RawMessage{}, Rules: RuleNumbers{}}
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&empty).Error; err != nil {
			return err
		}
		var row methodRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&row).Error; err != nil {
			return err
		}
		m := MethodChanges{row.Revision, row.Schools, row.Rules}
		if m.Rules == nil {
			m.Rules = RuleNumbers{}
		}
		journal, err := change(&m)
		if err != nil {
			return err
		}
		next := methodRow{Revision: row.Revision + 1, Schools: m.Schools, Rules: m.Rules}
		if next.Schools == nil {
			next.Schools = []json.RawMessage{}
		}
		if err := tx.Model(&methodRow{}).Where("revision = ?", m.Revision).Select("*").Omit("PracticeID").Updates(&next).Error; err != nil {
			return err
		}
		for _, j := range journal {
			entry := ruleJournalRow{ByName: j.By, Rule: j.Rule, Before: orEmpty(j.Before), After: orEmpty(j.After), Reason: j.Reason}
			if err := tx.Create(&entry).Error; err != nil {
				return err
			}
		}
		return nil
	})
}

func orEmpty(m map[string]float64) map[string]float64 {
	if m == nil {
		return map[string]float64{}
	}
	return m
}

// mostJournal is how many entries of the journal are shown.
const mostJournal = 200

// RuleJournal returns who changed rules, the last first.
func (p *Practice) RuleJournal(ctx context.Context) ([]RuleChange, error) {
	var rows []ruleJournalRow
	if err := p.db(ctx).Order("id DESC").Limit(mostJournal).Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := make([]RuleChange, len(rows))
	for i, r := range rows {
		out[i] = RuleChange{r.At, r.ByName, r.Rule, r.Before, r.After, r.Reason}
	}
	return out, nil
}

// SchoolUsers returns who trains under each school, by its id, by name.
func (p *Practice) SchoolUsers(ctx context.Context) (map[string][]string, error) {
	var rows []athleteRow
	if err := p.db(ctx).Select("id", "name", "school").Order("name, id").Find(&rows).Error; err != nil {
		return nil, translate(err)
	}
	out := map[string][]string{}
	for _, r := range rows {
		out[r.School] = append(out[r.School], r.Name)
	}
	return out, nil
}

// NewestProgrammes returns every golfer's newest programme, by id: the draft, else the last
// version.
func (p *Practice) NewestProgrammes(ctx context.Context) ([]string, error) {
	var ids []string
	err := p.db(ctx).Model(&programmeRow{}).Where("status <> ?", Withdrawn).Select("DISTINCT ON (athlete_id) id").Order("athlete_id, status, version DESC").Pluck("id", &ids).Error
	return ids, translate(err)
}
