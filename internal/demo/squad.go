package demo

import (
	"fmt"
	"hash/fnv"
	"strconv"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
)

func squad(today civil.Date) []golfer {
	all := []golfer{marit(today), finn(today), magnus(today), torquil(today), eilidh(today), jonas(today)}
	for i := range all {
		if s := all[i].screens; len(s) > 0 {
			// Everybody was tested twice within a week once, so that the squad's own
			// test errors can be worked out.
			all[i].screens = append([]screen{repeated(s[0], i)}, s...)
		}
	}
	return all
}

// repeated makes the screen that came six days before one: the same range, grip and
// jumps, a little different, as repeats are.
func repeated(s screen, golfer int) screen {
	r := screen{daysAgo: s.daysAgo + 6, before: "Test and retest week"}
	// How far a repeat is off, in the unit of the test: no more than real ones are.
	size := map[string]float64{"thoracic-rotation": 5, "hip-ir": 3.2, "ankle-lunge": 1, "grip": 3, "cmj": 2.4, "chest-throw": 0.25}
	for _, c := range s.cells {
		by, repeated := size[c.Test]
		v, err := strconv.ParseFloat(c.Text, 64)
		if !repeated || err != nil {
			continue
		}
		// A fixed scatter between −1 and 1, so that the demo is the same every time.
		h := fnv.New32a()
		_, _ = fmt.Fprint(h, golfer, c.Test, c.Side)
		off := float64(h.Sum32()%2001)/1000 - 1
		c.Text = strconv.FormatFloat(v+by*off, 'f', 1, 64)
		r.cells = append(r.cells, c)
	}
	return r
}

// marit plays left-sided and trains steadily; power lags behind strength, and
// her second screen shows what moved.
func marit(today civil.Date) golfer {
	f := base(
		today,
		athlete.Profile{
			Name:           "Marit Hellyer",
			BirthDate:      born(today, 34, 120),
			Sex:            athlete.Female,
			PlayingSide:    athlete.LeftSided,
			WritingHand:    "right",
			TrainingMonths: 14,
			GoalSpeed:      42.9,
			GoalText:       "Reach the par-four 7th in two at the match",
			DriverMassG:    302,
		},
	)
	f.Training.BarKg = 20
	f.Competitions = append(f.Competitions, athlete.Competition{Date: today.Add(33), Name: "Winter foursomes"})
	return golfer{facts: f, draft: "measured-gap", issue: true, past: true, screens: []screen{
		{60, "Desk day, drove 40 min", cells(
			row("mass", "", "kg", "63.1"), row("height", "", "cm", "168.2"),
			row("thoracic-rotation", "toward", "deg", "50", "52"), row("thoracic-rotation", "away", "deg", "46", "48"),
			row("hip-ir", "lead", "deg", "33", "35"), row("hip-ir", "trail", "deg", "36", "37"),
			row("ankle-lunge", "lead", "cm", "10.5", "10.9"), row("ankle-lunge", "trail", "cm", "10.2", "10.8"),
			row("grip", "lead", "kg", "30.5", "31.5", "31.0"), row("grip", "trail", "kg", "28.0", "28.5", "28.2"),
			row("cmj", "", "cm", "25.1", "25.8", "25.5"),
			row("chest-throw", "", "m", "3.62", "3.70", "3.66"),
			row("rotary-throw", "toward", "m", "6.4", "6.6", "6.5"), row("rotary-throw", "away", "m", "5.6", "5.8", "5.7"),
			row("driver-speed", "", "mph", "87.1", "87.9", "88.4", "88.0", "87.6"), row("cruise-speed", "", "mph", "83.0", "83.4", "82.8", "83.1", "83.3"),
			row("trap-bar-lift", "", "kg", "62.5x5@2"), row("push-up", "", "reps", "9"))},
		{2, "Day off, easy walk", cells(
			row("mass", "", "kg", "63.4"), row("height", "", "cm", "168.2"),
			row("thoracic-rotation", "toward", "deg", "51", "53"), row("thoracic-rotation", "away", "deg", "49", "50"),
			row("hip-ir", "lead", "deg", "34", "35"), row("hip-ir", "trail", "deg", "36", "38"),
			row("ankle-lunge", "lead", "cm", "10.6", "11.0"), row("ankle-lunge", "trail", "cm", "10.6", "10.7"),
			row("grip", "lead", "kg", "31.5", "32.5", "32.0"), row("grip", "trail", "kg", "29.0", "29.0", "28.6"),
			row("cmj", "", "cm", "26.3", "26.9", "26.6"),
			row("chest-throw", "", "m", "3.70", "3.78", "3.74"),
			row("rotary-throw", "toward", "m", "6.6", "6.9", "6.7"), row("rotary-throw", "away", "m", "5.8", "5.9", "5.7"),
			row("driver-speed", "", "mph", "89.0", "89.8", "90.3", "90.1", "89.6"), row("cruise-speed", "", "mph", "84.1", "84.6", "84.3", "84.0", "84.4"),
			row("other-side-speed", "playing", "mph", "90.8", "91.6", "91.2"), row("other-side-speed", "other", "mph", "72.4", "73.1", "73.0"),
			row("trap-bar-lift", "", "kg", "60x5@3", "70x5@2"), row("push-up", "", "reps", "11"))},
	}}
}

