package plan_test

import (
	"fmt"

	"dunnock/internal/core/library"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/testkit"
)

// A programme is made from a golfer's file; its first session says what is done.
func ExampleGenerate() {
	r, err := plan.Generate(testkit.Weak(), method.Shipped(), "example")
	if err != nil {
		fmt.Println(err)
		return
	}
	s := r.Programme.Blocks[0].Weeks[0].Sessions[0]
	fmt.Printf("%s, %.0f of %d min\n", s.Date.Words(), s.Minutes, s.Budget)
	for _, it := range s.Items[:3] {
		fmt.Printf("%s: %s\n", it.Name, it.DoseText)
	}
	// Output:
	// Tue 1 Dec 2026, 44 of 45 min
	// Kneeling chest pass: 3 × 3
	// Side-on press throw: 3 × 3 each way
	// Jump from a still squat: 5 × 3
}

// An edit names its item by id, and is judged at once.
func ExampleBasis_Apply() {
	b, err := plan.BasisOf(testkit.Strong(), method.Shipped())
	if err != nil {
		fmt.Println(err)
		return
	}
	drafted, err := b.Generate("draft")
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, it := range drafted.Doc.Blocks[0].Weeks[1].Sessions[0].Items {
		if it.Slot != library.SlotMain {
			continue
		}
		load := 190.0
		edited, err := b.Apply(drafted.Doc, plan.Edit{Kind: plan.EditDose, At: it.ID, Dose: &plan.DosePatch{LoadKg: &load}}, "edit")
		if err != nil {
			fmt.Println(err)
			return
		}
		for _, r := range edited.Rules {
			if r.Status == "broken" {
				fmt.Println(r.Rule, "at", r.Where)
			}
		}
	}
	// Output:
	// LOAD-STEP at Week 2, day A, Trap-bar deadlift
	// RESERVE at Week 2, day A, Trap-bar deadlift
}
