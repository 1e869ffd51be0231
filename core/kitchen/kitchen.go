// Package kitchen holds the kitchen's data as the trade knows it: sections,
// people, equipment and vessels; components with their steps and waits; dishes
// with their plating specifications.
//
// The plain structs are what a person edits, what a file holds and what the
// store keeps. Nothing computes on them directly: NewBook checks them against
// each other, returns every fault with its path, and gives a Book, which cannot
// be built wrong and is what all other core packages take.
package kitchen

import "slices"

// Kitchen is the house itself: its name, where its clock stands, and which code
// of food safety it follows.
type Kitchen struct {
	Name       string     `json:"name" maxLength:"120"`
	TimeZone   string     `json:"time_zone" doc:"IANA name of the kitchen's time zone"`
	SafetyCode SafetyCode `json:"safety_code" enum:"uk-eu,us-fda"`
	// ServiceFrom and ServiceTo are minutes after midnight.
	DayFrom     int `json:"day_from" doc:"First minute of the working day, after midnight"`
	ServiceFrom int `json:"service_from" doc:"First minute of service, after midnight"`
	ServiceTo   int `json:"service_to" doc:"Last minute of service, after midnight"`
	// PlatingHands is how many people plate a table unless somebody says otherwise.
	PlatingHands int `json:"plating_hands" doc:"People at the pass for one table, 1 to 8"`
	// ServeC is how hot something hot is to be on the plate.
	ServeC float64 `json:"serve_c,omitempty" doc:"How hot something hot is to be on the plate, °C; 55 when missing"`
	// Diets are what the house says of those that have no meaning by their words alone.
	Diets []DietRule `json:"diets,omitempty" nullable:"false" doc:"What halal and kosher are in this house"`
}

// ServedC is how hot something hot is to be on the plate, °C.
func (k *Kitchen) ServedC() float64 {
	if k.ServeC > 0 {
		return k.ServeC
	}
	return servedC
}

// SafetyCode is the code whose limits are shown.
type SafetyCode string

// The codes that are known.
const (
	CodeUKEU SafetyCode = "uk-eu"
	CodeFDA  SafetyCode = "us-fda"
)

// Section is a work station: larder, fish, roast and sauce, garnish, pastry; and
// the pass, where plates are finished.
type Section struct {
	ID      string  `json:"id"`
	Name    string  `json:"name" maxLength:"120"`
	Hue     Hue     `json:"hue" enum:"blue,rust,green,violet,gold,teal,slate"`
	Pattern Pattern `json:"pattern" enum:"plain,rising,falling,cross,dots,bars,grid"`
	Pass    bool    `json:"pass" doc:"This section is the pass: its people may plate"`
}

// Hue and Pattern tell sections apart for every kind of eye.
type (
	Hue     string
	Pattern string
)

var (
	hues     = []Hue{"blue", "rust", "green", "violet", "gold", "teal", "slate"}
	patterns = []Pattern{"plain", "rising", "falling", "cross", "dots", "bars", "grid"}
)

// Person works in one or several sections; the first is home.
type Person struct {
	ID       string   `json:"id"`
	Name     string   `json:"name" maxLength:"120"`
	Role     string   `json:"role,omitempty" maxLength:"120"`
	Sections []string `json:"sections" nullable:"false"`
	Eyes     int      `json:"eyes" doc:"How many things they watch at once, beside what their hands do: 1 to 12; 0 where it was not said, taken as 4"`
	Hours    []Hours  `json:"hours" nullable:"false"`
	Absent   []string `json:"absent,omitempty" nullable:"false" doc:"Days on which they are away, YYYY-MM-DD"`
}

// MostEyes is how many things anybody can watch at once.
const MostEyes = 12

// usualEyes is how many things a cook watches at once: common practice, no source.
const usualEyes = 3

// Watches is how many things a person watches at once. Where it was never said, before it could be, it is four.
func (p *Person) Watches() int {
	if p.Eyes == 0 {
		return 4
	}
	return p.Eyes
}

// Home is the section that a person belongs to: the first of theirs; "" for one without.
func (p *Person) Home() string {
	if len(p.Sections) == 0 {
		return ""
	}
	return p.Sections[0]
}

// Hours is when a person works on a day of the week, in minutes after midnight;
// To may pass 1440 into the night.
type Hours struct {
	Day  int `json:"day" doc:"0 Sunday to 6 Saturday"`
	From int `json:"from"`
	To   int `json:"to"`
}

// EquipmentKind is what a piece of equipment is.
type EquipmentKind string

