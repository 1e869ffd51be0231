package kitchen

// Starter is a kitchen to begin with: a cook, a section and the pass, the equipment and
// the vessels that most kitchens have. Everything in it is meant to be changed. The
// figures are common practice, no source. zone is an IANA time zone.
func Starter(name, zone string, code SafetyCode) Data {
	var week []Hours
	for day := range 7 {
		week = append(week, Hours{Day: day, From: 10 * 60, To: 23 * 60})
	}
	oven := &Thermostat{LowC: 50, HighC: 280, StandbyC: 180, HeatCPerMin: 12, CoolCPerMin: 4, ToleranceC: 5}
	return Data{
		Kitchen: Kitchen{Name: name, TimeZone: zone, SafetyCode: code, DayFrom: 10 * 60, ServiceFrom: 18 * 60, ServiceTo: 22 * 60,
			PlatingHands: 1},
		Sections: []Section{{ID: "stove", Name: "Stove", Hue: "rust", Pattern: "cross"}, {ID: "pass", Name: "Pass", Hue: "slate",
			Pattern: "plain", Pass: true}},
		People: []Person{{ID: "chef", Name: "Chef", Role: "Head chef", Sections: []string{"stove", "pass"}, Eyes: usualEyes, Hours: week}},
		Equipment: []Equipment{
			{ID: "oven", Name: "Oven", Kind: Oven, Capacity: 4, Unit: "shelf", Thermostat: oven},
			{ID: "burners", Name: "Burners", Kind: Burner, Capacity: 4, Unit: "burner"},
			{ID: "fridge", Name: "Fridge", Kind: Fridge, Capacity: 20, Unit: "shelf"},
			{ID: "freezer", Name: "Freezer", Kind: Freezer, Capacity: 6, Unit: "shelf"},
			{ID: "pass", Name: "Pass", Kind: Pass, Capacity: 6, Unit: "plate"},
		},
		Vessels: []Vessel{
			{ID: "plate-270", Name: "Round plate, 27 cm", Kind: "round", WidthMm: 270, RimMm: 34, HeightMm: 18},
			{ID: "bowl-230", Name: "Deep bowl, 23 cm", Kind: "bowl", WidthMm: 230, RimMm: 44, HeightMm: 52},
			{ID: "slate-300", Name: "Slate, 30 × 20 cm", Kind: "slate", WidthMm: 300, DepthMm: 200, RimMm: 10, HeightMm: 6, Colour: "#4a5054"},
		},
		Components: []Component{}, Dishes: []Dish{},
	}
}