// finn is near his growth spurt: quick, light, and to be held back.
func finn(today civil.Date) golfer {
	f := base(
		today,
		athlete.Profile{
			Name:           "Finn Orrin",
			BirthDate:      born(today, 15, 60),
			Sex:            athlete.Male,
			PlayingSide:    athlete.RightSided,
			WritingHand:    "right",
			TrainingMonths: 3,
			GoalSpeed:      44.7,
			GoalText:       "Hit it past his brother",
			DriverMassG:    295,
		},
	)
	f.Consent = &athlete.Consent{Guardian: "Runa Orrin", On: today.Add(-10)}
	f.Training.Days, f.Training.Sessions, f.Training.Minutes = []string{"tue", "thu", "sat"}, 2, 45
	f.Training.BarKg = 15
	return golfer{facts: f, screens: []screen{{3, "School sports in the morning", cells(
		row("mass", "", "kg", "52.4"), row("height", "", "cm", "165.5"), row("sitting-height", "", "cm", "85.2"),
		row("thoracic-rotation", "toward", "deg", "58", "60"), row("thoracic-rotation", "away", "deg", "56", "57"),
		row("hip-ir", "lead", "deg", "38", "40"), row("hip-ir", "trail", "deg", "41", "42"),
		row("ankle-lunge", "lead", "cm", "8.2", "8.4"), row("ankle-lunge", "trail", "cm", "8.0", "8.1"),
		row("grip", "lead", "kg", "26.0", "27.0", "26.5"), row("grip", "trail", "kg", "28.0", "28.5", "28.0"),
		row("cmj", "", "cm", "29.4", "30.2", "29.9"), row("chest-throw", "", "m", "3.9", "4.0", "3.95"),
		row("rotary-throw", "toward", "m", "6.1", "6.3", "6.2"), row("rotary-throw", "away", "m", "5.9", "6.0", "6.1"),
		row("driver-speed", "", "mph", "84.2", "85.6", "86.1", "85.0", "85.9"), row("cruise-speed", "", "mph", "83.0", "83.6", "83.1"),
		row("trap-bar-lift", "", "kg", "45x6@4"), row("push-up", "", "reps", "14"))}}}
}

