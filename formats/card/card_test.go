package card_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/ledongthuc/pdf"
	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/plating"
	"jointime/demo"
	"jointime/formats/card"
)

// made is a card of the demo's hake, changed.
func made(t testing.TB, change func(*kitchen.Dish)) *card.Card {
	t.Helper()
	d, err := demo.Kitchen()
	require.NoError(t, err)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	found, ok := b.Dish("hake-cider-butter")
	require.True(t, ok)
	dish := *found
	if change != nil {
		change(&dish)
	}
	spec := &dish.Specification
	vessel, _ := b.Vessel(spec.Vessel)
	c := &card.Card{House: "Quillon Hall", Dish: &dish, Version: 3, State: "current", Changed: time.Date(2026, 5, 14, 12, 0, 0, 0, time.UTC),
		Vessel: vessel, Elements: spec.Elements,
		Plate: plating.Draw(b, spec, spec.Elements, kitchen.Needs{}), Allergens: b.AllergenLines(spec.Elements, kitchen.CodeUKEU),
		Unknown: b.UnknownRecipes(spec.Elements)}
	for _, e := range spec.Elements {
		x, _ := b.Component(e.Component)
		c.Units = append(c.Units, x.Unit)
	}
	return c
}

func words(t testing.TB, raw []byte) string {
	t.Helper()
	r, err := pdf.NewReader(bytes.NewReader(raw), int64(len(raw)))
	require.NoError(t, err)
	var b strings.Builder
	for i := range r.NumPage() {
		text, err := r.Page(i + 1).GetPlainText(nil)
		require.NoError(t, err)
		b.WriteString(text)
	}
	return b.String()
}

func TestACardSaysWhatItIs(t *testing.T) {
	for _, size := range []card.Size{card.A5, card.A4} {
		raw, err := card.PDF(made(t, nil), size)
		require.NoError(t, err)
		said := strings.Join(strings.Fields(words(t, raw)), " ")
		require.Contains(t, said, "Version 3, current, 14 May 2026")
		require.Contains(t, said, "fish")
		again, err := card.PDF(made(t, nil), size)
		require.NoError(t, err)
		require.Equal(t, raw, again, "the same card gives the same bytes")
	}
}

// What a cook types is printed, whatever it is written in: as outlines where the card's own
// font has no letters for it. No text makes the card fail.
func TestEveryScriptIsPrinted(t *testing.T) {
	plain, err := card.PDF(made(t, func(d *kitchen.Dish) { d.Specification.FinalChecks = []string{"hot"} }), card.A5)
	require.NoError(t, err)
	for name, text := range map[string]string{
		"emoji":      "wipe the rim 🔥🍽️ and go",
		"joined":     "👩‍🍳 tastes",
		"chinese":    "鳕鱼皮要脆",
		"thai":       "เสิร์ฟร้อน",
		"hindi":      "गरम परोसें",
		"arabic":     "ساخن جدا",
		"hebrew":     "חם מאוד 12",
		"korean":     "뜨겁게",
		"georgian":   "ცხელი",
		"unassigned": "a\U0010fffdb\U000e0041",
		"long":       strings.Repeat("火", 300),
		"combining":  "cre\u0300me bru\u0302le\u0301e",
	} {
		c := made(t, func(d *kitchen.Dish) {
			d.Name += " " + text
			d.Specification.FinalChecks = []string{text}
		})
		raw, err := card.PDF(c, card.A5)
		require.NoError(t, err, name)
		require.Greater(t, len(raw), len(plain), "%s: something was drawn", name)
		words(t, raw)
	}
}

// A recipe that nobody entered is no recipe without allergens.
func TestNotKnownIsNotNone(t *testing.T) {
	c := made(t, nil)
	c.Allergens, c.Unknown = nil, nil
	raw, err := card.PDF(c, card.A4)
	require.NoError(t, err)
	require.Contains(t, strings.Join(strings.Fields(words(t, raw)), " "), "none in the recipes")
	c.Unknown = []string{"Sea beet"}
	raw, err = card.PDF(c, card.A4)
	require.NoError(t, err)
	said := strings.Join(strings.Fields(words(t, raw)), " ")
	require.NotContains(t, said, "none in the recipes")
	require.Contains(t, said, "not known (Sea beet)")
	require.Contains(t, said, "Sea beet")
}
