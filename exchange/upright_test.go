package exchange

import (
	"image"
	"image/color"
	"testing"

	"golang.org/x/image/draw"
)

// Where the stored picture's first row and first column are to be seen, as the standard says it of each orientation
// (TIFF 6.0, tag 274), worked out by hand for the first pixel and the last of the first row.
func TestUprightInAllEightOrientations(t *testing.T) {
	const w, h = 3, 2
	red, blue := color.NRGBA{255, 0, 0, 255}, color.NRGBA{0, 0, 255, 255}
	stored := image.NewNRGBA(image.Rect(0, 0, w, h))
	draw.Draw(stored, stored.Bounds(), image.White, image.Point{}, draw.Src)
	stored.SetNRGBA(0, 0, red)
	stored.SetNRGBA(w-1, 0, blue)
	for turned, want := range map[int][2]image.Point{
		1: {{0, 0}, {2, 0}}, // first row on top, first column on the left
		2: {{2, 0}, {0, 0}}, // top, right
		3: {{2, 1}, {0, 1}}, // bottom, right
		4: {{0, 1}, {2, 1}}, // bottom, left
		5: {{0, 0}, {0, 2}}, // left, top
		6: {{1, 0}, {1, 2}}, // right, top
		7: {{1, 2}, {1, 0}}, // right, bottom
		8: {{0, 2}, {0, 0}}, // left, bottom
	} {
		got := fit(stored, 100, turned, draw.NearestNeighbor)
		if got.NRGBAAt(want[0].X, want[0].Y) != red || got.NRGBAAt(want[1].X, want[1].Y) != blue {
			t.Errorf("orientation %d: first pixel and last of its row are not at %v", turned, want)
		}
	}
}

// A long thin picture is refused by its side, whatever its pixels come to.
func TestALongPictureIsRefused(t *testing.T) {
	long := image.NewGray(image.Rect(0, 0, maxSide+1, 1))
	data, err := encode(long)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := ReadPicture("x.jpg", data); err == nil {
		t.Error("it is kept")
	}
}
