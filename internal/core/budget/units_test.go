package budget_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dunnock/internal/core/budget"
)

// A number of one stands with the singular of what is counted.
func TestUnitsAreCounted(t *testing.T) {
	assert.Equal(t, "set", budget.GripSets.Counted(1))
	assert.Equal(t, "sets", budget.GripSets.Counted(2))
	assert.Equal(t, "throw each way", budget.ThrowsEachWay.Counted(1))
	assert.Equal(t, "dose of drills", budget.DrillDoses.Counted(1))
	assert.Equal(t, "min a joint", budget.JointMinutes.Counted(1))
	assert.Equal(t, "session with fast swings", budget.Exposures.Counted(1))
}
