package server

import (
	"image"
	"image/color"
	"image/draw"
)

// bordered puts a picture on white with a border around it, in pixels: a QR code is read only with its quiet zone.
func bordered(m image.Image, border int) image.Image {
	b := m.Bounds()
	out := image.NewGray(image.Rect(0, 0, b.Dx()+2*border, b.Dy()+2*border))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	draw.Draw(out, b.Sub(b.Min).Add(image.Pt(border, border)), m, b.Min, draw.Src)
	return out
}
