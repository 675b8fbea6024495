package store

import (
	"context"
	"encoding/json"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/civil"
)

// Recording is a stored recording of ground force, without its file. Mapping,
// Settings, Result and Cells are JSON the use case writes and reads.
type Recording struct {
	ID        string
	Revision  int
	AthleteID string
	Date      civil.Date
	Kind      string // jump or swing
	Name      string
	Side      string
	Club      string
	Pending   bool // captured, not kept yet
	Source    string
	RawBytes  int
	Hash      string
	Mapping   json.RawMessage
	Settings  json.RawMessage
	Result    json.RawMessage
	Version   string
	Cells     json.RawMessage
	CreatedAt time.Time
	CreatedBy string
}

type recordingRow struct {
	ID         string `gorm:"default:gen_random_uuid()"`
	PracticeID string
	Revision   int `gorm:"default:1"`
	AthleteID  string
	Date       time.Time
	Kind       string
	Name       string
	Side       string
	Club       string
	State      string
	Source     string
	Raw        []byte
	RawBytes   int
	Hash       string
	Mapping    string
	Settings   string
	Result     string
	Version    string
	Cells      string
	CreatedAt  time.Time
	CreatedBy  string
}

func (recordingRow) TableName() string { return "recordings" }

const (
	statePending = "pending"
	stateKept    = "kept"
)

func (r *recordingRow) get() Recording {
	return Recording{
		ID: r.ID, Revision: r.Revision, AthleteID: r.AthleteID, Date: day(&r.Date), Kind: r.Kind, Name: r.Name, Side: r.Side, Club: r.Club, Pending: r.State == statePending,
		Source: r.Source, RawBytes: r.RawBytes, Hash: r.Hash, Mapping: json.RawMessage(r.Mapping), Settings: json.RawMessage(r.Settings),
		Result: json.RawMessage(r.Result), Version: r.Version, Cells: json.RawMessage(r.Cells), CreatedAt: r.CreatedAt, CreatedBy: r.CreatedBy,
	}
}

// withoutRaw are the columns of a recording that is not asked for its file.
var withoutRaw = []string{
	"id",
	"revision",
	"athlete_id",
	"date",
	"kind",
	"name",
	"side",
	"club",
	"state",
	"source",
	"raw_bytes",
	"hash",
	"mapping",
	"settings",
	"result",
	"version",
	"cells",
	"created_at",
	"created_by",
}

// pendingKept is how long a captured trial waits to be kept or discarded.
const pendingKept = 24 * time.Hour

// CreateRecording stores a recording with its compressed file. ErrExists when the
// golfer has this very file already.
func (p *Practice) CreateRecording(ctx context.Context, r Recording, raw []byte) (string, error) {
	row := recordingRow{
		AthleteID: r.AthleteID, Date: date(r.Date), Kind: r.Kind, Name: r.Name, Side: r.Side, Club: r.Club, State: stateKept, Source: r.Source,
		Raw: raw, RawBytes: r.RawBytes, Hash: r.Hash, Mapping: string(r.Mapping), Settings: string(r.Settings), Result: string(r.Result), Version: r.Version, Cells: "[]",
		CreatedAt: r.CreatedAt.UTC(), CreatedBy: r.CreatedBy,
	}
	if r.Pending {
		row.State = statePending
	}
	err := p.tx(ctx, func(tx *gorm.DB) error {
		if err := lockGolfer(tx, r.AthleteID); err != nil {
			return err
		}
		return tx.Create(&row).Error
	})
	return row.ID, err
}

// Recording returns one recording without its file.
func (p *Practice) Recording(ctx context.Context, id string) (*Recording, error) {
	var row recordingRow
	if err := p.db(ctx).Select(withoutRaw).Where("id = ?", id).Take(&row).Error; err != nil {
		return nil, translate(err)
	}
	r := row.get()
	return &r, nil
}

// Recordings returns a golfer's kept recordings, newest first, without files.
func (p *Practice) Recordings(ctx context.Context, athleteID string) ([]Recording, error) {
	var rows []recordingRow
	if err := p.db(ctx).Select(withoutRaw).Where("athlete_id = ? AND state = ?", athleteID, stateKept).Order("date DESC, created_at DESC, name DESC").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Recording, len(rows))
	for i := range rows {
		out[i] = rows[i].get()
	}
	return out, nil
}

// RecordingCount says how many recordings of a golfer are kept.
func (p *Practice) RecordingCount(ctx context.Context, athleteID string) (int, error) {
	var n int64
	err := p.db(ctx).Model(&recordingRow{}).Where("athlete_id = ? AND state = ?", athleteID, stateKept).Count(&n).Error
	return int(n), err
}

// RecordingRaw returns a recording's compressed file.
func (p *Practice) RecordingRaw(ctx context.Context, id string) ([]byte, error) {
	var row recordingRow
	err := translate(p.db(ctx).Select("raw").Where("id = ?", id).Take(&row).Error)
	return row.Raw, err
}

// UpdateRecording writes what may change about a recording: state, club,
// settings, result, version and cells, if it still has its revision; ErrConflict
// otherwise. The recording has the new revision afterwards.
func (p *Practice) UpdateRecording(ctx context.Context, r *Recording) error {
	state := stateKept
	if r.Pending {
		state = statePending
	}
	return p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Model(&recordingRow{}).Where("id = ? AND revision = ?", r.ID, r.Revision).Updates(map[string]any{
			"revision": r.Revision + 1, "state": state, "club": r.Club, "settings": string(r.Settings), "result": string(r.Result), "version": r.Version, "cells": string(r.Cells),
		})
		if res.Error == nil && res.RowsAffected == 0 {
			return missingOrChanged[recordingRow](tx, r.ID)
		}
		if res.Error == nil {
			r.Revision++
		}
		return res.Error
	})
}

// DeleteRecording removes a recording and its file.
func (p *Practice) DeleteRecording(ctx context.Context, id string) error {
	return p.tx(ctx, func(tx *gorm.DB) error {
		res := tx.Where("id = ?", id).Delete(&recordingRow{})
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNotFound
		}
		return res.Error
	})
}

type forceSettingsRow struct {
	PracticeID string `gorm:"primaryKey"`
	Windows    string
}

func (forceSettingsRow) TableName() string { return "force_settings" }

// ForceWindows returns the practice's own limits by key; none is no error.
func (p *Practice) ForceWindows(ctx context.Context) (map[string][2]float64, error) {
	var rows []forceSettingsRow
	if err := p.db(ctx).Limit(1).Find(&rows).Error; err != nil {
		return nil, err
	}
	out := map[string][2]float64{}
	if len(rows) == 0 {
		return out, nil
	}
	return out, json.Unmarshal([]byte(rows[0].Windows), &out)
}

// SaveForceWindows replaces the practice's own limits.
func (p *Practice) SaveForceWindows(ctx context.Context, limits map[string][2]float64) error {
	b, err := json.Marshal(limits)
	if err != nil {
		return err
	}
	return p.tx(ctx, func(tx *gorm.DB) error {
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "practice_id"}}, DoUpdates: clause.AssignmentColumns([]string{"windows"})}).
			Create(&forceSettingsRow{Windows: string(b)}).
			Error
	})
}
