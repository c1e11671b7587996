package exchange_test

import (
	"bytes"
	"encoding/binary"
	"errors"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"slices"
	"strings"
	"testing"

	"draxel/exchange"
)

func picture(w, h int) image.Image {
	m := image.NewRGBA(image.Rect(0, 0, w, h))
	for x := range w {
		for y := range h {
			m.Set(x, y, color.RGBA{uint8(x), uint8(y), 90, 255})
		}
	}
	return m
}

func asJPEG(t *testing.T, m image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, m, nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func asPNG(t *testing.T, m image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := png.Encode(&b, m); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// taken is a JPEG as a camera writes it: turned on its side (orientation 6) and with a place in its EXIF block (TIFF
// 6.0, EXIF 2.3: tag 0x0112 orientation, 0x8825 pointer to the place).
func taken(t *testing.T) []byte {
	t.Helper()
	tiff := []byte("II*\x00\x08\x00\x00\x00")
	entry := func(tag, kind uint16, count, value uint32) {
		tiff = binary.LittleEndian.AppendUint16(tiff, tag)
		tiff = binary.LittleEndian.AppendUint16(tiff, kind)
		tiff = binary.LittleEndian.AppendUint32(tiff, count)
		tiff = binary.LittleEndian.AppendUint32(tiff, value)
	}
	tiff = binary.LittleEndian.AppendUint16(tiff, 2)
	entry(0x0112, 3, 1, 6)
	entry(0x8825, 4, 1, 38)
	tiff = append(tiff, 0, 0, 0, 0)
	tiff = binary.LittleEndian.AppendUint16(tiff, 1)
	entry(0x001d, 2, 11, 56)
	tiff = append(append(tiff, 0, 0, 0, 0), "2026:11:25\x00SECRETPLACE"...)
	block := append([]byte("Exif\x00\x00"), tiff...)
	whole := asJPEG(t, picture(60, 40))
	out := append([]byte{0xff, 0xd8, 0xff, 0xe1}, byte((len(block)+2)>>8), byte(len(block)+2))
	return append(append(out, block...), whole[2:]...)
}

func TestAPhotographIsKeptWithoutItsPlace(t *testing.T) {
	data := taken(t)
	if !bytes.Contains(data, []byte("SECRETPLACE")) {
		t.Fatal("the test's picture has no place")
	}
	p, err := exchange.ReadPicture("IMG.JPG", data)
	if err != nil {
		t.Fatal(err)
	}
	if p.Width != 40 || p.Height != 60 {
		t.Errorf("%d × %d: it was not turned upright", p.Width, p.Height)
	}
	for _, b := range [][]byte{p.Data, p.Thumb} {
		if bytes.Contains(b, []byte("SECRETPLACE")) || bytes.Contains(b, []byte("Exif")) {
			t.Error("what the camera wrote beside the pixels is kept")
		}
		if _, format, err := image.DecodeConfig(bytes.NewReader(b)); err != nil || format != "jpeg" {
			t.Errorf("kept as %s, %v", format, err)
		}
	}
	big, err := exchange.ReadPicture("x.png", asPNG(t, picture(3000, 900)))
	if err != nil || big.Width != 2048 || big.Height != 614 {
		t.Errorf("a large picture is kept at %d × %d, %v", big.Width, big.Height, err)
	}
	thumb, _, err := image.DecodeConfig(bytes.NewReader(big.Thumb))
	if err != nil || thumb.Width != 240 {
		t.Errorf("thumbnail %d wide, %v", thumb.Width, err)
	}
}

// webp is the smallest lossless WebP picture, one pixel.
var webp = []byte("RIFF\x1a\x00\x00\x00WEBPVP8L\x0d\x00\x00\x00" +
	"\x2f\x00\x00\x00\x10\x07\x10\x11\x11\x88\x88\xfe\x07\x00")

// bomb is a PNG of a few hundred bytes that says it has 60000 × 60000 pixels.
func bomb(t *testing.T) []byte {
	t.Helper()
	data := asPNG(t, picture(1, 1))
	binary.BigEndian.PutUint32(data[16:], 60000)
	binary.BigEndian.PutUint32(data[20:], 60000)
	binary.BigEndian.PutUint32(data[29:], crc32.ChecksumIEEE(data[12:29]))
	return data
}

func TestPicturesThatAreRefused(t *testing.T) {
	half := asJPEG(t, picture(200, 200))
	for _, c := range []struct {
		code, name string
		data       []byte
	}{
		{"too-large", "x.jpg", make([]byte, 40<<20)},
		{"not-a-picture", "x.jpg", []byte("<script>alert(1)</script>")},
		{"not-a-picture", "x.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>`)},
		{"not-a-picture", "x.gif", []byte("GIF89a\x01\x00\x01\x00\x00\x00\x00;")},
		{"not-what-it-says", "x.jpg", asPNG(t, picture(2, 2))},
		{"not-what-it-says", "x.webp", asJPEG(t, picture(2, 2))},
		{"too-many-pixels", "x.png", bomb(t)},
		{"damaged-picture", "x.jpg", half[:len(half)/2]},
		{"not-a-picture", "x.png", nil},
	} {
		_, err := exchange.ReadPicture(c.name, c.data)
		var refusal *exchange.Refusal
		if !errors.As(err, &refusal) || refusal.Code != c.code || refusal.Text == "" {
			t.Errorf("%s, %d bytes: %v, want %s", c.name, len(c.data), err, c.code)
		}
	}
	if _, err := exchange.ReadPicture("x.webp", webp); err != nil {
		t.Errorf("a WebP picture is refused: %v", err)
	}
}

func TestLabels(t *testing.T) {
	labels := []exchange.Label{{Connector: "A", Device: "control unit", Branch: "trunk", Wires: 52},
		{Connector: strings.Repeat("long ", 20), Device: strings.Repeat("x", 300)}}
	for range 40 {
		labels = append(labels, labels[0])
	}
	var a, b bytes.Buffer
	for _, w := range []*bytes.Buffer{&a, &b} {
		if err := exchange.WriteLabelsPDF(w, "Packhorse", "2026-11-25", labels); err != nil {
			t.Fatal(err)
		}
	}
	if !bytes.Equal(a.Bytes(), b.Bytes()) || !bytes.HasPrefix(a.Bytes(), []byte("%PDF")) ||
		bytes.Count(a.Bytes(), []byte("/Type /Page\n")) != 2 {
		t.Errorf("labels: %d bytes, %d pages", a.Len(), bytes.Count(a.Bytes(), []byte("/Type /Page\n")))
	}
	if err := exchange.WriteLabelsPDF(&a, "x", "yesterday", nil); err == nil {
		t.Error("a date that is none")
	}
}

// What was kept is kept again byte for byte, however often a job file goes to and fro; what has anything beside its
// pixels, in front, between or behind, is made anew without it.
func TestAKeptPictureStaysAsItIs(t *testing.T) {
	first, err := exchange.ReadPicture("", asPNG(t, picture(300, 200)))
	if err != nil {
		t.Fatal(err)
	}
	again, err := exchange.ReadPicture("", first.Data)
	if err != nil || !bytes.Equal(again.Data, first.Data) || len(again.Thumb) == 0 {
		t.Errorf("it comes back as another: %v", err)
	}
	secret := []byte("where it was taken")
	note := append([]byte{0xFF, 0xFE, 0, byte(2 + len(secret))}, secret...) // a comment
	end := len(first.Data)
	for name, data := range map[string][]byte{
		"a comment in front": slices.Concat(first.Data[:2], note, first.Data[2:]),
		"something behind":   slices.Concat(first.Data, secret),
		"a second end":       slices.Concat(first.Data, secret, []byte{0xFF, 0xD9}),
		"before the end":     slices.Concat(first.Data[:end-2], note, first.Data[end-2:]),
	} {
		p, err := exchange.ReadPicture("", data)
		if err == nil && bytes.Contains(p.Data, secret) {
			t.Errorf("%s is kept", name)
		}
	}
}
