package flight

import "fmt"

// Of a driver, where nothing else is known: a head of 200 g (common practice, no
// source) and the restitution that the limit of face flexibility stands for (about
// 0.83, from memory, unverified).
const (
	HeadKg      = 0.200
	Restitution = 0.83
)

// SmashLimit is the highest ball speed over club speed of a central strike without
// loft: (1 + e)/(1 + m/M), by momentum and restitution (Cochran and Stobbs 1968;
// Penner 2003). Loft and strikes off the middle only lower it. The head weighs 0.05 to
// 0.5 kg, restitution lies between 0 and 1.
func SmashLimit(headKg, restitution float64) (float64, error) {
	if !(headKg >= 0.05 && headKg <= 0.5) || !(restitution >= 0 && restitution <= 1) {
		return 0, fmt.Errorf("flight: a head weighs 0.05 to 0.5 kg and restitution is 0 to 1, not %g and %g", headKg, restitution)
	}
	return (1 + restitution) / (1 + BallMassKg/headKg), nil
}
