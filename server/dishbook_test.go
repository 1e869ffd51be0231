package server_test

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/ledongthuc/pdf"
	"github.com/stretchr/testify/require"
)

// raw sends bytes and returns the status and the answer's bytes.
func (c client) raw(method, path string, body []byte) (int, []byte) {
	c.t.Helper()
	req, err := http.NewRequest(method, c.url+path, bytes.NewReader(body))
	require.NoError(c.t, err)
	req.Header.Set("Content-Type", "application/json")
	if strings.HasSuffix(path, "/photograph") {
		req.Header.Set("Content-Type", "image/png")
	}
	res := c.do(req)
	defer res.Body.Close()
	out, err := io.ReadAll(res.Body)
	require.NoError(c.t, err)
	return res.StatusCode, out
}

const hakePath = "/api/dishes/hake-cider-butter"

func TestPhotographIsReEncodedAndKept(t *testing.T) {
	c := start(t, true).as("ines")
	status, _ := c.raw("GET", hakePath+"/photograph", nil)
	require.Equal(t, 404, status)
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, image.NewGray(image.Rect(0, 0, 30, 20))))
	status, _ = c.raw("PUT", hakePath+"/photograph", raw.Bytes())
	require.Equal(t, 204, status)
	status, got := c.raw("GET", hakePath+"/photograph", nil)
	require.Equal(t, 200, status)
	size, err := jpeg.DecodeConfig(bytes.NewReader(got))
	require.NoError(t, err)
	require.Equal(t, 30, size.Width)
	require.NotZero(t, c.call("GET", hakePath, nil, 200)["photograph"])
	status, _ = c.raw("DELETE", hakePath+"/photograph", nil)
	require.Equal(t, 204, status)
	require.Zero(t, c.call("GET", hakePath, nil, 200)["photograph"])

	status, said := c.raw("PUT", hakePath+"/photograph", make([]byte, 40<<20))
	require.Equal(t, 413, status)
	require.Contains(t, string(said), "8 MB")
	status, said = c.raw("PUT", hakePath+"/photograph", []byte("\xff\xd8 not a picture"))
	require.Equal(t, 422, status)
	require.Contains(t, string(said), "not a PNG or JPEG")
	status, _ = c.raw("PUT", "/api/dishes/nothing/photograph", raw.Bytes())
	require.Equal(t, 404, status)
}

// The card is read back with another library than the one that wrote it.
func TestCardReadBack(t *testing.T) {
	c := start(t, true)
	for size, wide := range map[string]bool{"A5": true, "A4": false} {
		status, raw := c.raw("GET", hakePath+"/card.pdf?size="+size, nil)
		require.Equal(t, 200, status)
		r, err := pdf.NewReader(bytes.NewReader(raw), int64(len(raw)))
		require.NoError(t, err)
		require.Equal(t, 1, r.NumPage())
		box := r.Page(1).V.Key("MediaBox")
		if box.IsNull() {
			box = r.Trailer().Key("Root").Key("Pages").Key("MediaBox")
		}
		w, h := box.Index(2).Float64()/72*25.4, box.Index(3).Float64()/72*25.4
		if wide {
			require.InDeltaSlice(t, []float64{210, 148}, []float64{w, h}, 0.6)
		} else {
			require.InDeltaSlice(t, []float64{210, 297}, []float64{w, h}, 0.6)
		}
		text, err := r.GetPlainText()
		require.NoError(t, err)
		b, err := io.ReadAll(text)
		require.NoError(t, err)
		said := strings.Join(strings.Fields(string(b)), "")
		for _, want := range []string{"Hake,ciderbuttersauce,pressedpotato", "Cider", "squeezebottle", "rimwiped", "Version1,current", "milk",
			"fish"} {
			require.Contains(t, said, want, size)
		}
	}
	status, _ := c.raw("GET", hakePath+"/card.pdf?variant=no%20such", nil)
	require.Equal(t, 422, status)
	_, once := c.raw("GET", hakePath+"/card.pdf?variant=no%20milk", nil)
	_, again := c.raw("GET", hakePath+"/card.pdf?variant=no%20milk", nil)
	require.Equal(t, once, again)
}

func (c client) life(act string, version, status int) map[string]any {
	return c.call("POST", hakePath+"/life", map[string]any{"act": act, "version": version}, status)
}

