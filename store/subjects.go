package store

import "draxel/core/stored"

// jobPuts gives the subjects of a whole job.
func jobPuts(j stored.Job) ([]Put, error) {
	all, err := j.Subjects()
	if err != nil {
		return nil, err
	}
	puts := make([]Put, len(all))
	for i, s := range all {
		puts[i] = Put{s.Name, s.Body, Any}
	}
	return puts, nil
}
