package formats

// Report is the verdict on a file.
type Report struct {
	Rows       int        `json:"rows"`
	GoodRows   int        `json:"goodRows"`
	Trials     int        `json:"trials"`
	Golfers    int        `json:"golfers"`
	Screens    int        `json:"screens"`
	Days       int        `json:"days"` // numbers of days
	NewGolfers []string   `json:"newGolfers"`
	Errors     []RowError `json:"errors"` // the first maxErrors
	ErrorRows  int        `json:"errorRows"`
	Unlikely   int        `json:"unlikely"`
	LeftOut    []string   `json:"leftOut"` // columns with values that are not brought in
	// Verdicts is the first rows one by one: "" for a good one.
	Verdicts []RowVerdict `json:"verdicts"`
}

// RowVerdict is one row of the file and what is said of it.
type RowVerdict struct {
	Row  int    `json:"row"`
	Text string `json:"text"`
}
