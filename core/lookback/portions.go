package lookback

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// A fixed part and a part per portion, apart: where a step is done for one and for many, its times tell which of the two is off.

// leastApart is by how much the share of the fixed part has to vary in what was done for the two parts to be told apart, as a deviation.
// Common practice, no source.
const leastApart = 0.06

// parts are the two parts of a written time, in the mean of their three points: seconds per batch and per portion.
func parts(now Written, component, step string) (fixed, each float64, ok bool) {
	mean := func(n int) (float64, bool) {
		low, likely, high, there := now(component, step, n)
		return (low + 4*likely + high) / 6, there
	}
	one, there := mean(1)
	two, _ := mean(2)
	return math.Max(0, 2*one-two), math.Max(0, two-one), there
}

// PortionTimes says of which steps the fixed part and the part per portion are off by different factors; the surest first. A step's time is
// F·a + P·n·b: a and b are fitted to the medians of each service and number of portions by weighted least squares (each over its written
// time, so that all weigh the same), drawn towards 1 as any time is, and whether they differ is tested by Student's t over services. Of a
// step with no written part per portion a tenth of its fixed part stands for what a portion may add, which is then 0 as written.
func PortionTimes(nights []Night, now Written) []Evidence {
	steps, less := own(nights, now)
	out := []Evidence{}
	for _, key := range keysOf(steps) {
		s := steps[key]
		fixed, each, ok := parts(now, key.component, key.step)
		if !ok || len(s.by) < leastNights+1 {
			continue
		}
		if f, ok := fitParts(s.byPortions(less), fixed, each); ok {
			f.Kind, f.Component, f.Step, f.What, f.Act, f.Section = "portions", key.component, key.step, s.what.What, s.what.Act, s.what.Section
			f.Seen, f.Nights = s.count, len(s.by)
			out = append(out, f)
		}
	}
	decide(out)
	for i := range out {
		out[i].Said = out[i].sure && worthApart(&out[i]) // the parts may differ where the fixed one is as written
	}
	slices.SortStableFunc(out, func(a, b Evidence) int { return cmp.Compare(a.P, b.P) })
	return out
}

// byPortions are the ratios of a step by night and number of portions, less what a person accounts for.
func (s *seen) byPortions(less func(night int, who string) float64) map[int]map[int][]float64 {
	out := map[int]map[int][]float64{}
	for night, list := range s.by {
		out[night] = map[int][]float64{}
		for _, r := range list {
			out[night][r.portions] = append(out[night][r.portions], r.y-less(night, r.who))
		}
	}
	return out
}

// worthApart reports whether the two parts differ by enough to be worth saying.
func worthApart(f *Evidence) bool {
	return math.Abs(math.Log(math.Max(f.Factor, 0.05)/math.Max(f.PerPortion, 0.05))) >= math.Log(1+3*worthSaying)
}

// fitParts fits the two factors to the medians of each service by number of portions.
func fitParts(by map[int]map[int][]float64, fixed, each float64) (Evidence, bool) {
	// y = a·x + b·z: real over written, what the fixed part is of what is written, and what the portions are.
	type point struct{ x, z, y float64 }
	var all []point
	written := each
	if each == 0 {
		each = fixed / 10
	}
	if fixed == 0 {
		return Evidence{}, false
	}
	mean, square := 0.0, 0.0
	for _, night := range sortedInts(by) {
		for _, n := range sortedInts(by[night]) {
			is := fixed + written*float64(n)
			p := point{fixed / is, each * float64(n) / is, math.Exp(median(by[night][n]))}
			all = append(all, p)
			mean, square = mean+p.z, square+p.z*p.z
		}
	}
	m := float64(len(all))
	if m < leastNights+2 || square/m-mean*mean/m/m < leastApart*leastApart {
		return Evidence{}, false // always about as many
	}
	a0, b0 := 1.0, 1.0
	if written == 0 {
		b0 = 0
	}
	// Normal equations about what is written.
	var xx, xz, zz, xr, zr float64
	for _, p := range all {
		r := p.y - a0*p.x - b0*p.z
		xx, xz, zz = xx+p.x*p.x, xz+p.x*p.z, zz+p.z*p.z
		xr, zr = xr+p.x*r, zr+p.z*r
	}
	det := xx*zz - xz*xz
	if det <= 1e-9 {
		return Evidence{}, false
	}
	da, db := (zz*xr-xz*zr)/det, (xx*zr-xz*xr)/det
	rss := 0.0
	for _, p := range all {
		r := p.y - (a0+da)*p.x - (b0+db)*p.z
		rss += r * r
	}
	df := math.Max(1, float64(len(by))-2) // services are what is drawn
	variance := (rss + spreadWeight*usualSpread*usualSpread) / (m - 2 + spreadWeight)
	// What is tested is whether one factor does for both: whether the difference of the two is none. Var(a−b) = σ²·(zz + xx + 2·xz)/det.
	differs, se := da-db, math.Sqrt(variance*(xx+zz+2*xz)/det)
	if written == 0 {
		differs, se = db, math.Sqrt(variance*xx/det)
	}
	student := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}
	prior := writtenSD * writtenSD
	shrink := func(d, v float64) float64 { return d * prior / (prior + v) }
	va, vb := variance*zz/det, variance*xx/det
	a, b := a0+shrink(da, va), b0+shrink(db, vb)
	q := student.Quantile(0.95)
	sd := math.Sqrt(prior * va / (prior + va))
	f := Evidence{Factor: math.Max(0.05, a), Low: math.Max(0, a-q*sd), High: a + q*sd, PerPortion: math.Max(0, b),
		P: 2 * student.CDF(-math.Abs(differs/se)), FixedS: fixed * math.Max(0.05, a), PortionS: each * math.Max(0, b)}
	return f, true
}

func sortedInts[T any](m map[int]T) []int {
	out := make([]int, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
