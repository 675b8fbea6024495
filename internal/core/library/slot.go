package library

// Slot is a part of a session, and what an exercise may be placed as.
type Slot string

// Slots of a session in the order they are done.
const (
	SlotSwings   Slot = "swings"
	SlotThrow    Slot = "throw"
	SlotJump     Slot = "jump"
	SlotMain     Slot = "main-lift"
	SlotSecond   Slot = "second-lift" // filled from the main lifts
	SlotPush     Slot = "upper-push"
	SlotPull     Slot = "upper-pull"
	SlotFinisher Slot = "finisher"
	SlotSpecial  Slot = "special"
	SlotTrunk    Slot = "trunk"
	SlotRange    Slot = "range"
)

// SlotOrder lists the slots in the order of a session. Do not change it.
var SlotOrder = []Slot{SlotSwings, SlotThrow, SlotJump, SlotMain, SlotSecond, SlotPush, SlotPull, SlotFinisher, SlotSpecial, SlotTrunk, SlotRange}

var slotNames = map[Slot]string{
	SlotSwings: "swings", SlotThrow: "throws", SlotJump: "jumps", SlotMain: "main lift",
	SlotSecond: "second lift", SlotPush: "upper push", SlotPull: "upper pull", SlotFinisher: "timed finisher",
	SlotSpecial: "special exercise", SlotTrunk: "trunk", SlotRange: "range",
}

// Words names the slot in a sentence.
func (s Slot) Words() string { return slotNames[s] }

// Quick reports whether the slot's work is fast and ballistic: swings, throws and
// jumps.
func (s Slot) Quick() bool { return s == SlotSwings || s == SlotThrow || s == SlotJump }

// Strength reports whether the slot's work is lifted, pushed or pulled against a load.
func (s Slot) Strength() bool {
	return s == SlotMain || s == SlotSecond || s == SlotPush || s == SlotPull
}

// filed is the slot exercises for this one are filed under.
func (s Slot) filed() Slot {
	if s == SlotSecond {
		return SlotMain
	}
	return s
}
