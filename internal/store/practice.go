package store

import (
	"context"
	"errors"

	"dunnock/internal/core/measure"
	"dunnock/internal/core/practice"
	"dunnock/internal/core/unit"
)

// Setup is what a practice says of itself, with the revision it has; 0 when it said
// nothing of what it has at hand yet.
type Setup struct {
	Revision int
	practice.Setup
}

type setupRow struct {
	PracticeID string `gorm:"primaryKey"`
	Revision   int
	Places     []practice.Place `gorm:"serializer:json"`
	Begins     string
	BarKg      float64
	Plates     []float64 `gorm:"serializer:json"`
	Battery    string
}

func (setupRow) TableName() string { return "practice_setups" }

func (r *practiceRow) units() unit.Preference {
	return unit.Preference{Speed: unit.Unit(r.SpeedUnit), Mass: unit.Unit(r.MassUnit), Length: unit.Unit(r.LengthUnit), Distance: unit.Unit(r.DistanceUnit)}
}

// Setup returns what the practice says of itself.
func (p *Practice) Setup(ctx context.Context) (*Setup, error) {
	var row setupRow
	switch err := translate(p.db(ctx).Take(&row).Error); {
	case errors.Is(err, ErrNotFound):
		row = setupRow{Places: practice.Shipped(), Plates: []float64{}, Battery: measure.Sets()[0].ID}
	case err != nil:
		return nil, err
	}
	var at practiceRow
	if err := translate(p.above(ctx).Where("id = ?", p.id).Take(&at).Error); err != nil {
		return nil, err
	}
	return &Setup{Revision: row.Revision, Setup: practice.Setup{
		Name: at.Name, Zone: at.Zone, Units: at.units(),
		Places: row.Places, Begins: row.Begins, BarKg: row.BarKg, Plates: row.Plates, Set: row.Battery,
	}}, nil
}

// SaveSetup replaces what the practice says of itself, if it still has the given
// revision; ErrConflict otherwise.
func (p *Practice) SaveSetup(ctx context.Context, revision int, s *practice.Setup) error {
	_, err := p.Together(ctx, func(p *Practice) error {
		row := setupRow{
			Revision: revision + 1, Places: append([]practice.Place{}, s.Places...), Begins: s.Begins, BarKg: s.BarKg, Plates: append([]float64{}, s.Plates...), Battery: s.Set,
		}
		if revision == 0 {
			err := translate(p.db(ctx).Create(&row).Error)
			if errors.Is(err, ErrExists) {
				return ErrConflict
			}
			if err != nil {
				return err
			}
		} else {
			res := p.db(ctx).Model(&setupRow{}).Where("revision = ?", revision).Select("*").Omit("PracticeID").Updates(&row)
			if res.Error == nil && res.RowsAffected == 0 {
				return ErrConflict
			}
			if res.Error != nil {
				return translate(res.Error)
			}
		}
		u := s.Units
		return translate(p.above(ctx).Model(&practiceRow{}).Where("id = ?", p.id).Updates(map[string]any{
			"name": s.Name, "zone": s.Zone, "speed_unit": string(u.Speed), "mass_unit": string(u.Mass), "length_unit": string(u.Length), "distance_unit": string(u.Distance),
		}).Error)
	})
	return err
}
