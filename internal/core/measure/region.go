package measure

import "slices"

// PainStop is the pain, of 0 to 10, at which a test stops and the region it was
// felt in is spared (house rule: 4 and over).
const PainStop = 4

var regions = []string{
	"neck", "shoulder", "elbow", "wrist-hand", "thoracic-spine", "lumbar-spine", "hip", "knee", "ankle-foot", "heart",
}

// Regions returns the body regions that pain, limits and exercises speak of.
// "heart" stands for heart and blood pressure.
func Regions() []string { return slices.Clone(regions) }

// KnownRegion reports whether id is one of Regions.
func KnownRegion(id string) bool { return slices.Contains(regions, id) }
