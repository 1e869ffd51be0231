package kitchen

import (
	"fmt"
	"reflect"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"
)

// Bounds of what a record may hold, where its field says no other (maxLength).
const (
	// MaxText is the most characters of a text.
	MaxText = 500
	// MaxList is the most entries of a list.
	MaxList = 400
)

// Unprintable finds the first character of a text that nobody types and nothing can show or
// keep: control characters other than a new line and a tab, and what is left of a broken
// encoding. ok is false when there is none.
func Unprintable(s string) (r rune, ok bool) {
	for _, r := range s {
		if r < 0x20 && r != '\n' && r != '\t' && r != '\r' || r >= 0x7f && r < 0xa0 || r == utf8.RuneError {
			return r, true
		}
	}
	return 0, false
}

// texts checks every text and every list in v, whatever their fields are called: no text is
// longer than its field says, and none holds what cannot be shown.
func texts(f finder, v reflect.Value, most int) {
	switch v.Kind() {
	case reflect.String:
		if n := utf8.RuneCountInString(v.String()); n > most {
			f.say("fault.characters", "most", most, "got", n)
		}
		if r, bad := Unprintable(v.String()); bad {
			f.say("fault.character", "code", fmt.Sprintf("%U", r))
		}
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			texts(f, v.Elem(), most)
		}
	case reflect.Slice:
		if v.Type().Elem().Kind() == reflect.Uint8 {
			return
		}
		if v.Len() > MaxList {
			f.say("fault.entries", "most", MaxList, "got", v.Len())
			return
		}
		for i := range v.Len() {
			texts(f.item(i), v.Index(i), most)
		}
	case reflect.Struct:
		for _, x := range fieldsOf(v.Type()) {
			g := f
			if x.name != "" {
				g = f.field(x.name)
			}
			texts(g, v.Field(x.index), x.most)
		}
	}
}

// textField is a field of a record that holds texts somewhere.
type textField struct {
	name  string // as it is written, "" for one whose fields are the record's own
	index int
	most  int
}

// textFields are the fields of every type that was looked at, by type.
var textFields sync.Map

// fieldsOf lists the fields of a type that hold texts.
func fieldsOf(t reflect.Type) []textField {
	if known, ok := textFields.Load(t); ok {
		return known.([]textField)
	}
	var out []textField
	for i := range t.NumField() {
		x := t.Field(i)
		if !x.IsExported() || !hasText(x.Type) {
			continue
		}
		name, _, _ := strings.Cut(x.Tag.Get("json"), ",")
		if x.Anonymous && name == "" {
			out = append(out, textField{"", i, MaxText})
			continue
		}
		most, err := strconv.Atoi(x.Tag.Get("maxLength"))
		if err != nil {
			most = MaxText
		}
		out = append(out, textField{name, i, most})
	}
	textFields.Store(t, out)
	return out
}

func hasText(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.String, reflect.Interface, reflect.Slice:
		return true
	case reflect.Pointer:
		return hasText(t.Elem())
	case reflect.Struct:
		return t.PkgPath() != "time"
	}
	return false
}

// field and item are at without a format: they are called for every text of the kitchen.
func (f finder) field(name string) finder {
	if f.path == "" {
		return finder{name, f.faults}
	}
	return finder{f.path + "." + name, f.faults}
}

func (f finder) item(i int) finder { return finder{f.path + "[" + strconv.Itoa(i) + "]", f.faults} }

// checkTexts is texts for a whole record.
func checkTexts[T any](f finder, v *T) { texts(f, reflect.ValueOf(v).Elem(), MaxText) }
