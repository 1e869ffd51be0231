package photo_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/formats/photo"
)

func picture(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for x := range w {
		for y := range h {
			img.Set(x, y, color.RGBA{uint8(x), uint8(y), 90, 255})
		}
	}
	return img
}

func TestNothingButThePictureStays(t *testing.T) {
	var raw bytes.Buffer
	require.NoError(t, jpeg.Encode(&raw, picture(40, 20), nil))
	// An APP1 segment with an orientation (6: turn to the right) and a secret.
	tiff := []byte("II*\x00\x08\x00\x00\x00\x01\x00\x12\x01\x03\x00\x01\x00\x00\x00\x06\x00\x00\x00\x00\x00\x00\x00")
	app := append([]byte("Exif\x00\x00"), append(tiff, []byte("secret place")...)...)
	segment := append([]byte{0xff, 0xe1}, binary.BigEndian.AppendUint16(nil, uint16(len(app)+2))...)
	with := append(append(append([]byte{}, raw.Bytes()[:2]...), append(segment, app...)...), raw.Bytes()[2:]...)
	out, err := photo.Clean(t.Context(), with)
	require.NoError(t, err)
	require.NotContains(t, string(out), "secret")
	require.NotContains(t, string(out), "Exif")
	c, err := jpeg.DecodeConfig(bytes.NewReader(out))
	require.NoError(t, err)
	require.Equal(t, []int{20, 40}, []int{c.Width, c.Height}, "turned upright")
}

func TestLargePicturesAreMadeSmaller(t *testing.T) {
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, picture(3200, 100)))
	out, err := photo.Clean(t.Context(), raw.Bytes())
	require.NoError(t, err)
	c, err := jpeg.DecodeConfig(bytes.NewReader(out))
	require.NoError(t, err)
	require.Equal(t, []int{1600, 50}, []int{c.Width, c.Height})
}

// A PNG that promises a picture of 100,000 × 100,000 pixels.
func bomb() []byte {
	head := []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR\x00\x01\x86\xa0\x00\x01\x86\xa0\x08\x06\x00\x00\x00")
	return binary.BigEndian.AppendUint32(head, crc32.ChecksumIEEE(head[12:]))
}

// promise is the head of a PNG that says how large it is, with nothing behind.
func promise(w, h uint32) []byte {
	head := []byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR")
	head = binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(head, w), h)
	head = append(head, 8, 6, 0, 0, 0)
	return binary.BigEndian.AppendUint32(head, crc32.ChecksumIEEE(head[12:]))
}

// Twenty-five million pixels are read, one more is not; a picture that waits for another
// leaves with its asker.
func TestPixels(t *testing.T) {
	_, err := photo.Clean(t.Context(), promise(5000, 5000))
	require.ErrorContains(t, err, "cannot be read to its end")
	_, err = photo.Clean(t.Context(), promise(5000, 5001))
	require.ErrorContains(t, err, "expected at most 25 million")
	gone, leave := context.WithCancel(t.Context())
	leave()
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, picture(10, 10)))
	for range 50 { // with a free place either may come first: what matters is that it does not hang
		if _, err := photo.Clean(gone, raw.Bytes()); err != nil {
			require.ErrorIs(t, err, context.Canceled)
		}
	}
}

// Every way in which a camera is held (EXIF 2.32, tag 0x0112): the corner that was up on the
// left comes up on the left.
func TestHowTheCameraWasHeld(t *testing.T) {
	for held, at := range map[byte]image.Point{1: {0, 0}, 2: {39, 0}, 3: {39, 19}, 4: {0, 19}, 5: {0, 0}, 6: {19, 0}, 7: {19, 39},
		8: {0, 39}} {
		img := image.NewRGBA(image.Rect(0, 0, 40, 20))
		for x := range 8 {
			for y := range 8 {
				img.Set(x, y, color.RGBA{255, 255, 255, 255}) // the rest is nothing, on white
			}
		}
		for x := range 40 {
			for y := range 20 {
				if x >= 8 || y >= 8 {
					img.Set(x, y, color.RGBA{0, 0, 0, 255})
				}
			}
		}
		var raw bytes.Buffer
		require.NoError(t, jpeg.Encode(&raw, img, nil))
		tiff := []byte("II*\x00\x08\x00\x00\x00\x01\x00\x12\x01\x03\x00\x01\x00\x00\x00" + string(held) + "\x00\x00\x00\x00\x00\x00\x00")
		app := append([]byte("Exif\x00\x00"), tiff...)
		segment := append([]byte{0xff, 0xe1}, binary.BigEndian.AppendUint16(nil, uint16(len(app)+2))...)
		with := append(append(append([]byte{}, raw.Bytes()[:2]...), append(segment, app...)...), raw.Bytes()[2:]...)
		out, err := photo.Clean(t.Context(), with)
		require.NoError(t, err)
		got, err := jpeg.Decode(bytes.NewReader(out))
		require.NoError(t, err)
		// The white corner stands where turning it brings it.
		r, _, _, _ := got.At(at.X, at.Y).RGBA()
		require.Greater(t, r, uint32(0x8000), "held %d: %v", held, at)
	}
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	var whole bytes.Buffer
	require.NoError(t, jpeg.Encode(&whole, picture(200, 200), nil))
	for name, x := range map[string]struct {
		raw []byte
		say string
	}{
		"nothing":   {nil, "not a PNG or JPEG"},
		"text":      {[]byte("<svg onload=alert(1)>"), "not a PNG or JPEG"},
		"gif":       {[]byte("GIF89a\x01\x00\x01\x00\x00\x00\x00;"), "not a PNG or JPEG"},
		"cut off":   {whole.Bytes()[:whole.Len()/2], "broken"},
		"bomb":      {bomb(), "pixels"},
		"too large": {make([]byte, photo.MaxBytes+1), "8 MB"},
	} {
		_, err := photo.Clean(t.Context(), x.raw)
		require.ErrorContains(t, err, x.say, name)
	}
}

func FuzzClean(f *testing.F) {
	var raw bytes.Buffer
	_ = png.Encode(&raw, picture(3, 3))
	f.Add(raw.Bytes())
	f.Add(bomb())
	f.Fuzz(func(t *testing.T, b []byte) {
		if out, err := photo.Clean(t.Context(), b); err == nil {
			_, err := jpeg.Decode(bytes.NewReader(out))
			require.NoError(t, err)
		}
	})
}
