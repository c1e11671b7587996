package exchange

import (
	"bytes"
	"image"
	"image/jpeg"
	_ "image/png" // a format that is read
	"path/filepath"
	"strings"
	"sync"

	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp" // a format that is read
)

// Limits of a photograph.
const (
	MaxPicture   = 25 << 20   // bytes as sent
	maxPixels    = 50_000_000 // a picture of more is not unpacked
	maxSide      = 16_384     // nor one that is longer
	pictureSide  = 2048       // pixels of the longer side as kept
	thumbSide    = 240
	pictureGrade = 84 // of 100, JPEG
)

// Picture is a photograph as it is kept: a JPEG made anew from the pixels alone, so that where and when it was taken,
// and whatever else a camera writes beside them, stay out of the job.
type Picture struct {
	Data   []byte `json:"data"`
	Thumb  []byte `json:"thumb"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
}

// formats are those that are read, with the extensions that name them.
var formats = map[string][]string{"jpeg": {".jpg", ".jpeg", ".jfif"}, "png": {".png"}, "webp": {".webp"}}

// ReadPicture makes a photograph ready to be kept: turned upright, made smaller, with a thumbnail. It fails with a
// *Refusal when it is too large, no picture of a known format, not what its name says, or unpacks to too much.
func ReadPicture(name string, data []byte) (Picture, error) {
	if len(data) > MaxPicture {
		return Picture{}, refuse(
			"too-large",
			"the picture has %d MB; at most %d MB are read",
			len(data)>>20,
			MaxPicture>>20,
		)
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(data))
	if _, read := formats[format]; err != nil || !read {
		return Picture{}, refuse("not-a-picture", "this is not a JPEG, PNG or WebP picture")
	}
	ext := strings.ToLower(filepath.Ext(name))
	for other, names := range formats {
		for _, n := range names {
			if ext == n && other != format {
				return Picture{}, refuse(
					"not-what-it-says",
					"the file is called %s and is a %s: it is not kept",
					ext,
					strings.ToUpper(format),
				)
			}
		}
	}
	if config.Width <= 0 || config.Height <= 0 || config.Width > maxPixels/config.Height ||
		max(config.Width, config.Height) > maxSide {
		return Picture{}, refuse(
			"too-many-pixels",
			"the picture has %d × %d pixels; at most %d million are unpacked, "+
				"%d to a side",
			config.Width,
			config.Height,
			maxPixels/1_000_000,
			maxSide,
		)
	}
	unpacking.Lock()
	defer unpacking.Unlock()
	whole, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refuse("damaged-picture", "the picture is damaged: %v", err)
	}
	if format == "jpeg" && max(config.Width, config.Height) <= pictureSide && bare(data) {
		p := Picture{Data: data, Width: config.Width, Height: config.Height} // as we write it: nothing else is in it
		p.Thumb, err = encode(fit(whole, thumbSide, 1, draw.ApproxBiLinear))
		return p, err
	}
	turned := 1
	if format == "jpeg" {
		turned = orientation(data)
	}
	kept := fit(whole, pictureSide, turned, draw.CatmullRom)
	p := Picture{Width: kept.Bounds().Dx(), Height: kept.Bounds().Dy()}
	if p.Data, err = encode(kept); err != nil {
		return Picture{}, err
	}
	p.Thumb, err = encode(fit(kept, thumbSide, 1, draw.ApproxBiLinear))
	return p, err
}

// bare says whether a JPEG has nothing in it but what its pixels need: no note, no place, no picture of another size,
// and nothing behind its end (ISO/IEC 10918-1, annex B). Such a one is kept as it is, so that a job file that goes to
// and fro loses nothing.
func bare(data []byte) bool {
	const start, quantisation, baseline, huffman, restarts, scan, end = 0xD8, 0xDB, 0xC0, 0xC4, 0xDD, 0xDA, 0xD9
	if len(data) < 4 || data[0] != 0xFF || data[1] != start {
		return false
	}
	at := 2
	for {
		if at+4 > len(data) || data[at] != 0xFF {
			return false
		}
		marker := data[at+1]
		at += 2 + int(data[at+2])<<8 + int(data[at+3])
		switch marker {
		case quantisation, baseline, huffman, restarts:
			continue
		case scan:
		default:
			return false
		}
		break
	}
	for ; at+1 < len(data); at++ {
		if data[at] != 0xFF || data[at+1] == 0 || data[at+1] >= 0xD0 && data[at+1] <= 0xD7 {
			continue // a pixel, or a place to begin anew
		}
		return data[at+1] == end && at+2 == len(data)
	}
	return false
}

// unpacking lets one picture be unpacked at a time, wherever it comes from: each may take some hundred MB, and the
// memory is the whole program's.
var unpacking sync.Mutex

func encode(m image.Image) ([]byte, error) {
	var b bytes.Buffer
	err := jpeg.Encode(&b, m, &jpeg.Options{Quality: pictureGrade})
	return b.Bytes(), err
}
