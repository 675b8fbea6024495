package warmup

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/implement"
	"dunnock/internal/core/readiness"
)

// pick returns the lines of a phase that may be done here and by this golfer, with the
// side that limits leave; seated ones first where the start is seated.
type pick struct {
	*Line
	side string
}

func (b *builder) pick(phase Phase) (out []pick) {
	for i := range lines {
		l := &lines[i]
		if l.Phase != phase || !l.fits(&b.r) || b.used[l.ID] {
			continue
		}
		if l.Stepping && b.r.ClearM > 0 && b.r.ClearM < implement.Radius(0, true) {
			continue
		}
		side, by := l.blocked(b.p.Limits)
		if by != nil {
			b.leaveOut(by.Words(), lower(l.Name))
			continue
		}
		out = append(out, pick{l, side})
	}
	slices.SortStableFunc(out, func(x, y pick) int {
		if b.r.Seated {
			return b2i(y.Seated) - b2i(x.Seated)
		}
		return b2i(x.Chair) - b2i(y.Chair) // there may be none
	})
	return out
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}

// item makes an item of a line.
func (b *builder) item(x pick, secs int) Item {
	b.used[x.ID] = true
	it := Item{Phase: x.Phase, Line: x.ID, Name: x.Name, Cue: x.Cue, Seconds: secs, Contacts: x.Contacts, Stepping: x.Stepping, Side: "each"}
	switch {
	case x.side != "":
		it.Side = x.side
	case x.Sides == "":
		it.Side = ""
	}
	switch x.Phase {
	case Joints, Jump:
		it.Repetitions = 5
	case Activate:
		it.Repetitions = 8
		if x.Sides != "" {
			it.Repetitions = 4
		}
	case Separate:
		it.Repetitions = 6
	case Cool:
		it.HoldSeconds, it.Repetitions = 12, 2
	}
	return it
}

func (b *builder) put(it Item) { b.out.Items = append(b.out.Items, it) }

// raise is one thing, or an easy and a brisker one where there is time.
func (b *builder) raise(secs int) {
	all := b.pick(Raise)
	var easy, brisk *pick
	for i := range all {
		x := &all[i]
		switch x.ID {
		case "raise-skip", "raise-rope":
			if brisk == nil || x.ID == "raise-rope" {
				brisk = x
			}
		case "raise-still":
			if easy == nil {
				easy = x
			}
		default:
			if easy == nil && (!x.Seated || b.r.Seated || b.seatedOnly(all)) {
				easy = x
			}
		}
	}
	if b.r.Place == Gym && easy != nil && easy.ID == "raise-walk" {
		for i := range all {
			if all[i].ID == "raise-march" {
				easy = &all[i]
			}
		}
	}
	if easy == nil {
		return
	}
	if secs >= 100 && brisk != nil && !b.r.Seated && !b.p.Senior {
		b.put(b.item(*easy, secs-40))
		b.put(b.item(*brisk, 40))
		return
	}
	b.put(b.item(*easy, secs))
}

// seatedOnly reports whether nothing standing is left.
func (b *builder) seatedOnly(all []pick) bool {
	return !slices.ContainsFunc(all, func(x pick) bool { return !x.Seated })
}

// joints are lines top to bottom; if few: hip turn, chest turn, shoulder. What is clearly
// short gets one more on its side.
func (b *builder) joints(secs, minutes int) {
	n := secs / jointS
	b.left += secs - n*jointS
	all := b.pick(Joints)
	slices.SortStableFunc(all, func(x, y pick) int { return cmp.Compare(x.Rank, y.Rank) })
	var chosen []Item
	for _, x := range all[:min(n, leastJoints, len(all))] {
		chosen = append(chosen, b.item(x, jointS))
	}
	most := extraLong
	if minutes < 8 {
		most = extraShort
	}
	for i, r := range b.p.Restricted {
		if i == most {
			break
		}
		if len(chosen) >= n {
			b.drop("one more for " + r.For)
			continue
		}
		if it, ok := b.extra(r); ok {
			chosen = append(chosen, it)
		}
	}
	for _, x := range all {
		if len(chosen) < n && !b.used[x.ID] {
			chosen = append(chosen, b.item(x, jointS))
		}
	}
	b.left += (n - len(chosen)) * jointS
	b.topToBottom(chosen)
}

