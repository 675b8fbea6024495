package app

import (
	"slices"

	"dunnock/internal/core/unit"
	"dunnock/internal/store"
)

// Role is what somebody may do in a practice. A role may do whatever the roles
// before it may.
type Role string

// The roles. Everybody who has an account is a coach today.
const (
	Anybody Role = "anybody" // not signed in
	Coach   Role = "coach"
)

var roles = []Role{Anybody, Coach}

// AtLeast reports whether the role may do what the given one may. A role nobody
// knows may do nothing.
func (r Role) AtLeast(least Role) bool {
	have, need := slices.Index(roles, r), slices.Index(roles, least)
	return need >= 0 && have >= need
}

// Actor is who acts: a user, in a role, within a practice. Every use case takes
// one; it is read anew for every request and does not change.
type Actor struct {
	UserID string
	Email  string
	Name   string
	Role   Role

	PracticeID  string
	Practice    string
	Zone        string // IANA zone of the practice
	Units       unit.Preference
	DataVersion int64 // of the practice's data
	Ready       bool  // false while the practice is being loaded with what it begins with
}

// actorOf is a user acting in the practice they belong to.
func actorOf(u *store.User) *Actor {
	return &Actor{
		UserID: u.ID, Email: u.Email, Name: u.Name, Role: Coach,
		PracticeID: u.PracticeID, Practice: u.Practice, Zone: u.Zone, Units: u.Units, DataVersion: u.DataVersion, Ready: u.Ready,
	}
}