// The kinds of equipment.
const (
	Oven         EquipmentKind = "oven"
	Burner       EquipmentKind = "burner"
	Grill        EquipmentKind = "grill"
	Plancha      EquipmentKind = "plancha"
	Fryer        EquipmentKind = "fryer"
	WaterBath    EquipmentKind = "water-bath"
	Steamer      EquipmentKind = "steamer"
	Salamander   EquipmentKind = "salamander"
	Holding      EquipmentKind = "holding"
	Fridge       EquipmentKind = "fridge"
	Freezer      EquipmentKind = "freezer"
	BlastChiller EquipmentKind = "blast-chiller"
	Blender      EquipmentKind = "blender"
	Mixer        EquipmentKind = "mixer"
	Dehydrator   EquipmentKind = "dehydrator"
	Churn        EquipmentKind = "churn"
	Bench        EquipmentKind = "bench"
	// SmallWare is what is counted and not cooked on: moulds, rings, pans, trays.
	SmallWare EquipmentKind = "small-ware"
	Pass      EquipmentKind = "pass"
)

// Heats reports whether it makes food hot.
func (k EquipmentKind) Heats() bool {
	return slices.Contains([]EquipmentKind{Oven, Burner, Steamer, Fryer, WaterBath, Grill, Plancha, Salamander}, k)
}

// Chills reports whether food is made or kept cold in it.
func (k EquipmentKind) Chills() bool { return k == BlastChiller || k == Fridge || k == Freezer }

var equipmentKinds = []EquipmentKind{Oven, Burner, Grill, Plancha, Fryer, WaterBath, Steamer, Salamander, Holding,
	Fridge, Freezer, BlastChiller, Blender, Mixer, Dehydrator, Churn, Bench, SmallWare, Pass}

// EquipmentKinds lists every kind, in the order in which they are offered.
func EquipmentKinds() []EquipmentKind { return append([]EquipmentKind(nil), equipmentKinds...) }

// Equipment is one piece with its room, counted in what its kind counts in:
// shelves, zones, baskets, portions, burners.
type Equipment struct {
	ID         string        `json:"id"`
	Name       string        `json:"name" maxLength:"120"`
	Kind       EquipmentKind `json:"kind"`
	Capacity   int           `json:"capacity" doc:"How many units it takes at once"`
	Unit       string        `json:"unit" doc:"What its room is counted in: shelf, zone, basket, portion" maxLength:"30"`
	Thermostat *Thermostat   `json:"thermostat,omitempty"`
	// RinseS is how long whoever used it rinses it, before it is used for something else.
	RinseS int `json:"rinse_s,omitempty" doc:"Seconds of the hands to rinse it after each use"`
	// Still is an oven without a fan; RecoverS how long it takes until it is hot again after the door.
	Still    bool `json:"still,omitempty" doc:"An oven without a fan"`
	RecoverS int  `json:"recover_s,omitempty" doc:"Seconds until it is hot again after the door was open"`
}

// Thermostat is for equipment that has one temperature at a time.
type Thermostat struct {
	LowC        float64 `json:"low_c"`
	HighC       float64 `json:"high_c"`
	StandbyC    float64 `json:"standby_c" doc:"Where it stands when the service begins, °C"`
	HeatCPerMin float64 `json:"heat_c_per_min"`
	CoolCPerMin float64 `json:"cool_c_per_min"`
	ToleranceC  float64 `json:"tolerance_c"`
}

// Vessel is what a dish is served on or in.
type Vessel struct {
	ID   string     `json:"id"`
	Name string     `json:"name" maxLength:"120"`
	Kind VesselKind `json:"kind"`
	// WidthMm is the outer width (the diameter of a round one), DepthMm the outer
	// size the other way (oval and rectangular ones).
	WidthMm  float64 `json:"width_mm"`
	DepthMm  float64 `json:"depth_mm,omitempty"`
	RimMm    float64 `json:"rim_mm" doc:"Width of the rim, kept free of food"`
	HeightMm float64 `json:"height_mm" doc:"From the well's floor to the edge"`
	Colour   string  `json:"colour,omitempty" doc:"#rrggbb; white enamel when empty"`
	// Material is what it is made of; WarmC how warm it is put out.
	Material VesselMaterial `json:"material,omitempty" enum:"porcelain,stoneware,glass,slate,wood,metal" doc:"Porcelain when missing"`
	WarmC    float64        `json:"warm_c,omitempty" doc:"How warm it is put out, °C; 0 when it comes from the shelf"`
}

