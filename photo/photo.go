// Package photo makes an uploaded picture safe to keep: it is decoded, turned upright,
// made no larger than a page needs, and encoded again, so that nothing but the picture
// itself (no place, no camera, no hidden data) stays.
package photo

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // one of the two formats that are read

	"github.com/disintegration/imaging"
)

// MaxBytes bounds an upload: 8 MB.
const MaxBytes = 8 << 20

const (
	maxPixels = 60_000_000 // decoded, four bytes each
	longSide  = 1600
	quality   = 86
)

// ErrTooLarge means more than MaxBytes.
var ErrTooLarge = errors.New("the picture is larger than 8 MB")

// Clean reads a PNG or JPEG and returns a JPEG without metadata, at most 1600 pixels on
// its longer side. The error says what is wrong with it.
func Clean(raw []byte) ([]byte, error) {
	if len(raw) > MaxBytes {
		return nil, ErrTooLarge
	}
	c, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || format != "jpeg" && format != "png" {
		return nil, errors.New("this is not a PNG or JPEG picture")
	}
	// A few bytes can promise a picture that fills the memory.
	if c.Width < 1 || c.Height < 1 || c.Width > maxPixels/c.Height {
		return nil, fmt.Errorf("the picture has %d × %d pixels; expected at most 60 million", c.Width, c.Height)
	}
	img, err := imaging.Decode(bytes.NewReader(raw), imaging.AutoOrientation(true))
	if err != nil {
		return nil, errors.New("the picture is broken and cannot be read to its end")
	}
	if b := img.Bounds(); max(b.Dx(), b.Dy()) > longSide {
		img = imaging.Fit(img, longSide, longSide, imaging.Lanczos)
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, imaging.Overlay(imaging.New(img.Bounds().Dx(), img.Bounds().Dy(), image.White), img, image.Point{}, 1), &jpeg.Options{Quality: quality}); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}