// topToBottom puts joint lines in the order of the body, what is short right after its
// line.
func (b *builder) topToBottom(items []Item) {
	order := func(it Item) int {
		l, _ := FindLine(it.Line)
		if l.Floor {
			return 100 + l.Order
		}
		return l.Order
	}
	slices.SortStableFunc(items, func(x, y Item) int {
		return cmp.Or(cmp.Compare(order(x), order(y)), cmp.Compare(len(x.For), len(y.For)))
	})
	b.out.Items = append(b.out.Items, items...)
}

// extra is one more line on the side of a joint that is clearly short.
func (b *builder) extra(r Restricted) (Item, bool) {
	for i := range lines {
		l := &lines[i]
		if l.Phase != Joints || !l.fits(&b.r) || !slices.Contains(l.Targets, r.Test) {
			continue
		}
		sound, by := l.blocked(b.p.Limits)
		if by != nil || sound != "" && sound != string(r.Side) {
			continue
		}
		was := b.used[l.ID]
		it := b.item(pick{l, string(r.Side)}, jointS)
		b.used[l.ID] = was
		it.For = r.For
		return it, true
	}
	return Item{}, false
}

// phase fills a phase with lines that take so many seconds each.
func (b *builder) phase(phase Phase, secs, each int) {
	n := secs / each
	all := b.pick(phase)
	for _, x := range all[:min(n, len(all))] {
		b.put(b.item(x, each))
	}
	b.left += secs - each*min(n, len(all))
}

// jumps are low contacts, or marching where they may not be.
func (b *builder) jumps(secs int) {
	n := secs / jumpS
	var fit []pick
	for _, x := range b.pick(Jump) {
		if x.Contacts > 0 && b.r.Readiness.Soreness != readiness.SoreStrong && b.r.Readiness.Soreness != readiness.SoreTooFar && !b.r.Seated {
			fit = append(fit, x)
		}
	}
	if len(fit) == 0 {
		for _, x := range b.pick(Jump) {
			if x.Contacts == 0 {
				fit = append(fit, x)
			}
		}
	}
	b.left += secs - jumpS*min(n, len(fit))
	for _, x := range fit[:min(n, len(fit))] {
		b.put(b.item(x, jumpS))
	}
}

// ladder says what a ladder is made of here, or why there is none.
func (b *builder) ladder(balls bool) (*ladder, string) {
	p, r := b.p, &b.r
	switch {
	case r.Purpose == Strength, r.Purpose == Training && !r.FastFollows:
		return nil, ""
	case r.Readiness.Soreness == readiness.SoreTooFar:
		return nil, "too sore to swing"
	case r.ClearM > 0 && r.ClearM < implement.Radius(0, false):
		return nil, fmt.Sprintf("%.1f m free is too little for any swing", r.ClearM)
	}
	l := &ladder{top: 100, swings: p.ColdStart.LadderSwings(), fast: 3, rounds: 1, driver: p.Own.MassG, club: p.Own, ends: p.Own, balls: balls, bag: balls && r.Clubs == OwnDriver, child: p.Child, step: p.Junior && r.Group > 1}
	if r.Clubs == IronsOnly {
		l.club = longestIron(p.Own, p.Implements)
		l.ends = l.club
	}
	if r.Purpose == Training || p.careful() {
		l.fast = 2
	}
	l.reach = reachOf(r, p.height(), l.club.LengthM)
	if l.reach == whole && r.ClearM > 0 && r.ClearM < implement.Radius(l.club.LengthM, false) {
		l.reach = empty
		b.note("%.1f m free all round is too little for a club: empty hands.", r.ClearM)
	}
	l.noStep = r.ClearM > 0 && r.ClearM < implement.Radius(l.club.LengthM, true)
	demands := swingDemands
	if l.reach == empty || l.reach == shoulder {
		demands, l.balls, l.bag = emptyDemands, false, false
	}
	if by := mayNot(demands, false, p.Limits); by != nil {
		if by = mayNot(emptyDemands, false, p.Limits); by != nil {
			return nil, by.Words()
		}
		l.reach, l.balls, l.bag = empty, false, false
		b.note("Empty hands: %s.", mayNot(demands, false, p.Limits).Words())
	}
	if why := b.heldBack(l); why != "" {
		l.top = 85
		b.note("Nothing above 85%%: %s.", why)
	}
	if r.Purpose == Training && l.top >= fastFrom && l.reach == whole && r.Clubs == OwnDriver {
		l.ends = lightest(p.Own, p.Implements)
	}
	if l.reach == whole && !r.WithoutHeavy && !l.bag && r.Clubs == OwnDriver {
		l.heavy = heavyOf(p, p.Implements)
	}
	if p.OtherSide && !b.oneSided() {
		l.other = (l.swings + 2) / 3
		l.split = true
		if r.Minutes < 8 {
			l.other, l.split = leastOther, false
		}
	}
	return l, ""
}

