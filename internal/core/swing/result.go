package swing

import "dunnock/internal/core/force"

// Effort is a peak between top and impact.
type Effort struct {
	Peak float64 `json:"peak"` // N; N·m of the rotational effort
	// PeakPerBodyWeight is Peak over body weight: a share, in m for the
	// rotational effort.
	PeakPerBodyWeight float64 `json:"peakPerBodyWeight"`
	PeakPerKg         float64 `json:"peakPerKg"`
	TimeBeforeImpactS float64 `json:"timeBeforeImpactS"`
	DownswingPct      float64 `json:"downswingPct"` // 0 at top, 100 at impact
}

// ForeAft is the effort along the feet: the larger of its two peaks, signed,
// positive toward the ball, and both.
type ForeAft struct {
	Effort
	ToBall   Effort `json:"toBall"`
	FromBall Effort `json:"fromBall"` // positive away from the ball
}

// Impulse is what acted between two events.
type Impulse struct {
	From       string  `json:"from"`
	To         string  `json:"to"`
	DurationS  float64 `json:"durationS"`
	LateralNs  float64 `json:"lateralNs"`
	ForeAftNs  float64 `json:"foreAftNs"`
	VerticalNs float64 `json:"verticalNs"` // above body weight
	TurnNms    float64 `json:"turnNms"`
}

// Foot is what one foot did.
type Foot struct {
	PeakUpN           float64 `json:"peakUpN"` // top to impact
	PeakUpBeforeS     float64 `json:"peakUpBeforeImpactS"`
	PeakToTargetN     float64 `json:"peakToTargetN"`
	PathToTargetM     float64 `json:"pathToTargetM"` // extent of the centre of pressure, takeaway to finish
	PathToBallM       float64 `json:"pathToBallM"`
	VerticalImpulseNs float64 `json:"verticalImpulseNs"` // top to impact
}

// Braking is what stops the golfer after impact, within 0.3 s of it.
type Braking struct {
	LateralAwayN   float64 `json:"lateralAwayN"`
	TurnBackNm     float64 `json:"turnBackNm"`
	LowestUpN      float64 `json:"lowestUpN"`
	LeadPeakUpN    float64 `json:"leadPeakUpN"`
	LowestUpAfterS float64 `json:"lowestUpAfterS"`
}

// Result is what a swing came to. Nil means that the recording does not hold
// what the number needs.
type Result struct {
	Kind         string  `json:"kind"` // swing
	SampleRateHz float64 `json:"sampleRateHz"`
	BodyMassKg   float64 `json:"bodyMassKg"`
	BodyWeightN  float64 `json:"bodyWeightN"`
	QuietSDN     float64 `json:"quietSdN"`

	AddressS     float64 `json:"addressS"`
	TakeawayS    float64 `json:"takeawayS"`
	TopS         float64 `json:"topS"`
	TransitionS  float64 `json:"transitionS"`
	ImpactS      float64 `json:"impactS"`
	FinishS      float64 `json:"finishS"`
	TopEstimated bool    `json:"topEstimated"`
	DownswingS   float64 `json:"downswingS"`

	Lateral     *Effort  `json:"lateral"`
	LateralAway *Effort  `json:"lateralAway"` // away from the target before the lateral peak, positive
	ForeAft     *ForeAft `json:"foreAft"`
	Rotational  *Effort  `json:"rotational"`
	Vertical    Effort   `json:"vertical"`
	Order       []string `json:"order"`
	Gaps        []Gap    `json:"gaps"`

	Impulses []Impulse `json:"impulses"`

	MaxRfd                        float64 `json:"maxRfd"` // N/s of the total vertical force
	MaxRfdWindowS                 float64 `json:"maxRfdWindowS"`
	MaxRfdTimeBeforeImpactS       float64 `json:"maxRfdTimeBeforeImpactS"` // middle of the window
	UnweightingDepth              float64 `json:"unweightingDepth"`        // N below body weight before the push
	UnweightingDepthPerBodyWeight float64 `json:"unweightingDepthPerBodyWeight"`
	Humps                         int     `json:"humps"`
	TimeAboveBodyWeightS          float64 `json:"timeAboveBodyWeightS"` // top to impact

	LeadShareAtAddress      *float64 `json:"leadShareAtAddress"` // of the vertical force, 0 to 1
	LeadShareAtTop          *float64 `json:"leadShareAtTop"`
	LeadShareAtVerticalPeak *float64 `json:"leadShareAtVerticalPeak"`
	LeadShareAtImpact       *float64 `json:"leadShareAtImpact"`

	Lead         *Foot    `json:"lead"`
	Trail        *Foot    `json:"trail"`
	PathToTarget *float64 `json:"combinedPathToTargetM"`
	PathToBall   *float64 `json:"combinedPathToBallM"`
	AfterImpact  *Braking `json:"afterImpact"`

	About    string       `json:"about"`
	CutoffHz float64      `json:"cutoffHz"`
	Flags    []force.Flag `json:"flags"`
	Notes    []string     `json:"notes"`
	Version  string       `json:"version"`

	// Curves are the signals behind the numbers, Filtered the recording they were
	// made from.
	Curves   Curves           `json:"-"`
	Filtered *force.Recording `json:"-"`
}

// Gap is the time between two peaks that follow each other.
type Gap struct {
	From string  `json:"from"`
	To   string  `json:"to"`
	S    float64 `json:"s"`
}

// Curves are the efforts through time, one value per sample. LateralN, ForeAftN,
// TurnNm, LeadShare and the combined centre of pressure may be nil.
type Curves struct {
	LateralN, ForeAftN, VerticalN, TurnNm, LeadShare, CoPToTargetM, CoPToBallM []float64
}
