package formats

// Printable is what the referral note does to a text, for tests.
var Printable = printable
