// Package photo makes an uploaded picture safe to keep: it is decoded, turned upright,
// made no larger than a page needs, and encoded again, so that nothing but the picture
// itself (no place, no camera, no hidden data) stays.
package photo

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // one of the two formats that are read
	"time"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
)

// MaxBytes bounds an upload: 8 MB.
const MaxBytes = 8 << 20

const (
	maxPixels = 25_000_000 // decoded, four bytes each
	longSide  = 1600
	quality   = 86
)

// ErrTooLarge means more than MaxBytes.
var ErrTooLarge = errors.New("the picture is larger than 8 MB")

// one lets one picture at a time be decoded: each may take a hundred megabytes.
var one = make(chan struct{}, 1)

// Clean reads a PNG or JPEG and returns a JPEG without metadata, at most 1600 pixels on
// its longer side. One picture is decoded at a time; waiting for that ends with the context.
// The error says what is wrong with the picture.
func Clean(ctx context.Context, raw []byte) ([]byte, error) {
	if len(raw) > MaxBytes {
		return nil, ErrTooLarge
	}
	c, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || format != "jpeg" && format != "png" {
		return nil, errors.New("this is not a PNG or JPEG picture")
	}
	// A few bytes can promise a picture that fills the memory.
	if c.Width < 1 || c.Height < 1 || c.Width > maxPixels/c.Height {
		return nil, fmt.Errorf("the picture has %d × %d pixels; expected at most 25 million", c.Width, c.Height)
	}
	select {
	case one <- struct{}{}:
		defer func() { <-one }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	img, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, errors.New("the picture is broken and cannot be read to its end")
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, upright(smaller(img), orientation(raw, format)), &jpeg.Options{Quality: quality}); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

// smaller is the picture on white, at most longSide on its longer side.
func smaller(img image.Image) *image.RGBA {
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if most := max(w, h); most > longSide {
		w, h = max(1, w*longSide/most), max(1, h*longSide/most)
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	if w == b.Dx() && h == b.Dy() {
		draw.Draw(out, out.Bounds(), img, b.Min, draw.Over)
	} else {
		draw.CatmullRom.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	}
	return out
}

// orientation is how the camera was held, as EXIF 2.32 numbers it: 1 upright, to 8. What
// cannot be read counts as upright.
func orientation(raw []byte, format string) int {
	out := 1
	kind := imagemeta.JPEG
	if format == "png" {
		kind = imagemeta.PNG
	}
	_, _ = imagemeta.Decode(imagemeta.Options{R: bytes.NewReader(raw), ImageFormat: kind, Sources: imagemeta.EXIF, Timeout: 2 * time.Second,
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" },
		HandleTag: func(t imagemeta.TagInfo) error {
			if v, ok := t.Value.(uint16); ok && v >= 1 && v <= 8 {
				out = int(v)
			}
			return nil
		}})
	return out
}

// upright turns and mirrors a picture so that it stands as it was taken.
func upright(img *image.RGBA, held int) *image.RGBA {
	if held == 1 {
		return img
	}
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	size := image.Rect(0, 0, w, h)
	if held >= 5 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(size)
	for y := range size.Dy() {
		for x := range size.Dx() {
			// Where each point of the upright picture comes from.
			var fx, fy int
			switch held {
			case 2:
				fx, fy = w-1-x, y
			case 3:
				fx, fy = w-1-x, h-1-y
			case 4:
				fx, fy = x, h-1-y
			case 5:
				fx, fy = y, x
			case 6:
				fx, fy = y, h-1-x
			case 7:
				fx, fy = w-1-y, h-1-x
			default:
				fx, fy = w-1-y, x
			}
			out.SetRGBA(x, y, img.RGBAAt(fx, fy))
		}
	}
	return out
}
