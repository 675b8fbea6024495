package formats

// What tests look at from outside.
var Printable = printable