// oneSided reports whether a limit of one side keeps a golfer from swinging the other
// way.
func (b *builder) oneSided() bool {
	for _, l := range b.p.Limits {
		if l.Side == "lead" || l.Side == "trail" {
			return true
		}
	}
	return false
}

// heldBack says why nothing is swung above 85%.
func (b *builder) heldBack(l *ladder) string {
	r, p := &b.r, b.p
	short := r.Celsius != nil && *r.Celsius < cold || p.Junior || p.Senior
	fast := fastDemands
	if l.reach == empty || l.reach == shoulder {
		fast = append(slices.Clone(emptyDemands), "lumbar-spine/loaded-rotation", "lumbar-spine/maximal-effort")
	}
	by := mayNot(fast, true, p.Limits)
	switch {
	case r.Minutes < 4:
		return "under four minutes"
	case r.Minutes < 6 && short:
		return "under six minutes in the cold, for juniors and from 60 on"
	case r.Purpose == Training && p.careful():
		return "the session holds the fast ones"
	case r.Readiness.Illness == readiness.Cold:
		return "a cold"
	case r.Readiness.Sleep == readiness.SleepBad:
		return "under five hours of sleep"
	case r.Readiness.HurtsALittle("lumbar-spine", "thoracic-spine", "hip", "shoulder"):
		return "back, hip or shoulder hurts a little"
	case by != nil:
		return by.Words()
	case len(b.pick(Joints)) < leastJoints:
		return "fewer than two joints can be moved first"
	case l.reach == hip, l.reach == shoulder:
		return "the ceiling is too low for a whole swing"
	}
	return ""
}

// swings lays the ladder out in its seconds and those left over, with further rounds
// where they fit; with balls the swings of a round grow to fill the time.
func (b *builder) swings(l *ladder, secs int) {
	room := secs + b.left
	before := b.r.Purpose == Tee || b.r.Purpose == Range
	most := fastBefore
	if b.p.careful() {
		most = fastCareful
	}
	if b.drillSession() {
		if l.drills = b.drillRound(l); len(l.drills) > 0 && l.seconds() <= room-balanceSeconds {
			room -= balanceSeconds
		} else {
			l.drills = nil
		}
	}
	if b.r.Drills && l.drills == nil {
		b.drop("drill rounds: they want room to swing and 15 minutes of range or training")
	}
	gave, ok := l.fit(room)
	if !ok {
		b.drop(fmt.Sprintf("the ladder: %d s are too few", room))
		b.left = room
		return
	}
	for _, g := range gave {
		b.drop(g)
	}
	fits := func(x ladder) bool {
		_, _, _, fast := x.steps()
		return x.seconds() <= room && (!before || fast*x.rounds <= most) && (!x.balls || x.swings*x.rounds <= mostBalls)
	}
	for l.rounds < mostRounds {
		x := *l
		if x.rounds++; !fits(x) {
			break
		}
		l.rounds++
	}
	if l.balls {
		for l.swings < 20 {
			x := *l
			if x.swings++; !fits(x) {
				break
			}
			l.swings++
		}
	}
	items := l.items()
	b.out.Items = append(b.out.Items, items...)
	b.left = room - total(items)
}

// drillRound are tens of drill swings that are no faster than 85%.
func (b *builder) drillRound(l *ladder) []Item {
	if l.reach != whole || b.p.Child {
		return nil
	}
	var out []Item
	for _, name := range []string{"Step-in swings", "Feet-together swings", "Foot-lift swings", "Overturned finish, held"} {
		it := Item{Phase: Ladder, Name: name, Side: "playing", Swings: drillSwings, IntentPercent: drillIntent, Step: "drill", Round: 1, Stepping: name == "Step-in swings", Cue: "Lost the rhythm? Slower, feet only", Implement: l.club.Name, ImplementID: l.club.ID}
		p := l.club.Percent(l.driver)
		it.ImplementPercent = &p
		if it.Stepping && b.r.ClearM > 0 && b.r.ClearM < implement.Radius(l.club.LengthM, true) {
			continue
		}
		out = append(out, it)
	}
	timeSwings(out)
	return out
}

