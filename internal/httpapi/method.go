package httpapi

import (
	"context"
	"encoding/json"

	"dunnock/internal/app"
	"dunnock/internal/httpapi/gen"
)

func ruleView(v *app.RuleView) gen.RuleView {
	out := gen.RuleView{
		Id: v.ID, Severity: gen.RuleViewSeverity(v.Severity), Sentence: v.Sentence, Source: v.Source, Template: v.Template,
		Numbers: orNone(v.Numbers), Ours: orNone(v.Ours), Caught: []gen.RuleCaught{},
	}
	for _, c := range v.Caught {
		out.Caught = append(out.Caught, gen.RuleCaught{Athlete: c.AthleteID, Name: c.Name, Programme: c.ProgrammeID, Where: c.Where, Text: c.Text, More: c.More})
	}
	return out
}

func orNone(m map[string]float64) gen.RuleNumbers {
	if m == nil {
		return gen.RuleNumbers{}
	}
	return m
}

// ListRules answers the practice's rules.
func (s *Server) ListRules(ctx context.Context, _ gen.ListRulesRequestObject) (gen.ListRulesResponseObject, error) {
	rules, journal, err := s.app.Rules(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	out := gen.ListRules200JSONResponse{Rules: []gen.RuleView{}, Journal: []gen.RuleChange{}}
	for i := range rules {
		out.Rules = append(out.Rules, ruleView(&rules[i]))
	}
	for _, j := range journal {
		out.Journal = append(out.Journal, gen.RuleChange{At: j.At, By: j.By, Rule: j.Rule, Before: orNone(j.Before), After: orNone(j.After), Reason: j.Reason})
	}
	return out, nil
}

// TryRule answers what a rule would catch with other numbers.
func (s *Server) TryRule(ctx context.Context, r gen.TryRuleRequestObject) (gen.TryRuleResponseObject, error) {
	v, err := s.app.TryRule(ctx, actor(ctx), r.Rule, r.Body.Numbers)
	if err != nil {
		return nil, err
	}
	return gen.TryRule200JSONResponse(ruleView(v)), nil
}

// ChangeRule changes numbers of a rule.
func (s *Server) ChangeRule(ctx context.Context, r gen.ChangeRuleRequestObject) (gen.ChangeRuleResponseObject, error) {
	return gen.ChangeRule204Response{}, s.app.ChangeRule(ctx, actor(ctx), r.Rule, r.Body.Numbers, r.Body.Reason)
}

// ListSchools answers the schools to choose from.
func (s *Server) ListSchools(ctx context.Context, _ gen.ListSchoolsRequestObject) (gen.ListSchoolsResponseObject, error) {
	list, err := s.app.Schools(ctx, actor(ctx))
	if err != nil {
		return nil, err
	}
	out := gen.ListSchools200JSONResponse{}
	for _, x := range list {
		out = append(out, gen.SchoolView{Own: x.Own, Users: append([]string{}, x.Users...), School: x.School})
	}
	return out, nil
}

// SaveSchool saves a school of the practice's own.
func (s *Server) SaveSchool(ctx context.Context, r gen.SaveSchoolRequestObject) (gen.SaveSchoolResponseObject, error) {
	raw, err := json.Marshal(r.Body)
	if err != nil {
		return nil, err
	}
	id, err := s.app.SaveSchool(ctx, actor(ctx), raw)
	if err != nil {
		return nil, err
	}
	return gen.SaveSchool200JSONResponse{Id: id}, nil
}

// RemoveSchool removes a school of the practice's own.
func (s *Server) RemoveSchool(ctx context.Context, r gen.RemoveSchoolRequestObject) (gen.RemoveSchoolResponseObject, error) {
	return gen.RemoveSchool204Response{}, s.app.RemoveSchool(ctx, actor(ctx), r.SchoolId)
}

// CompareSchools answers one golfer under two schools.
func (s *Server) CompareSchools(ctx context.Context, r gen.CompareSchoolsRequestObject) (gen.CompareSchoolsResponseObject, error) {
	c, err := s.app.Compare(ctx, actor(ctx), r.AthleteId.String(), r.Params.A, r.Params.B)
	if err != nil {
		return nil, err
	}
	return gen.CompareSchools200JSONResponse(*c), nil
}