func TestDraftIsWrittenWhileTheKitchenWorksFromTheOld(t *testing.T) {
	c := start(t, true)
	c.life("use-draft", 1, 422)
	v := c.life("start-draft", 1, 200)
	c.life("start-draft", 2, 422)
	d := v["dish"].(map[string]any)
	es := d["draft"].(map[string]any)["elements"].([]any)
	es[0].(map[string]any)["amount"] = 33
	v = c.call("PUT", hakePath, map[string]any{"version": 2, "dish": d}, 200)
	require.NotEqual(t, float64(33), v["dish"].(map[string]any)["specification"].(map[string]any)["elements"].([]any)[0].(map[string]any)["amount"])
	now := c.call("GET", hakePath+"/plate", nil, 200)["weight_g"].(float64)
	draft := c.call("GET", hakePath+"/plate?draft=true", nil, 200)["weight_g"].(float64)
	require.NotEqual(t, now, draft)

	cmp := c.call("GET", hakePath+"/compare?was=3&is=0", nil, 200)
	require.Len(t, cmp["said"], 1)
	require.Contains(t, sentence(cmp["said"].([]any)[0]), "amount 33, was")

	c.life("use-draft", 3, 200)
	require.Equal(t, draft, c.call("GET", hakePath+"/plate", nil, 200)["weight_g"])
	require.Equal(t, []any{}, c.call("GET", hakePath+"/compare?was=4&is=4", nil, 200)["said"])
	require.Len(t, c.call("GET", hakePath+"/compare?was=1&is=4", nil, 200)["said"], 1)
	c.call("GET", hakePath+"/compare?was=77&is=4", nil, 404)

	v = c.life("retire", 4, 200)
	require.Equal(t, "retired", v["dish"].(map[string]any)["state"])
	c.life("retire", 4, 409)
	c.life("put-on-menu", 5, 200)
	c.life("dance", 6, 422)
}

func TestWhoAndWhenAreWrittenDown(t *testing.T) {
	c := start(t, true).as("ines")
	status, raw := c.raw("POST", hakePath+"/life", []byte(`{"act": "retire", "version": 1}`))
	require.Equal(t, 200, status, string(raw))
	_, raw = c.raw("GET", hakePath+"/history", nil)
	require.Contains(t, string(raw), `"by":"Ines"`)
	require.Contains(t, string(raw), `"state":"retired"`)
	require.Contains(t, string(raw), "2026-05-14T13:30:00Z")
}

func TestPlatingLineOfABanquet(t *testing.T) {
	c := start(t, true)
	wish := map[string]any{"dish": "hake-cider-butter", "plates": 60, "people": 4}
	l := c.call("POST", "/api/plating-line", wish, 200)
	require.Len(t, l["rounds"], 8, "the pass takes eight plates")
	require.Len(t, l["names"], 6)
	wish["people"] = 8
	require.Less(t, c.call("POST", "/api/plating-line", wish, 200)["last_s"], l["last_s"])
	wish["variant"] = "no milk"
	require.Len(t, c.call("POST", "/api/plating-line", wish, 200)["names"], 4)
	wish["dish"] = "nothing"
	c.call("POST", "/api/plating-line", wish, 404)
}

func TestAllergensUnderTheKitchensCode(t *testing.T) {
	c := start(t, true)
	find := func(v map[string]any, allergen string) map[string]any {
		for _, a := range v["allergens"].([]any) {
			if m := a.(map[string]any); m["allergen"] == allergen {
				return m
			}
		}
		return nil
	}
	milk := find(c.call("GET", hakePath, nil, 200), "milk")
	require.Equal(t, "milk", milk["name"])
	require.NotEmpty(t, milk["from"])
	house := c.call("GET", "/api/kitchen", nil, 200)["kitchen"].(map[string]any)
	house["safety_code"] = "us-fda"
	c.call("PUT", "/api/kitchen", map[string]any{"version": 1, "value": house}, 200)
	v := c.call("GET", hakePath, nil, 200)
	require.Equal(t, true, find(v, "milk")["named"])
	require.Equal(t, false, find(v, "sulphites")["named"], "not one of the nine")
	require.Nil(t, find(c.call("GET", hakePath+"?variant=no%20milk", nil, 200), "milk"))

	// A variant that promises what it does not keep.
	d := v["dish"].(map[string]any)
	spec := d["specification"].(map[string]any)
	spec["variants"].([]any)[0].(map[string]any)["changes"] = []any{}
	c.call("PUT", hakePath, map[string]any{"version": 1, "dish": d}, 200)
	plate := c.call("GET", hakePath+"/plate?variant=no%20milk", nil, 200)
	require.Contains(t, fmt.Sprint(plate["findings"]), "brings in milk")
}

