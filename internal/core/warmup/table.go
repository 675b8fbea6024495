package warmup

// seconds are the seconds of each phase.
type seconds struct{ raise, joints, activate, separate, jump, ladder int }

func (s seconds) sum() int { return s.raise + s.joints + s.activate + s.separate + s.jump + s.ladder }

// rows are the seconds of the phases by minutes (handbook 12; ours).
var rows = []struct {
	minutes int
	seconds
}{
	{3, seconds{60, 40, 0, 0, 0, 80}},
	{4, seconds{60, 40, 30, 25, 0, 85}},
	{6, seconds{70, 80, 60, 50, 20, 80}},
	{8, seconds{90, 100, 60, 50, 20, 160}},
	{10, seconds{110, 140, 90, 75, 40, 145}},
	{15, seconds{140, 240, 150, 125, 40, 205}},
	{20, seconds{180, 320, 210, 150, 60, 280}},
}

// rowOf is the row of so many minutes, the one below between two.
func rowOf(minutes int) seconds {
	out := rows[0].seconds
	for _, r := range rows {
		if r.minutes <= minutes {
			out = r.seconds
		}
	}
	return out
}

// What things take, in seconds, the change to them included (handbook 12).
const (
	jointS    = 20 // five slow ones a side
	activateS = 30
	separateS = 25
	jumpS     = 20 // five low contacts
	coolS     = 60 // two holds of 12 s a side
	slowSwing = 5  // to 70%
	fullSwing = 6  // 85%
	fastSwing = 8
	changeS   = 10 // of side or implement
	betweenS  = 30 // rounds
)

// With a ball.
const (
	slowBall = 12
	fullBall = 15
	fastBall = 20
)

// swingSeconds is what one swing takes.
func swingSeconds(intent int, ball bool) int {
	switch {
	case ball && intent >= fastFrom:
		return fastBall
	case ball && intent > 70:
		return fullBall
	case ball:
		return slowBall
	case intent >= fastFrom:
		return fastSwing
	case intent > 70:
		return fullSwing
	}
	return slowSwing
}

// Numbers the builder and the rules share (handbook 12; ours).
const (
	leastMinutes   = 3
	mostMinutes    = 40
	mostWithout    = 20 // minutes without balls
	mostStrength   = 10
	mostAfter      = 15
	mostHot        = 15 // from 28 °C
	mostVeryHot    = 10 // from 32 °C
	cold           = 10.0
	hot            = 28.0
	veryHot        = 32.0
	coldRaise      = 120
	coldRaise4     = 80
	seniorRaise    = 30
	floorActivate  = 30
	floorSeparate  = 25
	leastLadder    = 62 // a ladder of six swings to 85%
	mostLines      = 24
	extraShort     = 2 // lines for restricted joints under 8 min
	extraLong      = 4
	mostRounds     = 3
	mostBalls      = 60
	fastBefore     = 15 // fast swings before play
	fastCareful    = 8
	mostHeavy      = 6 // swings
	heavySenior    = 20.0
	leastRaise     = 60
	leastJoints    = 2
	firstIntent    = 50
	mostRise       = 25
	holdOne        = 30
	holdJoint      = 60
	leastOther     = 2
	aboveHead      = 0.10 // m over golfer and implement
	aboveHands     = 0.45 // m over a golfer with empty hands
	hipCeiling     = 2.2
	lateMinutes    = 5
	earlyOnTee     = 5 // minutes
	waitAgain      = 10
	waitLong       = 20
	sharedRadii    = 2
	drillSwings    = 10
	drillIntent    = 85
	balanceSeconds = 30
)
