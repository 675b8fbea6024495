package httpapi

import (
	"context"
	"strings"

	"dunnock/internal/httpapi/gen"
)

// calendars is where private addresses lie; what follows is their secret.
const calendars = Base + "/calendars/"

// ExportCalendar answers a golfer's calendar.
func (s *Server) ExportCalendar(ctx context.Context, r gen.ExportCalendarRequestObject) (gen.ExportCalendarResponseObject, error) {
	file, name, err := s.app.Calendar(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.ExportCalendar200TextcalendarResponse{
		Body: strings.NewReader(file), ContentLength: int64(len(file)),
		Headers: gen.ExportCalendar200ResponseHeaders{ContentDisposition: attachment(name, "training", "ics")},
	}, nil
}

// GetCalendar answers the calendar a private address was made for.
func (s *Server) GetCalendar(ctx context.Context, r gen.GetCalendarRequestObject) (gen.GetCalendarResponseObject, error) {
	file, err := s.app.CalendarAt(ctx, strings.TrimSuffix(r.Secret, ".ics"))
	if err != nil {
		return nil, err
	}
	return gen.GetCalendar200TextcalendarResponse{
		Body: strings.NewReader(file), ContentLength: int64(len(file)),
		Headers: gen.GetCalendar200ResponseHeaders{CacheControl: new("private, no-cache")},
	}, nil
}

// GetCalendarAddress answers whether there is a private address.
func (s *Server) GetCalendarAddress(ctx context.Context, r gen.GetCalendarAddressRequestObject) (gen.GetCalendarAddressResponseObject, error) {
	at, err := s.app.CalendarAddress(ctx, actor(ctx), r.AthleteId.String())
	if err != nil || at == nil {
		return gen.GetCalendarAddress200JSONResponse{}, err
	}
	return gen.GetCalendarAddress200JSONResponse{MadeAt: &at.At, MadeBy: &at.By}, nil
}

// MakeCalendarAddress makes a private address and answers it.
func (s *Server) MakeCalendarAddress(ctx context.Context, r gen.MakeCalendarAddressRequestObject) (gen.MakeCalendarAddressResponseObject, error) {
	secret, err := s.app.MakeCalendarAddress(ctx, actor(ctx), r.AthleteId.String())
	if err != nil {
		return nil, err
	}
	return gen.MakeCalendarAddress200JSONResponse{Path: new(calendars + secret + ".ics"), MadeBy: &actor(ctx).Name}, nil
}

// RevokeCalendarAddress ends a private address.
func (s *Server) RevokeCalendarAddress(ctx context.Context, r gen.RevokeCalendarAddressRequestObject) (gen.RevokeCalendarAddressResponseObject, error) {
	if err := s.app.RevokeCalendarAddress(ctx, actor(ctx), r.AthleteId.String()); err != nil {
		return nil, err
	}
	return gen.RevokeCalendarAddress204Response{}, nil
}
