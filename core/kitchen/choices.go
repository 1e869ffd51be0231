package kitchen

import "slices"

// Choices are the words and kinds among which somebody chooses, each list in the order in which it is offered.
type Choices struct {
	Hues         []Hue            `json:"hues" nullable:"false"`
	Patterns     []Pattern        `json:"patterns" nullable:"false"`
	Vessels      []VesselKind     `json:"vessels" nullable:"false"`
	Equipment    []EquipmentKind  `json:"equipment" nullable:"false"`
	Forms        []string         `json:"forms" nullable:"false" doc:"Kinds of form for elements"`
	Temperatures []TempClass      `json:"temperatures" nullable:"false" doc:"How warm something is served"`
	Textures     []Texture        `json:"textures" nullable:"false"`
	Tastes       []Taste          `json:"tastes" nullable:"false"`
	Allergens    []Allergen       `json:"allergens" nullable:"false" doc:"Those that can be named, in the order of Annex II"`
	Matters      []Matter         `json:"matters" nullable:"false" doc:"What diets ask after and law does not want named"`
	Diets        []Diet           `json:"diets" nullable:"false"`
	HouseDiets   []Diet           `json:"house_diets" nullable:"false" doc:"Those that a house defines for itself"`
	Dangers      []Danger         `json:"dangers" nullable:"false"`
	Things       []Usual          `json:"things" nullable:"false" doc:"Kinds of thing of which the trade's limits are usual"`
	Materials    []VesselMaterial `json:"materials" nullable:"false" doc:"What vessels are made of"`
	Thermostat   Thermostat       `json:"thermostat" doc:"What a thermostat is until more is said"`
}

// EveryChoice lists all of them.
func EveryChoice() Choices {
	return Choices{Hues: slices.Clone(hues), Patterns: slices.Clone(patterns), Vessels: slices.Clone(vesselKinds), Equipment: EquipmentKinds(),
		Forms: FormKinds(), Temperatures: slices.Clone(tempClasses), Textures: slices.Clone(textures), Tastes: slices.Clone(tastes),
		Allergens: EUAllergens(), Matters: Matters(), Diets: Diets(), HouseDiets: HouseDiets(), Dangers: Dangers(), Things: Usuals(),
		Materials: slices.Clone(vesselMaterials), Thermostat: NewThermostat()}
}
