package message

import (
	_ "embed" // the catalogue
	"fmt"

	"github.com/BurntSushi/toml"
	"github.com/nicksnyder/go-i18n/v2/i18n"
	"golang.org/x/text/language"
)

//go:embed en.toml
var enTOML []byte

// catalogue makes sentences in one language.
type catalogue struct{ localizer *i18n.Localizer }

var english = newCatalogue(language.English, "en.toml", enTOML)

func newCatalogue(lang language.Tag, name string, file []byte) *catalogue {
	b := i18n.NewBundle(lang)
	b.RegisterUnmarshalFunc("toml", toml.Unmarshal)
	if _, err := b.ParseMessageFileBytes(file, name); err != nil {
		panic("message: " + err.Error()) // it is built in
	}
	return &catalogue{i18n.NewLocalizer(b, lang.String())}
}

// count is the fact that decides between one and more.
const count = "count"

// say makes the sentence of a message. One whose sentence is missing is said by its key: a test sees to it that
// there is none.
func (c *catalogue) say(m *Message) string {
	data := make(map[string]string, len(m.Facts))
	ask := &i18n.LocalizeConfig{MessageID: m.Key, TemplateData: data}
	for name, f := range m.Facts {
		data[name] = f.Text
		if name == count && f.Number != nil {
			ask.PluralCount = fmt.Sprint(int64(*f.Number))
		}
	}
	text, err := c.localizer.Localize(ask)
	if err != nil && ask.PluralCount != nil { // the same sentence for one and for more
		ask.PluralCount = nil
		text, err = c.localizer.Localize(ask)
	}
	if err != nil {
		return m.Key
	}
	return text
}
