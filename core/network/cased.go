package network

import "draxel/core/harness"

// cased gives the node that a device is grounded at which has no ground wire: where its case is bolted to. One that was
// found with a ground wire of its own is not grounded without it.
func (d *drawing) cased(dev *harness.Device) Node {
	if d.in.OwnGround[dev.ID] {
		return d.b.Node(dev.ID + " ground that is gone")
	}
	return d.point(d.ground(dev))
}