// balance ends drills: on one leg at the finish.
func (b *builder) balance() {
	b.put(Item{Phase: Cool, Name: "Stand in the finish, then on one leg", Cue: "Still from head to toe", Seconds: balanceSeconds, Side: "each", Repetitions: 1, HoldSeconds: 10})
}

// more gives the seconds left to further joint lines.
func (b *builder) more(minutes int) {
	have := 0
	for _, it := range b.out.Items {
		have += b2i(it.Phase == Joints)
	}
	var extra []Item
	all := b.pick(Joints)
	slices.SortStableFunc(all, func(x, y pick) int { return cmp.Compare(x.Rank, y.Rank) })
	for _, x := range all {
		if b.left < jointS || have+len(extra) >= mostLines {
			break
		}
		extra = append(extra, b.item(x, jointS))
		b.left -= jointS
	}
	if len(extra) == 0 {
		return
	}
	var joints, rest []Item
	for _, it := range b.out.Items {
		if it.Phase == Joints {
			joints = append(joints, it)
		} else {
			rest = append(rest, it)
		}
	}
	b.out.Items = rest
	b.topToBottom(append(joints, extra...))
}

// hurried is what there is time for in under three minutes.
func (b *builder) hurried(room int) {
	walk := max(room-2*jointS-4*slowSwing, leastRaise/3)
	all := b.pick(Raise)
	if len(all) > 0 {
		b.put(b.item(all[0], walk))
	}
	b.joints(2*jointS, 1)
	if n := (room - total(b.out.Items)) / slowSwing; n > 0 && mayNot(emptyDemands, false, b.p.Limits) == nil && b.r.Readiness.Soreness != readiness.SoreTooFar && b.r.Purpose != Strength && !(b.r.ClearM > 0 && b.r.ClearM < implement.Radius(0, false)) {
		l := ladder{reach: hip}
		if b.r.CeilingM > 0 && b.r.CeilingM < hipCeiling {
			l.reach = shoulder
		}
		b.put(Item{Phase: Ladder, Name: l.name(firstIntent), Side: "playing", Swings: n, IntentPercent: firstIntent, Round: 1, Cue: cues[firstIntent]})
		timeSwings(b.out.Items)
	}
	if b.r.Purpose == Tee {
		b.note("Under three minutes: the first swing on the tee at 85%%.")
	}
}

// after is a walk and slow holds.
func (b *builder) after(minutes int) {
	walk := 60
	if minutes >= 8 {
		walk = 120
	}
	room := 60*minutes - walk
	all := b.pick(Cool)
	slices.SortStableFunc(all, func(x, y pick) int { return cmp.Compare(x.Order, y.Order) })
	twisted := false
	for i, x := range all {
		switch {
		case i == 0: // the walk, or sitting where nobody may walk
			it := b.item(x, walk)
			it.HoldSeconds, it.Repetitions = 0, 0
			b.put(it)
			continue
		case x.ID == "after-breath", twisted && x.ID == "after-trunk-seated":
			continue
		case room < coolS:
			b.drop(lower(x.Name))
			continue
		}
		twisted = twisted || x.ID == "after-trunk"
		b.put(b.item(x, coolS))
		room -= coolS
	}
	b.left = room
}

// together says how a group stands.
func (b *builder) together() {
	if b.r.Group < 2 {
		return
	}
	radius := implement.Radius(b.p.Own.LengthM, b.steps())
	b.note("%d in one line, %.1f m from one to the next, all facing the same way. Swing on call, stop on call, nobody walks in front.", b.r.Group, sharedRadii*radius)
}

func (b *builder) steps() bool {
	return slices.ContainsFunc(b.out.Items, func(it Item) bool { return it.Stepping && it.Swings > 0 })
}

// name gives items ids.
func (w *WarmUp) name() {
	for i := range w.Items {
		it := &w.Items[i]
		if it.ID == "" {
			it.ID = fmt.Sprintf("w%d", i+1)
		}
		it.DoseText = it.Dose()
	}
}