func TestComponentsAreCopiedRenamedAndArchived(t *testing.T) {
	c := start(t, true)
	v := c.call("POST", "/api/components/hake/copy", map[string]any{"name": "Pollack, roasted"}, 200)
	made := v["component"].(map[string]any)
	require.Equal(t, "pollack-roasted", made["id"])
	made["name"] = "Coley, roasted"
	v = c.call("PUT", "/api/components/pollack-roasted", map[string]any{"version": 1, "component": made}, 200)
	require.Equal(t, "Pollack, roasted is called Coley, roasted now.", sentence(v["said"]))
	made["archived"] = true
	c.call("PUT", "/api/components/pollack-roasted", map[string]any{"version": 2, "component": made}, 200)
	hake := c.call("GET", "/api/components/hake", nil, 200)["component"].(map[string]any)
	hake["archived"] = true
	require.Contains(t, fmt.Sprint(c.call("PUT", "/api/components/hake", map[string]any{"version": 1, "component": hake}, 422)),
		"still needs Hake, roasted")
	c.call("POST", "/api/components/hake/copy", map[string]any{"name": " "}, 422)
}

func TestChainIsEdited(t *testing.T) {
	c := start(t, true)
	edit := func(version int, e map[string]any, status int) map[string]any {
		e["version"] = version
		return c.call("POST", "/api/components/hake/chain", e, status)
	}
	v := edit(1, map[string]any{"edit": "add", "at": 1, "line": "dry on paper 2 min both hands"}, 200)
	require.Equal(t, "dry on paper", v["component"].(map[string]any)["steps"].([]any)[1].(map[string]any)["name"])
	edit(2, map[string]any{"edit": "add", "at": 1, "line": "one 2 min\ntwo 3 min"}, 422)
	edit(2, map[string]any{"edit": "move", "at": 1, "to": 0}, 200)
	edit(3, map[string]any{"edit": "remove", "at": 0}, 200)
	edit(4, map[string]any{"edit": "cut", "at": 0}, 200)
	edit(5, map[string]any{"edit": "remove", "at": 50}, 422)
	edit(1, map[string]any{"edit": "cut", "at": 1}, 409)
}

func TestUnderstandWhatIsTyped(t *testing.T) {
	c := start(t, false)
	for typed, want := range map[string]float64{"350F": 176.7, "gas 4": 180, "180": 180, "180 °C": 180} {
		v := c.call("POST", "/api/understand", map[string]any{"as": "degrees", "text": typed}, 200)
		require.Equal(t, true, v["ok"], typed)
		require.Equal(t, want, v["value"], typed)
	}
	require.Equal(t, "90 min", c.call("POST", "/api/understand", map[string]any{"as": "time", "text": "1½ h"}, 200)["said"])
	require.Equal(t, false, c.call("POST", "/api/understand", map[string]any{"as": "time", "text": "soon"}, 200)["ok"])
}

func TestAKitchenOfOnesOwn(t *testing.T) {
	c := start(t, false)
	c.call("POST", "/api/kitchen", map[string]any{"name": "Mine", "time_zone": "Nowhere/Else", "safety_code": "uk-eu"}, 422)
	v := c.call("POST", "/api/kitchen", map[string]any{"name": "Mine", "time_zone": "Europe/Copenhagen", "safety_code": "uk-eu"}, 200)
	require.Equal(t, false, v["empty"])
	c.call("POST", "/api/kitchen", map[string]any{"name": "Again", "time_zone": "UTC", "safety_code": "uk-eu"}, 409)
	v = c.call("PUT", "/api/sections/new", map[string]any{"version": 0, "value": map[string]any{"id": "", "name": "Pastry & bread",
		"hue": "gold", "pattern": "bars", "pass": false}}, 200)
	require.Equal(t, float64(1), v["versions"].(map[string]any)["section/pastry-bread"])
	person := v["people"].([]any)[0].(map[string]any)
	person["sections"] = []any{"stove", "pass", "pastry-bread"}
	c.call("PUT", "/api/people/chef", map[string]any{"version": 1, "value": person}, 200)
	c.call("DELETE", "/api/sections/pastry-bread?version=1", nil, 409)
	person["sections"] = []any{"stove", "pass"}
	c.call("PUT", "/api/people/chef", map[string]any{"version": 2, "value": person}, 200)
	c.call("DELETE", "/api/sections/pastry-bread?version=1", nil, 200)

	// The only oven cannot go while a step needs one.
	c.call("POST", "/api/components", map[string]any{"name": "Root", "section": "stove", "unit": "g",
		"text": "roast 30 min in the oven at 200"}, 200)
	require.Contains(t, fmt.Sprint(c.call("DELETE", "/api/equipment/oven?version=1", nil, 422)), "the kitchen has no oven")
	c.call("DELETE", "/api/equipment/freezer?version=1", nil, 200)
	require.Equal(t, false, c.call("GET", "/api/kitchen", nil, 200)["empty"])
}
