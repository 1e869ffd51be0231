// Package demo holds the invented kitchen that shows what Jointime does. Its
// data are files of the same shape as a user's, and are loaded the same way.
package demo

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"time"

	"jointime/core/kitchen"
)

//go:embed data
var files embed.FS

// unread is the one component whose recipe nobody has said to be complete; the others were read at readAt.
const unread = "rye-crisp"

var readAt = time.Date(2026, 5, 4, 15, 0, 0, 0, time.UTC)

// menu is the order in which dishes stand on the menu.
var menu = []string{"charred-leek", "mussel-custard", "beetroot-dumplings", "hake-cider-butter", "guinea-fowl-barley",
	"salt-baked-celeriac", "rhubarb-custard", "treacle-sponge"}

// Kitchen reads the demo's kitchen.
func Kitchen() (kitchen.Data, error) {
	var d kitchen.Data
	for _, f := range []struct {
		name string
		into any
	}{{"kitchen", &d.Kitchen}, {"sections", &d.Sections}, {"people", &d.People}, {"equipment", &d.Equipment}, {"vessels", &d.Vessels}} {
		if err := decode("data/"+f.name+".json", f.into); err != nil {
			return d, err
		}
	}
	if err := all("data/components", &d.Components); err != nil {
		return d, err
	}
	if err := all("data/dishes", &d.Dishes); err != nil {
		return d, err
	}
	// Every recipe was read through, but for one that somebody has yet to read.
	for i := range d.Components {
		if d.Components[i].ID != unread {
			d.Components[i].Sign("Ada Brandt", readAt)
		}
	}
	slices.SortStableFunc(d.Dishes, func(a, b kitchen.Dish) int {
		return slices.Index(menu, a.ID) - slices.Index(menu, b.ID)
	})
	return d, nil
}

func all[T any](dir string, into *[]T) error {
	entries, err := fs.ReadDir(files, dir)
	if err != nil {
		return err
	}
	for _, e := range entries {
		var v T
		if err := decode(path.Join(dir, e.Name()), &v); err != nil {
			return err
		}
		*into = append(*into, v)
	}
	return nil
}

func decode(name string, into any) error {
	raw, err := files.ReadFile(name)
	if err != nil {
		return err
	}
	d := json.NewDecoder(bytes.NewReader(raw))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	return nil
}
