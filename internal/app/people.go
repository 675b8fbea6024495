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
	"sync"
	"time"

	"github.com/alexedwards/argon2id"

	"dunnock/internal/core/athlete"
	text "dunnock/internal/core/words"
	"dunnock/internal/store"
)

// MinPassword is the shortest password taken.
const MinPassword = 10

// The limits of sign-in. Tries are counted before a password is looked at, by
// name and address, and for a browser that signed in before by name and browser:
// no stranger uses those up. Nothing is counted by address alone, so that one
// visitor of a club's network cannot lock the others out.
const (
	loginWindow   = 15 * time.Minute
	loginPerName  = 5
	browserKept   = 180 * 24 * time.Hour
	queueLength   = 16 // strangers waiting for their password to be looked at
	queueFromOne  = 6  // of them, from one address
	maxPassword   = 200
	busyTryAgain  = 3 * time.Second
	busyTextLogin = "Many are signing in at this moment. Wait a few seconds and try again."
)

// door lets passwords be hashed one at a time: each takes 64 MB. Strangers wait in
// a queue of their own, of bounded length.
type door struct {
	strangers chan struct{}
	known     chan struct{}
	mu        sync.Mutex
	waiting   map[string]int
	all       int
}

func newDoor() *door {
	return &door{strangers: make(chan struct{}, 1), known: make(chan struct{}, 1), waiting: map[string]int{}}
}

// enter waits for a turn, no longer than the request, and returns how to leave.
func (d *door) enter(ctx context.Context, remote string, known bool) (leave func(), err error) {
	if known {
		return turn(ctx, d.known)
	}
	d.mu.Lock()
	if d.all >= queueLength || d.waiting[remote] >= queueFromOne {
		d.mu.Unlock()
		return nil, &Error{Kind: Unavailable, Text: busyTextLogin, After: busyTryAgain}
	}
	d.all++
	d.waiting[remote]++
	d.mu.Unlock()
	out := func() {
		d.mu.Lock()
		defer d.mu.Unlock()
		d.all--
		if d.waiting[remote]--; d.waiting[remote] == 0 {
			delete(d.waiting, remote)
		}
	}
	done, err := turn(ctx, d.strangers)
	if err != nil {
		out()
		return nil, err
	}
	return func() { done(); out() }, nil
}

// hashPassword returns the argon2id hash of a password.
func (a *App) hashPassword(ctx context.Context, password string) (string, error) {
	leave, err := a.door.enter(ctx, "", false)
	if err != nil {
		return "", err
	}
	defer leave()
	return argon2id.CreateHash(password, argon2id.DefaultParams)
}

// nobody's hash is compared when there is no such user, so that a wrong name
// takes as long as a wrong password.
var nobody = sync.OnceValue(func() string {
	h, err := argon2id.CreateHash(rand.Text(), argon2id.DefaultParams)
	if err != nil {
		panic(err)
	}
	return h
})

// Visitor is where a try to sign in comes from: the network address, and what a
// browser keeps that signed in before, or "".
type Visitor struct{ Remote, Browser string }

