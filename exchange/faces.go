package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"

	"draxel/core/face"
)

// FacesFormat is the version of the file of faces that this Draxel writes.
const FacesFormat = 1

// FacesFile holds the faces of connectors by their names. Its schema is published with Draxel's documents.
type FacesFile struct {
	Format int                     `json:"format"`
	Faces  map[string]*face.Layout `json:"faces"`
}

// WriteFaces writes a file of faces, indented.
func WriteFaces(w io.Writer, faces map[string]*face.Layout) error {
	if faces == nil {
		faces = map[string]*face.Layout{}
	}
	e := json.NewEncoder(w)
	e.SetIndent("", "  ")
	if err := e.Encode(FacesFile{FacesFormat, faces}); err != nil {
		return fmt.Errorf("write faces: %w", err)
	}
	return nil
}

// ReadFaces reads a file of faces and checks each. It fails with a *Refusal.
func ReadFaces(data []byte) (map[string]*face.Layout, error) {
	if len(data) > MaxBytes {
		return nil, refuse("too-large", "the file of faces has more than %d MB", MaxBytes>>20)
	}
	var f FacesFile
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(&f); err != nil {
		return nil, refuse("damaged-faces", "the file of faces cannot be read: %v", err)
	}
	if f.Format > FacesFormat {
		return nil, refuse("newer-format", "the file of faces was written by a newer Draxel (format %d)", f.Format)
	}
	if f.Format < 1 || len(f.Faces) == 0 {
		return nil, refuse("damaged-faces", "there are no faces in the file")
	}
	for id, l := range f.Faces {
		if l == nil || id == "" || len(id) > 60 {
			return nil, refuse("damaged-faces", "a face has no name, or a name has no face")
		}
		if err := l.Check(); err != nil {
			return nil, refuse("damaged-faces", "the face of %s: %v", id, err)
		}
	}
	return f.Faces, nil
}
