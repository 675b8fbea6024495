package store

import (
	"context"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dunnock/internal/core/unit"
)

// User is someone who may sign in, with the practice they belong to.
type User struct {
	ID           string
	PracticeID   string
	Email        string
	Name         string
	PasswordHash string
	Practice     string
	Zone         string // IANA zone of the practice
	Units        unit.Preference
	DataVersion  int64 // of the practice's data
	Ready        bool  // false while the practice is being loaded with what it begins with
}

// Users and practices stand above the practices' own tables: these calls, and
// only these, run as the system.

func (s *Store) sys(ctx context.Context) *gorm.DB { return s.db.WithContext(system(ctx)) }

// HasUsers reports whether anybody can sign in at all.
func (s *Store) HasUsers(ctx context.Context) (bool, error) {
	var n int64
	err := s.sys(ctx).Model(&userRow{}).Limit(1).Count(&n).Error
	return n > 0, err
}

// CreatePractice makes a practice with its first user and returns the user.
// With onlyFirst it returns ErrExists when there is a user already.
func (s *Store) CreatePractice(ctx context.Context, u User, onlyFirst bool) (*User, error) {
	err := s.sys(ctx).Transaction(func(tx *gorm.DB) error {
		if onlyFirst {
			// Two first runs at once: the second waits here and then finds a user.
			if err := tx.Exec("LOCK TABLE users IN EXCLUSIVE MODE").Error; err != nil {
				return err
			}
			var n int64
			if err := tx.Model(&userRow{}).Count(&n).Error; err != nil {
				return err
			}
			if n > 0 {
				return ErrExists
			}
		}
		p := practiceRow{Name: u.Practice, Zone: u.Zone, Ready: u.Ready,
			SpeedUnit: string(unit.Default.Speed), MassUnit: string(unit.Default.Mass), LengthUnit: string(unit.Default.Length), DistanceUnit: string(unit.Default.Distance)}
		if err := tx.Create(&p).Error; err != nil {
			return err
		}
		row := userRow{PracticeID: p.ID, Email: strings.ToLower(u.Email), Name: u.Name, PasswordHash: u.PasswordHash}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		u.ID, u.PracticeID, u.Email, u.Units = row.ID, p.ID, row.Email, unit.Default
		return nil
	})
	return &u, translate(err)
}

// UserByEmail finds a user for sign-in.
func (s *Store) UserByEmail(ctx context.Context, email string) (*User, error) {
	return s.user(ctx, "users.email = ?", strings.ToLower(strings.TrimSpace(email)))
}

// UserByID finds the user of a session.
func (s *Store) UserByID(ctx context.Context, id string) (*User, error) {
	return s.user(ctx, "users.id = ?", id)
}

func (s *Store) user(ctx context.Context, where string, arg any) (*User, error) {
	var u struct {
		ID, PracticeID, Email, Name, PasswordHash string

		Practice     string
		Zone         string
		SpeedUnit    string
		MassUnit     string
		LengthUnit   string
		DistanceUnit string

		DataVersion int64
		Ready       bool
	}
	err := s.sys(ctx).Model(&userRow{}).Select("users.*, practices.name AS practice, practices.zone, practices.speed_unit, practices.mass_unit, practices.length_unit, practices.distance_unit, practices.data_version, practices.ready").
		Joins("JOIN practices ON practices.id = users.practice_id").Where(where, arg).Take(&u).Error
	if err != nil {
		return nil, translate(err)
	}
	return &User{
		ID:           u.ID,
		PracticeID:   u.PracticeID,
		Email:        u.Email,
		Name:         u.Name,
		PasswordHash: u.PasswordHash,
		Practice:     u.Practice,
		Zone:         u.Zone,
		Units:        unit.Preference{Speed: unit.Unit(u.SpeedUnit), Mass: unit.Unit(u.MassUnit), Length: unit.Unit(u.LengthUnit), Distance: unit.Unit(u.DistanceUnit)},
		DataVersion:  u.DataVersion,
		Ready:        u.Ready,
	}, nil
}

// SetReady notes that a practice is being loaded, or that it is done.
func (s *Store) SetReady(ctx context.Context, practiceID string, ready bool) error {
	return translate(s.sys(ctx).Model(&practiceRow{}).Where("id = ?", practiceID).Update("ready", ready).Error)
}

