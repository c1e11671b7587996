package exchange

import (
	"encoding/binary"
	"image"

	"golang.org/x/image/draw"
)

// orientation reads which way up a camera held a JPEG: the tag 0x0112 of its Exif block (Exif 2.32, CIPA DC-008-2019,
// from memory), 1 to 8; 1 where nothing says so.
func orientation(data []byte) int {
	const upright = 1
	for at := 2; at+4 <= len(data) && data[at] == 0xff; {
		kind, length := data[at+1], int(binary.BigEndian.Uint16(data[at+2:]))
		body := at + 4
		if kind == 0xda || length < 2 || at+2+length > len(data) { // the picture itself begins
			return upright
		}
		if kind == 0xe1 && length >= 16 && string(data[body:body+6]) == "Exif\x00\x00" {
			return tagged(data[body+6 : at+2+length])
		}
		at += 2 + length
	}
	return upright
}

// tagged reads the tag in the TIFF structure of an Exif block.
func tagged(tiff []byte) int {
	var order binary.ByteOrder = binary.BigEndian
	if len(tiff) < 8 {
		return 1
	}
	if string(tiff[:2]) == "II" {
		order = binary.LittleEndian
	}
	first := int(order.Uint32(tiff[4:]))
	if first < 8 || first+2 > len(tiff) {
		return 1
	}
	for i := range int(order.Uint16(tiff[first:])) {
		at := first + 2 + 12*i
		if at+12 > len(tiff) {
			return 1
		}
		if order.Uint16(tiff[at:]) == 0x0112 {
			if n := int(order.Uint16(tiff[at+8:])); n >= 1 && n <= 8 {
				return n
			}
			return 1
		}
	}
	return 1
}

// fit makes a picture smaller so that its longer side has at most so many pixels, and turns it upright.
func fit(m image.Image, side, turned int, how draw.Interpolator) *image.NRGBA {
	b := m.Bounds()
	w, h := b.Dx(), b.Dy()
	if long := max(w, h); long > side {
		w, h = max(1, w*side/long), max(1, h*side/long)
	}
	small := image.NewNRGBA(image.Rect(0, 0, w, h))
	if w == b.Dx() && h == b.Dy() {
		draw.Copy(small, image.Point{}, m, b, draw.Src, nil)
	} else {
		how.Scale(small, small.Bounds(), m, b, draw.Src, nil)
	}
	if turned == 1 {
		return small
	}
	out := small
	if turned >= 5 {
		out = image.NewNRGBA(image.Rect(0, 0, h, w))
	} else {
		out = image.NewNRGBA(image.Rect(0, 0, w, h))
	}
	for y := range h {
		for x := range w {
			tx, ty := x, y
			switch turned {
			case 2:
				tx = w - 1 - x
			case 3:
				tx, ty = w-1-x, h-1-y
			case 4:
				ty = h - 1 - y
			case 5:
				tx, ty = y, x
			case 6:
				tx, ty = h-1-y, x
			case 7:
				tx, ty = h-1-y, w-1-x
			case 8:
				tx, ty = y, w-1-x
			}
			out.SetNRGBA(tx, ty, small.NRGBAAt(x, y))
		}
	}
	return out
}
