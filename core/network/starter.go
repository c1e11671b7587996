package network

// starters draws the motors that crank the engine: each turns while a solenoid that a wire comes to has pulled. Where
// there is none it turns while the key is in crank.
func (d *drawing) starters() {
	for _, e := range d.motors {
		name := e.Name
		for i := range d.in.Devices {
			id := d.in.Devices[i].ID
			if len(d.out.Of[id]) == 0 || !d.out.Starters[id] {
				continue
			}
			e.Gate = Gate{
				Relay: d.b.Relay(
					Relay{Name: id + " solenoid", Coil: d.out.Of[id][0], PullIn: pullVolts, DropOut: dropVolts},
				),
			}
			d.out.Motors = append(d.out.Motors, d.load(name, e))
			e.Name = name + " by another solenoid"
		}
		if e.Gate.Relay == 0 {
			e.Gate.Key = Crank
			d.out.Motors = append(d.out.Motors, d.load(name, e))
		}
	}
}
