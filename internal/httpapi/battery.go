package httpapi

import (
	"context"

	"dunnock/internal/app"
	"dunnock/internal/httpapi/gen"
)

// GetVersion answers the version of the practice's data; it comes with the
// session's user.
func (s *Server) GetVersion(ctx context.Context, _ gen.GetVersionRequestObject) (gen.GetVersionResponseObject, error) {
	return gen.GetVersion200JSONResponse{Version: actor(ctx).DataVersion}, nil
}

func battery(v *app.BatteryView) gen.Battery {
	return gen.Battery{Revision: v.Revision, Tests: v.Tests, Sets: v.Sets, Confidence: v.Confidence}
}

// GetBattery answers the practice's tests.
func (s *Server) GetBattery(ctx context.Context, _ gen.GetBatteryRequestObject) (gen.GetBatteryResponseObject, error) {
	v, err := s.app.Battery(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	return gen.GetBattery200JSONResponse(battery(v)), nil
}

// EditBattery changes one thing about the practice's tests.
func (s *Server) EditBattery(ctx context.Context, r gen.EditBatteryRequestObject) (gen.EditBatteryResponseObject, error) {
	b := r.Body
	e := app.BatteryEdit{Test: b.Test, RemoveTest: orZero(b.RemoveTest), Set: b.Set, RemoveSet: orZero(b.RemoveSet), Confidence: int(orZero(b.Confidence))}
	if b.Targets != nil {
		e.Targets = &app.TargetEdit{Test: b.Targets.Test, Targets: b.Targets.Targets, Reset: orZero(b.Targets.Reset)}
	}
	v, err := s.app.EditBattery(ctx, actor(ctx), b.Revision, e)
	if err != nil {
		return nil, err
	}
	return gen.EditBattery200JSONResponse(battery(v)), nil
}

// GetRepeats answers what the practice's repeats say of each test.
func (s *Server) GetRepeats(ctx context.Context, _ gen.GetRepeatsRequestObject) (gen.GetRepeatsResponseObject, error) {
	list, err := s.app.Repeats(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	out := gen.GetRepeats200JSONResponse{}
	return append(out, list...), nil
}