// SignIn returns who an email address and a password belong to, and what the
// browser is to keep so that it is known the next time.
func (a *App) SignIn(ctx context.Context, email, password string, v Visitor) (who *Actor, browser string, err error) {
	name := strings.ToLower(strings.TrimSpace(email))
	key, known := "name:"+v.Remote+"|"+name, false
	if v.Browser != "" {
		if known, err = a.store.KnowsBrowser(ctx, hashText(v.Browser), name); err != nil {
			return nil, "", words(err, "user")
		}
		if known {
			key = "browser:" + hashText(v.Browser) + "|" + name
		}
	}
	leave, err := a.door.enter(ctx, v.Remote, known)
	if err != nil {
		return nil, "", err
	}
	defer leave()
	now := a.now()
	allowed, err := a.store.AddTry(ctx, key, loginPerName, now, now.Add(-loginWindow))
	if err != nil {
		return nil, "", words(err, "user")
	}
	if !allowed {
		return nil, "", &Error{
			Kind:  TooMany,
			Text:  fmt.Sprintf("Too many failed sign-ins. Wait %d minutes and try again.", int(loginWindow.Minutes())),
			After: loginWindow,
		}
	}
	u, err := a.store.UserByEmail(ctx, email)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, "", words(err, "user")
	}
	hash := nobody()
	if u != nil {
		hash = u.PasswordHash
	}
	ok, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil {
		return nil, "", fmt.Errorf("check the password of %s: %w", email, err)
	}
	if !ok || u == nil {
		return nil, "", &Error{Kind: SignedOut, Text: "The email address or the password is wrong."}
	}
	if err := a.store.ForgetTry(ctx, key); err != nil {
		return nil, "", words(err, "user")
	}
	who = actorOf(u)
	browser, err = a.knowBrowser(ctx, who, v.Browser, known)
	return who, browser, err
}

// knowBrowser notes a browser that signed in. It keeps what it has, if that is
// this user's.
func (a *App) knowBrowser(ctx context.Context, who *Actor, token string, known bool) (string, error) {
	if !known {
		token = rand.Text() + rand.Text()
	}
	now := a.now()
	return token, words(a.store.KnowBrowser(ctx, hashText(token), who.UserID, now, now.Add(-browserKept)), "user")
}

func hashText(s string) string {
	h := sha256.Sum256([]byte(s))
	return hex.EncodeToString(h[:])
}

// Actor returns who the user of a session acts as.
func (a *App) Actor(ctx context.Context, userID string) (*Actor, error) {
	u, err := a.store.UserByID(ctx, userID)
	if errors.Is(err, store.ErrNotFound) {
		return nil, &Error{Kind: SignedOut, Text: "Sign in first."}
	}
	if err != nil {
		return nil, words(err, "user")
	}
	return actorOf(u), nil
}

// Actors returns one actor for each practice: what the commands of whoever runs
// the server act as.
func (a *App) Actors(ctx context.Context) ([]*Actor, error) {
	users, err := a.store.Users(ctx)
	if err != nil {
		return nil, words(err, "practice")
	}
	out := make([]*Actor, len(users))
	for i := range users {
		out[i] = actorOf(&users[i])
	}
	return out, nil
}

// SetupNeeded reports whether nobody can sign in yet.
func (a *App) SetupNeeded(ctx context.Context) (bool, error) {
	has, err := a.store.HasUsers(ctx)
	return !has, err
}

// NewSetupCode makes the one-time code of the first run; only its hash is kept.
// Wrong tries of the code before it are forgotten.
func (a *App) NewSetupCode(ctx context.Context) (string, error) {
	if err := a.store.ForgetTries(ctx, "setup:", a.now().Add(-loginWindow)); err != nil {
		return "", err
	}
	b := make([]byte, 10)
	_, _ = rand.Read(b)
	code := base32.StdEncoding.EncodeToString(b)
	code = code[:4] + "-" + code[4:8] + "-" + code[8:12] + "-" + code[12:]
	return code, a.store.SetSetupCode(ctx, hashCode(code))
}

func hashCode(code string) string {
	return hashText(strings.ToUpper(strings.TrimSpace(code)))
}

// Setup is what the first run asks for.
type Setup struct {
	Code, Practice, Zone, Name, Email, Password string
	// Loading makes a practice that is not ready yet: see Loading.
	Loading bool
}

