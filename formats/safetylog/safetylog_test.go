package safetylog_test

import (
	"bytes"
	"encoding/csv"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/ledongthuc/pdf"
	"github.com/stretchr/testify/require"

	"jointime/core/message"
	"jointime/core/safety"
	"jointime/formats/safetylog"
)

func lines(n int) *safetylog.Log {
	zone := time.FixedZone("here", 3600)
	at := time.Date(2026, 5, 14, 13, 0, 0, 0, time.UTC)
	l := &safetylog.Log{House: "The Blue Door", Code: "UK and EU practice", From: time.Date(2026, 5, 14, 0, 0, 0, 0, zone),
		To: time.Date(2026, 5, 15, 0, 0, 0, 0, zone), Zone: zone, Made: at}
	for i := range n {
		c := -18.5
		l.Lines = append(l.Lines, safety.Line{Entry: safety.Entry{Number: int64(i + 1), Kind: safety.ColdLog, What: "Freezer", C: &c,
			Person: "Ada", At: at.Add(time.Duration(i) * time.Minute), Written: at}, Said: message.Of("log.noted"), State: "noted"})
	}
	return l
}

// What somebody typed is no formula of a spreadsheet; numbers stay numbers; the clock is the house's.
func TestCSV(t *testing.T) {
	l := lines(2)
	l.Lines[1].Note, l.Lines[1].What = "=1+1", "-cmd"
	l.Lines[1].Corrects, l.Lines[0].Corrected = 1, 2
	var b bytes.Buffer
	require.NoError(t, l.CSV(&b))
	rows, err := csv.NewReader(&b).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 3)
	require.Equal(t, []string{"1", "2026-05-14 14:00", "2026-05-14 14:00", "Fridge, freezer", "Freezer", "-18.5",
		"Written down.", "Ada", "", "", "", "2"}, rows[1])
	require.Equal(t, "'-cmd", rows[2][4])
	require.Equal(t, "'=1+1", rows[2][8])
}

// The document has every line, its head on every page, and says so when there is nothing.
func TestPDF(t *testing.T) {
	said := func(l *safetylog.Log) (string, int) {
		var b bytes.Buffer
		require.NoError(t, l.PDF(&b))
		r, err := pdf.NewReader(bytes.NewReader(b.Bytes()), int64(b.Len()))
		require.NoError(t, err)
		text, err := r.GetPlainText()
		require.NoError(t, err)
		raw, err := io.ReadAll(text)
		require.NoError(t, err)
		return strings.Join(strings.Fields(string(raw)), ""), r.NumPage()
	}
	text, pages := said(lines(80))
	require.Greater(t, pages, 1)
	require.Equal(t, pages, strings.Count(text, "Besidethelimit"))
	require.Equal(t, 80, strings.Count(text, "Freezer"))
	require.Contains(t, text, "TheBlueDoor,temperatures,Thursday14May2026")
	text, pages = said(lines(0))
	require.Equal(t, 1, pages)
	require.Contains(t, text, "Nothingwaswrittendown.")
}
