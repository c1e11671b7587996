package harness

import (
	"fmt"
	"strings"
)

// JointID names a place where wires meet: a splice that was found, a stud or post to which they are brought, or a joint
// that is made. Those that are made are named by us after what they are for, those that were found by the person who
// listed them: "joint at A2", "7004a joint 1", "S101 through", beside "S101". ListedSplice keeps the two apart,
// whatever a splice is called.
type JointID string

const (
	madeAt  = "joint at "
	through = " through"
)

// ListedSplice gives the name under which a splice of a person's lists is known: its own, with spaces that do not break
// where it reads like one of ours. Such a space counts as one that does.
func ListedSplice(name string) JointID {
	name = strings.ReplaceAll(name, unbroken, " ")
	if JointID(name).Made() {
		name = strings.ReplaceAll(name, " ", unbroken)
	}
	return JointID(name)
}

// JointAt names the joint that is made at a place: a cavity, or that with more that tells it from others there.
func JointAt(place string) JointID { return JointID(madeAt + place) }

// MadeAt says whether a joint was made, or is to be made, at a place, and is no splice or stud that was found.
func (j JointID) MadeAt() bool { return strings.HasPrefix(string(j), madeAt) }

// Made says whether its name is one of ours: a joint that decisions make.
func (j JointID) Made() bool {
	return j.MadeAt() || strings.Contains(string(j), " joint ") || strings.HasSuffix(string(j), through)
}

// Name gives the text in which it is written down: a splice in the person's own spelling.
func (j JointID) Name() string { return strings.ReplaceAll(string(j), unbroken, " ") }

// Joint names the nth joint that lengthens a wire, from 1.
func (w WireID) Joint(n int) JointID { return JointID(fmt.Sprintf("%s joint %d", w, n)) }

// Through names what is left of a splice where two legs go through as one.
func (j JointID) Through() JointID { return j + through }