// magnus has a stiff hip and a doctor's limit, and has been playing all his life.
func magnus(today civil.Date) golfer {
	f := base(
		today,
		athlete.Profile{
			Name:           "Magnus Quoyle",
			BirthDate:      born(today, 68, 200),
			Sex:            athlete.Male,
			PlayingSide:    athlete.RightSided,
			WritingHand:    "right",
			TrainingMonths: 8,
			GoalSpeed:      39.3,
			GoalText:       "Eighteen holes without the back talking",
			DriverMassG:    308,
		},
	)
	f.Clearance.Yes = []string{"pressure", "joint", "restriction"}
	f.Clearance.Cleared = &athlete.Cleared{Role: "doctor", On: today.Add(-9), Note: "Treated blood pressure; no jarring on the trail hip"}
	f.Limits = []athlete.Limit{
		{Region: "hip", Side: "trail", Kind: athlete.NoImpact, Until: today.Add(150), SetBy: "doctor", Note: "Arthritic trail hip"},
		{Region: "lumbar-spine", Kind: athlete.LoadCap, CapKg: 70, Until: today.Add(150), SetBy: "doctor"},
	}
	f.Training.Days, f.Training.Sessions, f.Training.Minutes = []string{"mon", "thu"}, 2, 45
	return golfer{facts: f, screens: []screen{{4, "Walked the dog", cells(
		row("mass", "", "kg", "84.6"), row("height", "", "cm", "176.0"),
		row("thoracic-rotation", "toward", "deg", "34", "35"), row("thoracic-rotation", "away", "deg", "38", "39"),
		row("hip-ir", "lead", "deg", "26", "27"), row("hip-ir", "trail", "deg", "13", "14"),
		row("ankle-lunge", "lead", "cm", "7.0", "7.4"), row("ankle-lunge", "trail", "cm", "7.2", "7.2"),
		row("grip", "lead", "kg", "34.0", "35.0", "34.5"), row("grip", "trail", "kg", "38.0", "38.5", "38.2"),
		[]measure.Cell{{Test: "cmj", Trial: 1, Status: "skipped", Note: "Doctor's limit: no landing"}},
		row("chest-throw", "", "m", "3.35", "3.4", "3.3"),
		row("rotary-throw", "toward", "m", "5.0", "5.2", "5.1"), row("rotary-throw", "away", "m", "5.1", "5.3", "5.2"),
		row("driver-speed", "", "mph", "81.0", "82.4", "82.0"), row("cruise-speed", "", "mph", "79.8", "80.1", "79.9"),
		row("trap-bar-lift", "", "kg", "60x6@3"), row("push-up", "", "reps", "10"))}}}
}

// torquil rowed for fifteen years: strong, and short of range everywhere.
func torquil(today civil.Date) golfer {
	f := base(
		today,
		athlete.Profile{
			Name:           "Torquil Brae",
			BirthDate:      born(today, 41, 30),
			Sex:            athlete.Male,
			PlayingSide:    athlete.RightSided,
			WritingHand:    "left",
			TrainingMonths: 120,
			Advanced:       true,
			GoalSpeed:      51.4,
			GoalText:       "115 mph by the match",
			DriverMassG:    312,
		},
	)
	f.Training.Minutes = 75
	return golfer{facts: f, draft: "measured-gap", screens: []screen{
		{61, "Morning, no breakfast", cells(
			row("mass", "", "kg", "96.2"), row("height", "", "cm", "189.5"),
			row("thoracic-rotation", "toward", "deg", "30", "32"), row("thoracic-rotation", "away", "deg", "33", "33"),
			row("hip-ir", "lead", "deg", "19", "20"), row("hip-ir", "trail", "deg", "23", "24"),
			row("cmj", "", "cm", "35.4", "36.1", "35.8"), row("chest-throw", "", "m", "5.3", "5.5", "5.4"),
			row("rotary-throw", "toward", "m", "8.0", "8.3", "8.1"), row("rotary-throw", "away", "m", "6.9", "7.0", "6.8"),
			row("grip", "lead", "kg", "57.0", "58.5", "58.0"), row("grip", "trail", "kg", "54.5", "55.5", "55.0"),
			row("driver-speed", "", "mph", "107.2", "108.0", "108.4"), row("trap-bar-lift", "", "kg", "170x4@2"))},
		{5, "Fitting last week: lighter driver", cells(
			row("mass", "", "kg", "95.8"),
			row("height", "", "cm", "189.5"),
			row("thoracic-rotation", "toward", "deg", "33", "34"),
			row("thoracic-rotation", "away", "deg", "36", "36"),
			row("hip-ir", "lead", "deg", "21", "22"),
			row("hip-ir", "trail", "deg", "24", "25"),
			row("ankle-lunge", "lead", "cm", "6.0", "6.4"),
			row("ankle-lunge", "trail", "cm", "6.6", "6.8"),
			row("grip", "lead", "kg", "58.0", "59.5", "58.5"),
			row("grip", "trail", "kg", "55.0", "56.0", "55.5"),
			row("cmj", "", "cm", "36.0", "36.8", "36.4"),
			row("chest-throw", "", "m", "5.5", "5.6", "5.4"),
			row("rotary-throw", "toward", "m", "8.3", "8.6", "8.4"),
			row("rotary-throw", "away", "m", "7.0", "7.3", "7.1"),
			row("driver-speed", "", "mph", "108.6", "109.7", "109.2", "109.9", "109.0"),
			row("cruise-speed", "", "mph", "101.0", "101.6", "100.8", "101.3", "101.1"),
			row("other-side-speed", "playing", "mph", "110.5", "111.2", "110.9"),
			row("other-side-speed", "other", "mph", "84.0", "85.2", "84.8"),
			row("sj", "", "cm", "32.6", "33.4", "33.0"),
			row("row", "", "kg", "80x6@2"),
			row(
				"implement-ladder",
				"playing",
				"mph",
				"114.6@250",
				"115.2@250",
				"114.9@250",
				"109.8@312",
				"110.4@312",
				"110.1@312",
				"105.0@370",
				"105.9@370",
				"105.4@370",
			),
			row("no-backswing", "", "mph", "88.4", "89.3", "89.0"),
			row("start-direction", "", "deg", "1.8", "-0.6", "2.9", "0.4", "-1.9", "3.1", "1.2", "-0.2", "2.2", "0.9"),
			row("offline", "", "m", "9", "-4", "17", "3", "-12", "21", "8", "-2", "14", "6"),
			row("iron-carry", "", "m", "151", "155", "148", "153", "157", "150", "152", "149"),
			row("trap-bar-lift", "", "kg", "160x5@3", "175x4@2"),
			row("push-up", "", "reps", "31"),
		)}}}
}

