package schedule

import (
	"context"
	"math/rand/v2"
	"testing"

	"jointime/core/schedule/instances"
)

// The inner loops; ReportAllocs shows that they allocate nothing once warm.

func BenchmarkProfileAddAndLook(b *testing.B) {
	f := newProfile(&resource{capacity: 4})
	r := rand.New(rand.NewPCG(1, 1))
	for range 400 {
		s := r.Int64N(20_000)
		f.add(s, s+60, 1)
	}
	b.ReportAllocs()
	for b.Loop() {
		s, _ := f.earliest(5000, far, 120, 2)
		f.add(s, s+120, 2)
		f.latest(15_000, 0, 90, 1)
		f.add(s, s+120, -2)
	}
}

func BenchmarkEdgeFinding20(b *testing.B) {
	r := rand.New(rand.NewPCG(2, 2))
	base := make([]job, 20)
	for i := range base {
		base[i] = job{node: int32(i), est: r.Int64N(200), lct: 700 + r.Int64N(200), dur: 5 + r.Int64N(20)}
	}
	jobs, idx, scratch := make([]job, 20), make([]int, 20), make([]int64, 40)
	b.ReportAllocs()
	for b.Loop() {
		copy(jobs, base)
		edgeFind(jobs, idx, scratch)
	}
}

func BenchmarkReinsertAGroup(b *testing.B) {
	p := compile(instances.Service(1500, 45, 1))
	p.propagate()
	gs := p.groups()
	bu := newBuilder(context.Background(), p, 1)
	bu.construct(context.Background(), gs)
	nodes := append([]int32{int32(gs[20].join)}, gs[20].nodes...)
	b.ReportAllocs()
	for b.Loop() {
		bu.remove(nodes)
		bu.insert(&gs[20])
	}
}

func BenchmarkOptimalTimingOf1500(b *testing.B) {
	p := compile(instances.Service(1500, 45, 1))
	p.propagate()
	gs := p.groups()
	bu := newBuilder(context.Background(), p, 1)
	bu.construct(context.Background(), gs)
	m := newImprover(bu, gs)
	x := append([]int64(nil), m.x...)
	b.ReportAllocs()
	for b.Loop() {
		m.adopt(x, m.bestOn)
		m.retime()
	}
}

func BenchmarkBranchNodesFT10(b *testing.B) {
	p := compile(instances.JobShops()[2].Workload())
	p.propagate()
	for b.Loop() {
		br, ok := newBrancher(context.Background(), p, 1000, 200)
		if ok {
			br.search()
		}
	}
}
