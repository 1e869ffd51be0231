package expand

// When a join counts as late, when a hold counts as passed, and how sure a join has to be.
// Said once, here; the pages draw what is said. Common practice, no source.
const (
	// OnTimeS is how late a join may be and still count as on time, seconds: about a minute.
	OnTimeS = 60
	// TooEarlyS is how much before its wish a join may be, seconds: the guests still have what came before. Common practice, no source.
	TooEarlyS = 180
	// HoldGraceS is by how many seconds a longest hold may be passed before it counts.
	HoldGraceS = 5
	// sureEnough is the chance of being on time below which a join is doubtful.
	sureEnough = 0.75
)

// Standing is how a join stands.
type Standing string

// The standings.
const (
	InTime   Standing = "in-time"
	Doubtful Standing = "doubtful" // it is in time, and may well not be
	Late     Standing = "late"     // it is late, or one of its holds is passed
)

// Late reports whether the join comes together later than counts as on time.
func (j *EveningJoin) Late() bool { return j.LateS > OnTimeS }

// Stand says how a join stands, once its chance is known.
func (j *EveningJoin) Stand() Standing {
	switch {
	case j.Late() || j.OverS > HoldGraceS:
		return Late
	case j.Chance >= 0 && j.Chance < sureEnough:
		return Doubtful
	default:
		return InTime
	}
}

// TableStanding is how a table stands: doubtful when one of its joins is not sure enough.
type TableStanding struct {
	Table    string  `json:"table"`
	Chance   float64 `json:"chance" doc:"That of its least sure join, 0 to 1"`
	Doubtful bool    `json:"doubtful"`
}

// Stand fills in how every join and every table stands.
func (p *EveningPlan) Stand() {
	p.Tables = []TableStanding{}
	at := map[string]int{}
	for i := range p.Joins {
		j := &p.Joins[i]
		j.Standing, j.IsLate = j.Stand(), j.Late()
		k, known := at[j.Table]
		if !known {
			k = len(p.Tables)
			at[j.Table] = k
			p.Tables = append(p.Tables, TableStanding{Table: j.Table, Chance: 1})
		}
		t := &p.Tables[k]
		t.Chance = min(t.Chance, max(0, j.Chance))
		t.Doubtful = t.Chance < sureEnough
	}
}
