package desk

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/qr"
)

// bordered puts a picture on white with a border around it, in pixels: a QR code is read only with its quiet zone.
func bordered(m image.Image, border int) image.Image {
	b := m.Bounds()
	out := image.NewGray(image.Rect(0, 0, b.Dx()+2*border, b.Dy()+2*border))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	draw.Draw(out, b.Sub(b.Min).Add(image.Pt(border, border)), m, b.Min, draw.Src)
	return out
}

// quietZone is how many modules round a code are left white, ISO/IEC 18004.
const quietZone = 4

// QRCode draws the QR code of an address, each module so many pixels large.
func QRCode(address string, module int) ([]byte, error) {
	code, err := qr.Encode(address, qr.M, qr.Auto)
	if err != nil {
		return nil, fmt.Errorf("draw the QR code: %w", err)
	}
	size := code.Bounds().Dx() * module
	scaled, err := barcode.Scale(code, size, size)
	if err != nil {
		return nil, fmt.Errorf("draw the QR code: %w", err)
	}
	var b bytes.Buffer
	if err := png.Encode(&b, bordered(scaled, quietZone*module)); err != nil {
		return nil, fmt.Errorf("draw the QR code: %w", err)
	}
	return b.Bytes(), nil
}
