package stored

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
)

// Hash names what a print is made from: the job's facts, decisions and progress.
func (j Job) Hash() (string, error) {
	text, err := json.Marshal(j)
	if err != nil {
		return "", fmt.Errorf("hash the job: %w", err)
	}
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:6]), nil
}

// mostFrozen bounds a state that is unpacked, bytes.
const mostFrozen = 64 << 20

// Frozen gives the job as it is kept under a name, packed: without its pictures, and without the states that were kept
// before.
func (j Job) Frozen() ([]byte, error) {
	j.Delivered = nil
	data, err := json.Marshal(j)
	if err != nil {
		return nil, fmt.Errorf("keep the job: %w", err)
	}
	var out bytes.Buffer
	w := gzip.NewWriter(&out)
	if _, err = w.Write(data); err == nil {
		err = w.Close()
	}
	if err != nil {
		return nil, fmt.Errorf("keep the job: %w", err)
	}
	return out.Bytes(), nil
}

// Thaw gives the job that was kept; states of old are not packed. One that unpacks to more than a job can have is
// refused.
func Thaw(kept []byte) (Job, error) {
	if len(kept) > 1 && kept[0] == 0x1f && kept[1] == 0x8b { // RFC 1952
		r, err := gzip.NewReader(bytes.NewReader(kept))
		if err != nil {
			return Job{}, fmt.Errorf("unpack the state: %w", err)
		}
		if kept, err = io.ReadAll(io.LimitReader(r, mostFrozen+1)); err != nil {
			return Job{}, fmt.Errorf("unpack the state: %w", err)
		}
		if len(kept) > mostFrozen {
			return Job{}, fmt.Errorf("the state unpacks to more than %d MB", mostFrozen>>20)
		}
	}
	return Read(kept)
}
