package desk

import "draxel/core/stored"

// ChangeWords says what a change was, by the word that the journal has for it: on the page, and in the book. What is
// called after what it changes has its words at the field of the job.
var ChangeWords = stored.WordsOfSubjects(map[string]string{
	"accept":            "accept",
	"answer-back":       "an answer taken back",
	"archive":           "the job put away",
	"branch":            "branches",
	"choose":            "a placement chosen",
	"circuit":           "what feeds",
	"correct":           "the correction",
	"create":            "the job was made",
	"describe":          "the job’s description",
	"drop-photo":        "a photograph taken away",
	"drop-reading":      "a reading taken back",
	"drop-table":        "a further pinout taken out",
	"drop-trace":        "a trace taken back",
	"earlier":           "an earlier job’s map",
	"edit-list":         "cells put right in",
	"prices":            "prices of a list",
	"usual":             "what is usual taken into",
	"looked-at":         "looked at",
	"empty":             "left empty",
	"face":              "a connector’s face",
	"feeds":             "a way to feed it",
	"feeds-chosen":      "a way to feed it chosen",
	"function":          "what is wanted of",
	"exchange":          "outputs exchanged",
	"function-part":     "a wire for a function",
	"function-part-out": "a part taken out",
	"function-way":      "a way to make work",
	"gate-back":         "gates opened again",
	"goes":              "goes",
	"housings":          "the housings",
	"import":            "the import",
	"join":              "joins",
	"left-back":         "what stayed open, taken back",
	"measure":           "a reading",
	"mended":            "a fault mended",
	"note-back":         "a note taken back",
	"order":             "the order of two steps",
	"otherwise":         "done otherwise",
	"own-step":          "a step of our own",
	"parting":           "a disconnect of",
	"parts":             "parts that are there",
	"place":             "the place of",
	"proved-back":       "a reading taken back",
	"reject":            "reject",
	"reopen":            "reopen",
	"rule":              "the rule of",
	"second-check":      "a second check",
	"settle":            "settled",
	"source":            "needs a source",
	"spent-back":        "noted time taken back",
	"stuck":             "does not come out",
	"thin-goes":         "goes",
	"thin-keep":         "kept",
	"thin-reopen":       "reopen",
	"unarchive":         "the job back among those worked at",
	"undo":              "undo",
	"untick":            "tick taken back",
	"way":               "the way of",
	"wire":              "a new wire for",
})

// ChangeWord says what a kind of change is called.
func ChangeWord(what string) string {
	if word, known := ChangeWords[what]; known {
		return word
	}
	return what
}