// eilidh moves like a gymnast and has hardly lifted anything.
func eilidh(today civil.Date) golfer {
	f := base(
		today,
		athlete.Profile{
			Name:           "Eilidh Saltness",
			BirthDate:      born(today, 20, 300),
			Sex:            athlete.Female,
			PlayingSide:    athlete.RightSided,
			WritingHand:    "right",
			TrainingMonths: 1,
			GoalSpeed:      42.5,
			GoalText:       "University first team",
			DriverMassG:    298,
		},
	)
	f.Training.Kit = []string{"club", "light club", "dumbbells", "band", "medicine ball", "box", "bench", "trap bar"}
	f.Training.Days, f.Training.Sessions, f.Training.Minutes, f.Training.BarKg = []string{"tue", "sat", "sun"}, 2, 60, 15
	return golfer{facts: f, screens: []screen{{1, "Lectures until four", cells(
		row("mass", "", "kg", "58.8"), row("height", "", "cm", "167.0"),
		row("thoracic-rotation", "toward", "deg", "64", "66"), row("thoracic-rotation", "away", "deg", "61", "62"),
		row("hip-ir", "lead", "deg", "47", "48"), row("hip-ir", "trail", "deg", "44", "45"),
		row("ankle-lunge", "lead", "cm", "12.0", "12.5"), row("ankle-lunge", "trail", "cm", "12.4", "12.4"),
		row("grip", "lead", "kg", "22.5", "23.0", "22.0"), row("grip", "trail", "kg", "25.0", "25.5", "24.5"),
		row("cmj", "", "cm", "24.0", "24.9", "24.4"), row("chest-throw", "", "m", "3.1", "3.25", "3.2"),
		row("rotary-throw", "toward", "m", "5.4", "5.6", "5.5"), row("rotary-throw", "away", "m", "5.3", "5.5", "5.4"),
		row("driver-speed", "", "mph", "85.4", "86.0", "86.3", "85.1", "85.8"), row("cruise-speed", "", "mph", "84.0", "83.6", "84.1"),
		row("trap-bar-lift", "", "kg", "40x6@3"), row("push-up", "", "reps", "5"))}}}
}

// jonas came in yesterday: a name and nothing else.
func jonas(today civil.Date) golfer {
	return golfer{facts: athlete.File{
		Athlete: athlete.Profile{Name: "Jonas Firth", BirthDate: born(today, 27, 15), PlayingSide: athlete.RightSided},
		School:  "measured-gap", Clearance: athlete.Clearance{Yes: []string{}}, Limits: []athlete.Limit{}, Competitions: []athlete.Competition{},
		Training: athlete.Training{Days: []string{}, Kit: []string{}},
	}}
}
