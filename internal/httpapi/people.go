package httpapi

import (
	"context"
	"net/http"
	"time"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/practice"
	"dunnock/internal/httpapi/gen"
)

// GetHealth answers whether the database does.
func (s *Server) GetHealth(ctx context.Context, _ gen.GetHealthRequestObject) (gen.GetHealthResponseObject, error) {
	if err := s.app.Healthy(ctx); err != nil {
		return gen.GetHealthdefaultApplicationProblemPlusJSONResponse{StatusCode: 503, Body: problem(503, "The database does not answer.", nil)}, nil
	}
	return gen.GetHealth200JSONResponse{Status: "ok", Version: s.version}, nil
}

// GetSetup answers whether the first run is still to be done.
func (s *Server) GetSetup(ctx context.Context, _ gen.GetSetupRequestObject) (gen.GetSetupResponseObject, error) {
	needed, err := s.app.SetupNeeded(ctx)
	return gen.GetSetup200JSONResponse{Needed: needed, Demo: optional(s.demo)}, err
}

func (s *Server) session(who *app.Actor) gen.Session {
	return gen.Session{Id: who.UserID, Zone: who.Zone, Name: who.Name, Email: who.Email, Practice: who.Practice, Units: who.Units, Today: s.app.Today(who.Zone)}
}

// signIn ties the browser to a user with a new session token, and leaves it what
// makes it known the next time.
func (s *Server) signIn(ctx context.Context, who *app.Actor, browser string) error {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	s.sessions.Put(ctx, "user", who.UserID)
	if set, ok := ctx.Value(cookieKey{}).(func(*http.Cookie)); ok {
		set(
			&http.Cookie{
				Name:     knownCookie,
				Value:    browser,
				Path:     Base + "/session",
				MaxAge:   int((180 * 24 * time.Hour).Seconds()),
				HttpOnly: true,
				Secure:   s.secure,
				SameSite: http.SameSiteLaxMode,
			},
		)
	}
	return nil
}

func visitor(ctx context.Context) app.Visitor {
	b, _ := ctx.Value(browserKey{}).(string)
	return app.Visitor{Remote: remoteAddress(ctx), Browser: b}
}

func remoteAddress(ctx context.Context) string {
	r, _ := ctx.Value(remoteKey{}).(string)
	return r
}

// PostSetup makes the first practice and coach, and signs the coach in.
func (s *Server) PostSetup(ctx context.Context, r gen.PostSetupRequestObject) (gen.PostSetupResponseObject, error) {
	b := r.Body
	who, browser, err := s.app.FirstRun(
		ctx,
		app.Setup{Code: b.Code, Practice: b.Practice, Zone: b.Zone, Name: b.Name, Email: b.Email, Password: b.Password},
		visitor(ctx),
	)
	if err != nil {
		return nil, err
	}
	return gen.PostSetup200JSONResponse(s.session(who)), s.signIn(ctx, who, browser)
}

// PostSession signs in.
func (s *Server) PostSession(ctx context.Context, r gen.PostSessionRequestObject) (gen.PostSessionResponseObject, error) {
	who, browser, err := s.app.SignIn(ctx, r.Body.Email, r.Body.Password, visitor(ctx))
	if err != nil {
		return nil, err
	}
	return gen.PostSession200JSONResponse(s.session(who)), s.signIn(ctx, who, browser)
}

// GetSession answers who is signed in.
func (s *Server) GetSession(ctx context.Context, _ gen.GetSessionRequestObject) (gen.GetSessionResponseObject, error) {
	return gen.GetSession200JSONResponse(s.session(actor(ctx))), nil
}

// DeleteSession signs out.
func (s *Server) DeleteSession(ctx context.Context, _ gen.DeleteSessionRequestObject) (gen.DeleteSessionResponseObject, error) {
	return gen.DeleteSession204Response{}, s.sessions.Destroy(ctx)
}

// GetPractice answers what the practice says of itself.
func (s *Server) GetPractice(ctx context.Context, _ gen.GetPracticeRequestObject) (gen.GetPracticeResponseObject, error) {
	p, err := s.practice(ctx, actor(ctx))
	return gen.GetPractice200JSONResponse(p), err
}

// PutPractice changes what the practice says of itself.
func (s *Server) PutPractice(ctx context.Context, r gen.PutPracticeRequestObject) (gen.PutPracticeResponseObject, error) {
	b := r.Body
	who, err := s.app.SetUpPractice(ctx, actor(ctx), b.Revision, practice.Setup{
		Name: b.Name, Zone: b.Zone, Units: b.Units, Places: b.Places, Begins: b.Begins, BarKg: b.BarKg, Plates: b.Plates, Set: b.Set,
	})
	if err != nil {
		return nil, err
	}
	p, err := s.practice(ctx, who)
	return gen.PutPractice200JSONResponse(p), err
}

func (s *Server) practice(ctx context.Context, who *app.Actor) (gen.Practice, error) {
	p, err := s.app.PracticeSetup(ctx, who)
	if err != nil {
		return gen.Practice{}, err
	}
	return gen.Practice{
		Revision: p.Revision, Name: p.Name, Zone: p.Zone, Units: p.Units, Places: p.Places, Begins: p.Begins, BarKg: p.BarKg, Plates: p.Plates, Set: p.Set,
	}, nil
}

// GetMeta answers what the forms are built from.
func (s *Server) GetMeta(ctx context.Context, _ gen.GetMetaRequestObject) (gen.GetMetaResponseObject, error) {
	b, err := s.app.Battery(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	p, err := s.app.PracticeSetup(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	m := gen.GetMeta200JSONResponse{
		Tests: b.Tests, Sets: b.Sets, Set: p.Set, Places: p.Places, Questions: athlete.Questions(), Regions: measure.Regions(), Joints: athlete.Joints(), LimitKinds: athlete.LimitKinds(),
		Kit: s.app.Method().Exercises.Kit(), Exercises: len(s.app.Method().Exercises.All()), PainStops: measure.PainStop,
	}
	for _, x := range library.SlotOrder {
		m.Slots = append(m.Slots, gen.SlotInfo{Id: x, Name: x.Words()})
	}
	for _, x := range plan.PieceKits() {
		kit := gen.PieceKit{Kind: gen.PieceKitKind(x.Kind), Name: x.Name, Text: x.Text, Usual: x.Usual}
		for _, id := range x.Exercises {
			e, _ := s.app.Method().Exercises.Find(id)
			kit.Exercises = append(kit.Exercises, gen.PieceExercise{Id: id, Name: e.Name, Unit: string(e.DoseUnit)})
		}
		m.Pieces = append(m.Pieces, kit)
	}
	schools, err := s.app.Schools(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	for _, x := range schools {
		m.Schools = append(m.Schools, gen.SchoolInfo{Id: x.ID, Name: x.Name, Logic: x.Logic})
	}
	return m, nil
}
