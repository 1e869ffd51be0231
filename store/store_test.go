package store_test

import (
	"context"
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/demo"
	"jointime/store"
	"jointime/store/storetest"
)

var hake = kitchen.Key{Kind: kitchen.ComponentRecord, ID: "hake"}

func loaded(t *testing.T) *store.Store {
	t.Helper()
	s := storetest.Open(t)
	d, err := demo.Kitchen()
	require.NoError(t, err)
	require.NoError(t, s.Import(context.Background(), d, "demo"))
	return s
}

func component(t *testing.T, s *store.Store, id string) (kitchen.Component, int64) {
	t.Helper()
	snap, err := s.Snapshot(context.Background())
	require.NoError(t, err)
	c, ok := snap.Book.Component(id)
	require.True(t, ok)
	return c.Clone(), snap.Versions[kitchen.Key{Kind: kitchen.ComponentRecord, ID: id}]
}

func TestEmptyThenImportedThenTheSameBack(t *testing.T) {
	s := storetest.Open(t)
	ctx := context.Background()
	snap, err := s.Snapshot(ctx)
	require.NoError(t, err)
	require.True(t, snap.Empty)
	d, err := demo.Kitchen()
	require.NoError(t, err)
	require.NoError(t, s.Import(ctx, d, "demo"))
	require.ErrorIs(t, s.Import(ctx, d, "again"), store.ErrNotEmpty)
	snap, err = s.Snapshot(ctx)
	require.NoError(t, err)
	require.Equal(t, d.Dishes, snap.Book.Dishes())
	require.Equal(t, d.People, snap.Book.People())
	for _, c := range d.Components {
		got, ok := snap.Book.Component(c.ID)
		require.True(t, ok)
		require.Equal(t, c, *got)
	}
}

func TestASecondWriterFromTheSameVersionIsTold(t *testing.T) {
	s := loaded(t)
	ctx := context.Background()
	c, version := component(t, s, "hake")
	c.Steps[1].Time.Fixed = kitchen.Exactly(200)
	next, err := s.Save(ctx, hake, version, c, "first")
	require.NoError(t, err)
	require.Equal(t, version+1, next)
	_, err = s.Save(ctx, hake, version, c, "second")
	var conflict *store.Conflict
	require.ErrorAs(t, err, &conflict)
	require.Equal(t, next, conflict.Current)
	h, err := s.History(ctx, hake)
	require.NoError(t, err)
	require.Len(t, h, 2)
	require.Equal(t, "first", h[0].Said)
	var old kitchen.Component
	require.NoError(t, s.At(ctx, hake, version, &old))
	require.NotEqual(t, c.Steps[1].Time, old.Steps[1].Time)
}

// Many writers at once: every accepted change has a version of its own, and none
// is lost.
func TestConcurrentWriters(t *testing.T) {
	s := loaded(t)
	ctx := context.Background()
	c, first := component(t, s, "hake")
	var mu sync.Mutex
	accepted := 0
	var wg sync.WaitGroup
	for w := range 8 {
		wg.Go(func() {
			for range 5 {
				snap, err := s.Snapshot(ctx)
				if err != nil {
					t.Error(err)
					return
				}
				mine := c.Clone()
				mine.Steps[1].Time.Fixed = kitchen.Exactly(100 + w)
				version, err := s.Save(ctx, hake, snap.Versions[hake], mine, "w")
				var conflict *store.Conflict
				switch {
				case err == nil && version == snap.Versions[hake]:
					// It was so already: no new version.
				case err == nil:
					mu.Lock()
					accepted++
					mu.Unlock()
				case !asConflict(err, &conflict):
					t.Error(err)
				}
			}
		})
	}
	wg.Wait()
	_, version := component(t, s, "hake")
	require.Equal(t, first+int64(accepted), version)
	require.Positive(t, accepted)
}

func asConflict(err error, c **store.Conflict) bool {
	x, ok := err.(*store.Conflict)
	*c = x
	return ok
}