// FirstRun makes the first practice and its coach, if the code is right and
// nobody was faster.
func (a *App) FirstRun(ctx context.Context, s Setup, v Visitor) (who *Actor, browser string, err error) {
	key := "setup:" + v.Remote
	now := a.now()
	allowed, err := a.store.AddTry(ctx, key, loginPerName, now, now.Add(-loginWindow))
	if err != nil {
		return nil, "", words(err, "code")
	}
	if !allowed {
		return nil, "", &Error{Kind: TooMany, Text: "Too many wrong codes. Wait 15 minutes, or start Dunnock again for a new code.", After: loginWindow}
	}
	want, err := a.store.SetupCode(ctx)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, "", words(err, "code")
	}
	if want == "" || subtle.ConstantTimeCompare([]byte(want), []byte(hashCode(s.Code))) != 1 {
		return nil, "", invalid("code", "This is not the code in the terminal Dunnock was started in.")
	}
	// The right code is no try, whatever else has to be typed anew.
	if err := a.store.ForgetTry(ctx, key); err != nil {
		return nil, "", words(err, "code")
	}
	if who, err = a.AddUser(ctx, s, true); err != nil {
		return nil, "", err
	}
	if err := a.store.SetSetupCode(ctx, ""); err != nil {
		return nil, "", words(err, "code")
	}
	browser, err = a.knowBrowser(ctx, who, "", false)
	return who, browser, err
}

// check names what is wrong with a setup, in sentences.
func (s Setup) check() error {
	var fields []Field
	bad := func(field, format string, args ...any) {
		fields = append(fields, Field{Name: field, Text: fmt.Sprintf(format, args...)})
	}
	if problem := text.Name(s.Practice, athlete.MaxName); problem != "" {
		bad("practice", "The practice's name %s.", problem)
	}
	if problem := text.Name(s.Name, athlete.MaxName); problem != "" {
		bad("name", "The coach's name %s.", problem)
	}
	switch at := strings.Index(s.Email, "@"); {
	case at < 1 || at == len(s.Email)-1 || strings.ContainsAny(s.Email, " \t") || text.Line(s.Email, 254) != "":
		bad("email", "%q is not an email address.", clip(s.Email, 60))
	}
	if text := wrongZone(s.Zone); text != "" {
		bad("zone", "%s", text)
	}
	switch n := len([]rune(s.Password)); {
	case n < MinPassword:
		bad("password", "A password has at least %d characters.", MinPassword)
	case n > maxPassword || text.Line(s.Password, maxPassword) != "":
		bad("password", "A password has at most %d characters, on one line.", maxPassword)
	}
	if len(fields) == 0 {
		return nil
	}
	return &Error{Kind: Invalid, Text: fields[0].Text, Fields: fields}
}

// AddUser makes a practice with a coach. With first it does so only when there
// is nobody yet.
func (a *App) AddUser(ctx context.Context, s Setup, first bool) (*Actor, error) {
	if err := s.check(); err != nil {
		return nil, err
	}
	hash, err := a.hashPassword(ctx, s.Password)
	if err != nil {
		return nil, err
	}
	u, err := a.store.CreatePractice(ctx, store.User{Email: s.Email, Name: s.Name, PasswordHash: hash, Practice: s.Practice, Zone: s.Zone, Ready: !s.Loading}, first)
	if errors.Is(err, store.ErrExists) {
		if first {
			return nil, &Error{Kind: Refused, Text: "The first run is done already: sign in."}
		}
		return nil, &Error{Kind: Conflict, Text: "There is a user with this email address already."}
	}
	if err != nil {
		return nil, words(err, "user")
	}
	return actorOf(u), nil
}

// DemoUser returns the demo's coach, made with their practice if not there.
func (a *App) DemoUser(ctx context.Context, s Setup) (*Actor, error) {
	u, err := a.store.UserByEmail(ctx, s.Email)
	if errors.Is(err, store.ErrNotFound) {
		return a.AddUser(ctx, s, false)
	}
	if err != nil {
		return nil, words(err, "user")
	}
	return actorOf(u), nil
}

// Loading notes that a practice is being loaded with what it begins with, and
// with done that it is whole.
func (a *App) Loading(ctx context.Context, who *Actor, done bool) error {
	return words(a.store.SetReady(ctx, who.PracticeID, done), "practice")
}
