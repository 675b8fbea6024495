package forcefile

import (
	"regexp"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"dunnock/internal/core/force"
)

var (
	quantityName = regexp.MustCompile(`^(.*?)(f[xyz]|cop[xy]|tz)(.*)$`)
	separators   = strings.NewReplacer("_", "", ".", "", " ", "", "-", "", ":", "")
	placeWords   = map[string]force.Place{
		"": "", "lead": force.Lead, "trail": force.Trail, "left": force.Left, "right": force.Right, "l": force.Left, "r": force.Right,
		"1": force.First, "2": force.Second, "total": force.Total, "plate1": force.First, "plate2": force.Second,
		"leadfoot": force.Lead, "trailfoot": force.Trail, "leftfoot": force.Left, "rightfoot": force.Right,
		"plateleft": force.Left, "plateright": force.Right, "leftplate": force.Left, "rightplate": force.Right, "footleft": force.Left, "footright": force.Right,
		"plate": force.Total, "sum": force.Total,
	}
)

// Words of a column's name in English, German, French and Spanish, without
// accents. Common laboratory usage, from memory.
var (
	footWords = map[string]force.Place{
		"lead": force.Lead, "front": force.Lead, "vorne": force.Lead, "vorderer": force.Lead, "avant": force.Lead, "delantero": force.Lead,
		"trail": force.Trail, "rear": force.Trail, "back": force.Trail, "hinten": force.Trail, "hinterer": force.Trail, "arriere": force.Trail, "trasero": force.Trail,
		"left": force.Left, "l": force.Left, "links": force.Left, "linke": force.Left, "linker": force.Left, "linkes": force.Left, "gauche": force.Left, "izquierdo": force.Left, "izquierda": force.Left, "izq": force.Left,
		"right": force.Right, "r": force.Right, "rechts": force.Right, "rechte": force.Right, "rechter": force.Right, "rechtes": force.Right, "droit": force.Right, "droite": force.Right, "derecho": force.Right, "derecha": force.Right, "der": force.Right,
		"1": force.First, "2": force.Second,
		"total": force.Total, "sum": force.Total, "summe": force.Total, "gesamt": force.Total, "somme": force.Total, "suma": force.Total, "both": force.Total, "beide": force.Total,
	}
	forceWords = []string{"force", "forces", "kraft", "vertikalkraft", "bodenreaktionskraft", "gesamtkraft", "fuerza", "load", "last", "grf", "vgrf", "f", "fz", "fv"}
	// emptyWords say nothing of what is measured or where.
	emptyWords = []string{
		"vertical", "vertikal", "vertikale", "verticale", "foot", "fuss", "pied", "pie", "leg", "bein", "jambe", "pierna", "plate", "platte", "kraftmessplatte", "plaque", "plateforme", "plataforma", "placa",
		"ground", "reaction", "sol", "reaccion", "suelo", "du", "de", "del", "la", "le", "the", "of", "am", "in", "en", "z",
	}
	timeWords = []string{"time", "t", "timestamp", "zeit", "zeitpunkt", "temps", "tiempo", "seconds", "sekunden", "secondes", "segundos"}
	markWords = []string{"impact", "marker", "event", "trigger", "treffpunkt", "marke", "marqueur", "impacto", "marcador"}
)

// guessName reads a column's name: what it measures, of which place, and the
// unit within the name, if it has one.
func guessName(name string) (q Quantity, p force.Place, unitName string) {
	s := strings.TrimSpace(name)
	if m := bracket.FindStringSubmatch(s); m != nil {
		s, unitName = m[1], m[2]
	}
	if q, p, ok := plainName(s); ok {
		return q, p, unitName
	}
	// The unit stands behind the name: Fz_lead_N, Kraft / N, Zeit in ms.
	if i := strings.LastIndexAny(s, "_ /,"); i > 0 {
		if _, ok := unitOf(s[i+1:]); ok {
			before := strings.TrimRight(s[:i], " /,_")
			if q, p, ok := plainName(before); ok {
				return q, p, s[i+1:]
			}
			if q, p := wordsOf(before); q != "" {
				return q, p, s[i+1:]
			}
		}
	}
	if q, p := wordsOf(s); q != "" {
		return q, p, unitName
	}
	return "", "", ""
}

// guessColumn reads a column's name together with the unit it has: one that is
// named by the foot alone holds vertical force if its unit is one of force.
func guessColumn(c Channel) (q Quantity, p force.Place, unitName string) {
	if q, p, unitName = guessName(c.Name); q != "" {
		if c.Unit != "" {
			unitName = c.Unit
		}
		return q, p, unitName
	}
	name, unitName := c.Name, c.Unit
	if m := bracket.FindStringSubmatch(name); m != nil {
		name, unitName = m[1], m[2]
	} else if i := strings.LastIndexAny(name, "_ /,"); unitName == "" && i > 0 {
		name, unitName = strings.TrimRight(name[:i], " /,_"), name[i+1:]
	}
	if u, ok := unitOf(unitName); !ok || u.dimension != "force" {
		return "", "", ""
	}
	place, _, ok := readWords(name)
	if !ok || place == "" {
		return "", "", ""
	}
	return Fz, place, unitName
}

// wordsOf reads a name of words: a time, a marker, or a vertical force, of the
// whole golfer where it names no foot.
func wordsOf(s string) (Quantity, force.Place) {
	place, isForce, ok := readWords(s)
	switch {
	case !ok || !isForce:
		return "", ""
	case place == "":
		return Fz, force.Total
	}
	return Fz, place
}

// readWords reads the words of a name. It is not ok with a word it does not
// know, and with two feet.
func readWords(s string) (place force.Place, isForce, ok bool) {
	for _, w := range wordsIn(s) {
		p, isPlace := footWords[w]
		switch {
		case slices.Contains(forceWords, w):
			isForce = true
		case isPlace && (place == "" || place == p):
			place = p
		case slices.Contains(emptyWords, w):
		default:
			return "", false, false
		}
	}
	return place, isForce, true
}

// wordsIn splits a name at blanks, marks, digits and capitals, in small letters
// without accents: "FußLinks" is fuss, links.
func wordsIn(s string) []string {
	var out []string
	var word strings.Builder
	end := func() {
		if word.Len() > 0 {
			out = append(out, word.String())
			word.Reset()
		}
	}
	var last rune
	for _, r := range norm.NFD.String(strings.ReplaceAll(s, "ß", "ss")) {
		switch {
		case unicode.Is(unicode.Mn, r):
			continue
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			end()
		default:
			if unicode.IsUpper(r) && unicode.IsLower(last) || unicode.IsDigit(r) != unicode.IsDigit(last) {
				end()
			}
			word.WriteRune(unicode.ToLower(r))
		}
		last = r
	}
	end()
	return out
}

func plainName(s string) (Quantity, force.Place, bool) {
	words := wordsIn(s)
	if len(words) > 0 && words[0] == "elapsed" {
		words = words[1:]
	}
	if len(words) == 1 && slices.Contains(timeWords, words[0]) {
		return Time, "", true
	}
	if len(words) == 1 && slices.Contains(markWords, words[0]) {
		return Impact, "", true
	}
	s = separators.Replace(strings.ToLower(s))
	m := quantityName.FindStringSubmatch(s)
	if m == nil || m[1] != "" && m[3] != "" {
		return "", "", false
	}
	p, ok := placeWords[m[1]+m[3]]
	if !ok {
		return "", "", false
	}
	for _, q := range Quantities {
		if strings.EqualFold(string(q), m[2]) {
			if p == "" {
				p = force.Total
			}
			return q, p, true
		}
	}
	return "", "", false
}