func TestAFaultyChangeWritesNothing(t *testing.T) {
	s := loaded(t)
	ctx := context.Background()
	c, version := component(t, s, "hake")
	c.Steps[1].After[0].Step = "nowhere"
	c.Steps[2].Equipment.Units = 99
	_, err := s.Save(ctx, hake, version, c, "bad")
	var faults kitchen.Faults
	require.ErrorAs(t, err, &faults)
	require.Equal(t, "steps[1].after[0].step", faults[0].Path)
	_, after := component(t, s, "hake")
	require.Equal(t, version, after)
	h, err := s.History(ctx, hake)
	require.NoError(t, err)
	require.Len(t, h, 1)
}

func TestWhatIsUsedCannotBeDeleted(t *testing.T) {
	s := loaded(t)
	ctx := context.Background()
	_, version := component(t, s, "hake")
	var used *store.InUse
	require.ErrorAs(t, s.Delete(ctx, hake, version, "gone"), &used)
	require.Equal(t, kitchen.Key{Kind: kitchen.DishRecord, ID: "hake-cider-butter"}, used.By[0])
	require.ErrorIs(t, s.Delete(ctx, kitchen.Key{Kind: kitchen.ComponentRecord, ID: "none"}, 1, ""), store.ErrNotFound)
}

func TestMigratingTwiceChangesNothing(t *testing.T) {
	s := loaded(t)
	require.NoError(t, s.Migrate(context.Background()))
	_, version := component(t, s, "hake")
	require.Equal(t, int64(1), version)
}

// A save that changes nothing makes no version and no history, and nobody else's change is
// refused for it.
func TestASaveThatChangesNothing(t *testing.T) {
	s := loaded(t)
	ctx := context.Background()
	c, version := component(t, s, "hake")
	before, err := s.Snapshot(ctx)
	require.NoError(t, err)
	same, err := s.Save(ctx, hake, version, c, "again")
	require.NoError(t, err)
	require.Equal(t, version, same)
	after, err := s.Snapshot(ctx)
	require.NoError(t, err)
	require.Equal(t, before.Revision, after.Revision)
	h, err := s.History(ctx, hake)
	require.NoError(t, err)
	require.Len(t, h, 1)
	_, err = s.Save(ctx, hake, version+1, c, "from another version")
	var conflict *store.Conflict
	require.ErrorAs(t, err, &conflict)
}

// What this server saved it knows without reading; what another one saved it reads.
func TestASaveIsKnownAtOnce(t *testing.T) {
	url := storetest.URL(t)
	ctx := context.Background()
	a, err := store.Open(ctx, url, storetest.Clock)
	require.NoError(t, err)
	defer a.Close()
	require.NoError(t, a.Migrate(ctx))
	d, err := demo.Kitchen()
	require.NoError(t, err)
	require.NoError(t, a.Import(ctx, d, "demo"))
	b, err := store.Open(ctx, url, storetest.Clock)
	require.NoError(t, err)
	defer b.Close()
	for i, s := range []*store.Store{a, b, a, a, b} {
		c, version := component(t, s, "hake")
		c.Name = fmt.Sprintf("Hake %d", i)
		next, err := s.Save(ctx, hake, version, c, "named")
		require.NoError(t, err)
		require.Equal(t, next, s.Known().Versions[hake])
		for _, other := range []*store.Store{a, b} {
			got, at := component(t, other, "hake")
			require.Equal(t, c.Name, got.Name)
			require.Equal(t, next, at)
		}
	}
	// Deleted and made again, its history goes on.
	key := kitchen.Key{Kind: kitchen.StockRecord, ID: "x"}
	made := kitchen.Stock{ID: "x", Component: "hake", Amount: 1, UseBy: storetest.Clock()}
	for want := int64(1); want <= 5; want += 2 {
		version, err := a.Save(ctx, key, 0, made, "new")
		require.NoError(t, err)
		require.Equal(t, want, version)
		require.NoError(t, a.Delete(ctx, key, version, "gone"))
		require.Zero(t, a.Known().Versions[key])
	}
}