// VesselMaterial is what a vessel is made of.
type VesselMaterial string

// MadeOf is what a vessel is made of, porcelain where nobody said.
func (v *Vessel) MadeOf() VesselMaterial {
	if v.Material == "" {
		return "porcelain"
	}
	return v.Material
}

var vesselMaterials = []VesselMaterial{"porcelain", "stoneware", "glass", "slate", "wood", "metal"}

// VesselKind is the shape of a vessel.
type VesselKind string

var vesselKinds = []VesselKind{"round", "coupe", "bowl", "oval", "slate", "cup"}

// CheckKitchen returns what is wrong with the house's settings.
func CheckKitchen(k Kitchen) Faults {
	f := newFinder()
	f.at("name").name(k.Name)
	checkZone(f.at("time_zone"), k.TimeZone)
	oneOf(f.at("safety_code"), k.SafetyCode, []SafetyCode{CodeUKEU, CodeFDA})
	if k.ServeC != 0 {
		within(f.at("serve_c"), k.ServeC, 40, 80)
	}
	checkHouseDiets(f.at("diets"), k.Diets)
	within(f.at("day_from"), k.DayFrom, 0, 1440)
	within(f.at("service_from"), k.ServiceFrom, 0, 1440)
	within(f.at("service_to"), k.ServiceTo, 0, 2880)
	if k.ServiceTo <= k.ServiceFrom {
		f.at("service_to").say("fault.service-ends")
	}
	within(f.at("plating_hands"), k.PlatingHands, 1, 8)
	return *f.faults
}

// CheckSection returns what is wrong with one section by itself.
func CheckSection(s Section) Faults {
	f := newFinder()
	f.at("id").id(s.ID)
	f.at("name").name(s.Name)
	oneOf(f.at("hue"), s.Hue, hues)
	oneOf(f.at("pattern"), s.Pattern, patterns)
	return *f.faults
}

// CheckPerson returns what is wrong with one person by themselves.
func CheckPerson(p Person) Faults {
	f := newFinder()
	f.at("id").id(p.ID)
	f.at("name").name(p.Name)
	if len(p.Sections) == 0 {
		f.at("sections").say("fault.one-section")
	}
	within(f.at("eyes"), p.Eyes, 0, MostEyes)
	checkAbsent(f.at("absent"), p.Absent)
	for i, h := range p.Hours {
		g := f.at("hours[%d]", i)
		within(g.at("day"), h.Day, 0, 6)
		within(g.at("from"), h.From, 0, 1440)
		within(g.at("to"), h.To, 0, 2880)
		if h.To <= h.From {
			g.at("to").say("fault.hours-end")
		}
	}
	return *f.faults
}

// CheckEquipment returns what is wrong with one piece of equipment.
func CheckEquipment(e Equipment) Faults {
	f := newFinder()
	f.at("id").id(e.ID)
	f.at("name").name(e.Name)
	oneOf(f.at("kind"), e.Kind, equipmentKinds)
	within(f.at("capacity"), e.Capacity, 1, 10000)
	within(f.at("rinse_s"), e.RinseS, 0, 1800)
	within(f.at("recover_s"), e.RecoverS, 0, 1800)
	if t := e.Thermostat; t != nil {
		g := f.at("thermostat")
		within(g.at("low_c"), t.LowC, -60, 600)
		within(g.at("high_c"), t.HighC, t.LowC, 600)
		within(g.at("standby_c"), t.StandbyC, -60, 600)
		within(g.at("heat_c_per_min"), t.HeatCPerMin, 0.1, 500)
		within(g.at("cool_c_per_min"), t.CoolCPerMin, 0.1, 500)
		within(g.at("tolerance_c"), t.ToleranceC, 0, 100)
	}
	return *f.faults
}

// CheckVessel returns what is wrong with one vessel.
func CheckVessel(v Vessel) Faults {
	f := newFinder()
	f.at("id").id(v.ID)
	f.at("name").name(v.Name)
	oneOf(f.at("kind"), v.Kind, vesselKinds)
	within(f.at("width_mm"), v.WidthMm, 30, 1000)
	if v.DepthMm != 0 {
		within(f.at("depth_mm"), v.DepthMm, 30, 1000)
	}
	within(f.at("rim_mm"), v.RimMm, 0, v.WidthMm/2-10)
	within(f.at("height_mm"), v.HeightMm, 0, 300)
	if v.Material != "" {
		oneOf(f.at("material"), v.Material, vesselMaterials)
	}
	within(f.at("warm_c"), v.WarmC, 0, 120)
	return *f.faults
}
