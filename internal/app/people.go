package app

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base32"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"

	"dunnock/internal/core/unit"
	"dunnock/internal/store"
)

// MinPassword is the shortest password taken.
const MinPassword = 10

// The rate limit: so many failures of one address and name, or of one address
// whatever the name, in the window, and sign-in waits.
const (
	loginWindow    = 15 * time.Minute
	loginPerName   = 5
	loginPerRemote = 30
)

// hashing bounds how many passwords are hashed at once: each takes 64 MB.
var hashing = make(chan struct{}, 2)

// HashPassword returns the argon2id hash of a password.
func HashPassword(password string) (string, error) {
	hashing <- struct{}{}
	defer func() { <-hashing }()
	return argon2id.CreateHash(password, argon2id.DefaultParams)
}

// nobody's hash is compared when there is no such user, so that a wrong name
// takes as long as a wrong password.
var nobody = func() string {
	h, err := argon2id.CreateHash(rand.Text(), argon2id.DefaultParams)
	if err != nil {
		panic(err)
	}
	return h
}()

// SignIn returns the user for an email address and a password. remote is the
// network address the try comes from.
func (a *App) SignIn(ctx context.Context, email, password, remote string) (*store.User, error) {
	name := "name:" + remote + "|" + strings.ToLower(strings.TrimSpace(email))
	from := "from:" + remote
	now := a.now()
	for key, most := range map[string]int{name: loginPerName, from: loginPerRemote} {
		n, err := a.store.LoginFailures(ctx, key, now.Add(-loginWindow))
		if err != nil {
			return nil, err
		}
		if n >= most {
			return nil, &Error{Kind: TooMany, Text: fmt.Sprintf("Too many failed sign-ins. Wait %d minutes and try again.", int(loginWindow.Minutes())), After: loginWindow}
		}
	}
	u, err := a.store.UserByEmail(ctx, email)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	hash := nobody
	if u != nil {
		hash = u.PasswordHash
	}
	hashing <- struct{}{}
	ok, err := argon2id.ComparePasswordAndHash(password, hash)
	<-hashing
	if err != nil {
		return nil, fmt.Errorf("check the password of %s: %w", email, err)
	}
	if !ok || u == nil {
		for _, key := range []string{name, from} {
			if err := a.store.AddLoginFailure(ctx, key, now, now.Add(-loginWindow)); err != nil {
				return nil, err
			}
		}
		return nil, &Error{Kind: SignedOut, Text: "The email address or the password is wrong."}
	}
	return u, a.store.ClearLoginFailures(ctx, name)
}

// User returns the user of a session.
func (a *App) User(ctx context.Context, id string) (*store.User, error) {
	u, err := a.store.UserByID(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, &Error{Kind: SignedOut, Text: "Sign in first."}
	}
	return u, err
}

// SetUnits changes the units a practice sees and returns the user as they now
// are.
func (a *App) SetUnits(ctx context.Context, u *store.User, p unit.Preference) (*store.User, error) {
	if err := a.store.SetUnits(ctx, u.PracticeID, p); err != nil {
		return nil, err
	}
	return a.store.UserByID(ctx, u.ID)
}

// SetupNeeded reports whether nobody can sign in yet.
func (a *App) SetupNeeded(ctx context.Context) (bool, error) {
	has, err := a.store.HasUsers(ctx)
	return !has, err
}

// NewSetupCode makes the one-time code of the first run; only its hash is kept.
func (a *App) NewSetupCode(ctx context.Context) (string, error) {
	b := make([]byte, 10)
	_, _ = rand.Read(b)
	code := base32.StdEncoding.EncodeToString(b)
	code = code[:4] + "-" + code[4:8] + "-" + code[8:12] + "-" + code[12:]
	return code, a.store.SetSetupCode(ctx, hashCode(code))
}

func hashCode(code string) string {
	h := sha256.Sum256([]byte(strings.ToUpper(strings.TrimSpace(code))))
	return hex.EncodeToString(h[:])
}

// Setup is what the first run asks for.
type Setup struct{ Code, Practice, Zone, Name, Email, Password string }

// FirstRun makes the first practice and its coach, if the code is right and
// nobody was faster.
func (a *App) FirstRun(ctx context.Context, s Setup, remote string) (*store.User, error) {
	key := "setup:" + remote
	now := a.now()
	if n, err := a.store.LoginFailures(ctx, key, now.Add(-loginWindow)); err != nil {
		return nil, err
	} else if n >= loginPerName {
		return nil, &Error{Kind: TooMany, Text: "Too many wrong codes. Wait 15 minutes, or start Dunnock again for a new code.", After: loginWindow}
	}
	want, err := a.store.SetupCode(ctx)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	if want == "" || subtle.ConstantTimeCompare([]byte(want), []byte(hashCode(s.Code))) != 1 {
		if err := a.store.AddLoginFailure(ctx, key, now, now.Add(-loginWindow)); err != nil {
			return nil, err
		}
		return nil, invalid("code", "This is not the code in the terminal Dunnock was started in.")
	}
	u, err := a.AddUser(ctx, s, true)
	if err != nil {
		return nil, err
	}
	return u, a.store.SetSetupCode(ctx, "")
}

// AddUser makes a practice with a coach. With first it does so only when there
// is nobody yet.
func (a *App) AddUser(ctx context.Context, s Setup, first bool) (*store.User, error) {
	if _, err := time.LoadLocation(s.Zone); err != nil || s.Zone == "" {
		return nil, invalid("zone", "%q is not a time zone: use one such as Europe/London or UTC", s.Zone)
	}
	if len([]rune(s.Password)) < MinPassword {
		return nil, invalid("password", "A password has at least %d characters.", MinPassword)
	}
	if !strings.Contains(s.Email, "@") {
		return nil, invalid("email", "%q is not an email address", s.Email)
	}
	hash, err := HashPassword(s.Password)
	if err != nil {
		return nil, err
	}
	u, err := a.store.CreatePractice(ctx, store.User{Email: s.Email, Name: s.Name, PasswordHash: hash, Practice: s.Practice, Zone: s.Zone}, first)
	if errors.Is(err, store.ErrExists) {
		if first {
			return nil, &Error{Kind: Refused, Text: "The first run is done already: sign in."}
		}
		return nil, &Error{Kind: Conflict, Text: "There is a user with this email address already."}
	}
	return u, err
}

// DemoUser returns the demo's coach, made with their practice if not there.
func (a *App) DemoUser(ctx context.Context, s Setup) (*store.User, error) {
	u, err := a.store.UserByEmail(ctx, s.Email)
	if errors.Is(err, store.ErrNotFound) {
		return a.AddUser(ctx, s, false)
	}
	return u, err
}