// Practices returns the ids of all practices, oldest first.
func (s *Store) Practices(ctx context.Context) ([]string, error) {
	var ids []string
	err := s.sys(ctx).Model(&practiceRow{}).Order("created_at").Pluck("id", &ids).Error
	return ids, err
}

type setupCodeRow struct {
	ID       int
	CodeHash string
}

func (setupCodeRow) TableName() string { return "setup_codes" }

// SetSetupCode keeps the hash of the first run's one-time code; "" removes it.
func (s *Store) SetSetupCode(ctx context.Context, hash string) error {
	if hash == "" {
		return s.sys(ctx).Where("id = 1").Delete(&setupCodeRow{}).Error
	}
	return s.sys(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&setupCodeRow{ID: 1, CodeHash: hash}).Error
}

// SetupCode returns the hash of the one-time code; ErrNotFound when there is
// none.
func (s *Store) SetupCode(ctx context.Context) (string, error) {
	var row setupCodeRow
	err := s.sys(ctx).Where("id = 1").Take(&row).Error
	return row.CodeHash, translate(err)
}

type loginFailureRow struct {
	ID  int64
	Key string
	At  time.Time
}

func (loginFailureRow) TableName() string { return "login_failures" }

// AddTry counts a try of a key before it is made, and returns false where there
// were most of them since a moment already: then it is not counted. Tries at once
// are counted one by one.
func (s *Store) AddTry(ctx context.Context, key string, most int, at, since time.Time) (allowed bool, err error) {
	err = s.sys(ctx).Transaction(func(tx *gorm.DB) error {
		allowed = false
		if err := tx.Exec("SELECT pg_advisory_xact_lock(?, hashtext(?))", lockSignIn, key).Error; err != nil {
			return err
		}
		var n int64
		if err := tx.Model(&loginFailureRow{}).Where("key = ? AND at > ?", key, since.UTC()).Count(&n).Error; err != nil || int(n) >= most {
			return err
		}
		allowed = true
		return tx.Create(&loginFailureRow{Key: key, At: at.UTC()}).Error
	})
	return allowed, translate(err)
}

// ForgetTries forgets the tries of keys that begin so, and those before old.
func (s *Store) ForgetTries(ctx context.Context, prefix string, old time.Time) error {
	return translate(s.sys(ctx).Where("at < ? OR starts_with(key, ?)", old.UTC(), prefix).Delete(&loginFailureRow{}).Error)
}

// ForgetTry forgets the tries of one key.
func (s *Store) ForgetTry(ctx context.Context, key string) error {
	return translate(s.sys(ctx).Where("key = ?", key).Delete(&loginFailureRow{}).Error)
}

type knownBrowserRow struct {
	TokenHash string `gorm:"primaryKey"`
	UserID    string
	SeenAt    time.Time
}

func (knownBrowserRow) TableName() string { return "known_browsers" }

// KnowBrowser notes that a user signed in with the browser that holds a token,
// and forgets browsers not seen since old.
func (s *Store) KnowBrowser(ctx context.Context, tokenHash, userID string, at, old time.Time) error {
	if err := s.sys(ctx).Where("seen_at < ?", old.UTC()).Delete(&knownBrowserRow{}).Error; err != nil {
		return translate(err)
	}
	return translate(s.sys(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&knownBrowserRow{tokenHash, userID, at.UTC()}).Error)
}

// KnowsBrowser reports whether the user of an email address signed in before
// with the browser that holds a token.
func (s *Store) KnowsBrowser(ctx context.Context, tokenHash, email string) (bool, error) {
	var n int64
	err := s.sys(ctx).
		Model(&knownBrowserRow{}).
		Where("token_hash = ? AND user_id IN (SELECT id FROM users WHERE email = ?)", tokenHash, strings.ToLower(strings.TrimSpace(email))).
		Count(&n).
		Error
	return n > 0, translate(err)
}

// Users returns one user of every practice, oldest practice first.
func (s *Store) Users(ctx context.Context) ([]User, error) {
	practices, err := s.Practices(ctx)
	if err != nil {
		return nil, err
	}
	var out []User
	for _, id := range practices {
		u, err := s.user(ctx, "users.practice_id = ?", id)
		if err != nil {
			return nil, err
		}
		out = append(out, *u)
	}
	return out, nil
}
