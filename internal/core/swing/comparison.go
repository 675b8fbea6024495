package swing

// Comparison is the bands of one or two sets of swings and what differs.
type Comparison struct {
	Efforts []EffortOverlay `json:"efforts"`
	Points  int             `json:"points"`
	First   string          `json:"first"` // what the sets are, in words
	Second  string          `json:"second"`
}

// EffortOverlay is one effort of an overlay.
type EffortOverlay struct {
	Name    string   `json:"name"`
	Unit    string   `json:"unit"`
	First   *Band    `json:"first"`
	Second  *Band    `json:"second"`
	Overlay *Overlay `json:"overlay"`
}
