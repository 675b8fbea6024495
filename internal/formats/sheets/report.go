package sheets

import "dunnock/internal/formats/table"

// Report is the verdict on a file.
type Report struct {
	Rows       int              `json:"rows"`
	GoodRows   int              `json:"goodRows"`
	Trials     int              `json:"trials"`
	Golfers    int              `json:"golfers"`
	Screens    int              `json:"screens"`
	Days       int              `json:"days"` // numbers of days
	NewGolfers []string         `json:"newGolfers"`
	Errors     []table.RowError `json:"errors"` // the first maxErrors
	ErrorRows  int              `json:"errorRows"`
	Unlikely   int              `json:"unlikely"`
	LeftOut    []string         `json:"leftOut"` // columns with values that are not brought in
	Notes      []string         `json:"notes"`   // what was taken for granted
	// AskGolfers and AskTests are names that are not ours, to be said once.
	AskGolfers []Ask `json:"askGolfers"`
	AskTests   []Ask `json:"askTests"`
	// Verdicts is the first rows one by one: "" for a good one.
	Verdicts []RowVerdict `json:"verdicts"`
}

// RowVerdict is one row of the file and what is said of it.
type RowVerdict struct {
	Row  int    `json:"row"`
	Text string `json:"text"`
}

// Ask is a name somebody has to say the meaning of.
type Ask struct {
	Written string   `json:"written"`
	Rows    int      `json:"rows"`
	Near    []Choice `json:"near"` // what may be meant, the nearest first
}

// Choice is a golfer or a test by id, with what tells two of the same name apart.
type Choice struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Note string `json:"note,omitempty"`
}
