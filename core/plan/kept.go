package plan

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
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

// Frozen gives the job as it is kept under a name: without its pictures, and without the states that were kept before.
func (j Job) Frozen() ([]byte, error) {
	j.Delivered = nil
	data, err := json.Marshal(j)
	if err != nil {
		return nil, fmt.Errorf("keep the job: %w", err)
	}
	return data, nil
}
