package forcefile

// Look is a file of force that was looked at; nothing of it is kept.
type Look struct {
	Kind        string        `json:"kind"` // csv or c3d
	Hash        string        `json:"hash"` // names the file for what follows
	Fingerprint string        `json:"fingerprint"`
	RateHz      float64       `json:"rateHz"` // 0 where the file does not say
	Samples     int           `json:"samples"`
	Channels    []LookChannel `json:"channels"`
	Plates      int           `json:"plates"` // of a C3D file
	Mapping     Mapping       `json:"mapping"`
	Known       string        `json:"known"`   // name of the source, when files like this were read before
	Problem     string        `json:"problem"` // why the mapping does not read it
	Notes       []string      `json:"notes"`
	Preview     []PreviewLine `json:"preview"`
	Seconds     float64       `json:"seconds"`
	ImpactS     *float64      `json:"impactS"`
}

// LookChannel is a column as the file names it.
type LookChannel struct {
	Name string `json:"name"`
	Unit string `json:"unit"`
}

// PreviewLine is a channel as the mapping reads it, thinned to its lowest and
// highest value of each stretch.
type PreviewLine struct {
	Foot   string       `json:"foot"`
	Name   string       `json:"name"`
	Unit   string       `json:"unit"`
	Points [][2]float64 `json:"points"` // time and value
}
