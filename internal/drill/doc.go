// Package drill holds tests that attack Dunnock as it is shipped: the built
// program in a process of its own, on its private cluster with every promise kept.
// They kill it and its database under load and compare what is there with what was
// acknowledged (durability), send it hostile bodies and files (hostile), and measure
// it under many clients (load). In the ordinary tests they run in a short form; the
// targets durability, hostile and load of the Makefile run them whole. Nothing but
// tests lives here, and nothing imports it.
package drill
