package harness

import (
	"fmt"
	"strings"
)

// Joints that are made are named by us after what they are for, those that were found by the person who listed them:
// "joint at A2", "7004a joint 1", "S101 through", beside "S101". ListedSplice keeps the two apart, whatever a splice is
// called.
const (
	madeAt  = "joint at "
	through = " through"
)

// ListedSplice gives the name under which a splice of a person's lists is known: its own, with spaces that do not break
// where it reads like one of ours. Such a space counts as one that does.
func ListedSplice(name string) string {
	name = strings.ReplaceAll(name, unbroken, " ")
	if strings.HasPrefix(name, madeAt) || strings.Contains(name, " joint ") || strings.HasSuffix(name, through) {
		return strings.ReplaceAll(name, " ", unbroken)
	}
	return name
}

// JointAt names the joint that is made at a place: a cavity, or that with more that tells it from others there.
func JointAt(place string) string { return madeAt + place }

// MadeAt says whether a joint was made, or is to be made, at a place, and is no splice or stud that was found.
func MadeAt(joint string) bool { return strings.HasPrefix(joint, madeAt) }

// Joint names the nth joint that lengthens a wire, from 1.
func (w WireID) Joint(n int) string { return fmt.Sprintf("%s joint %d", w, n) }

// Through names what is left of a splice where two legs go through as one.
func Through(splice string) string { return splice + through }
