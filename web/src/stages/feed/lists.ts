/** What each of Feed's lists is called and holds. */
export const listWords: Record<string, [string, string] | undefined> = {
  sources: [
    'Sources',
    'The battery and the alternator: where their poles are, cranking amps, Ah, amps at speed and at idle.',
  ],
  fuses: [
    'Fuses',
    'A line a slot: its rating, the cavity or bus that feeds it, the cavity that it feeds. A slot that feeds nothing is a spare.',
  ],
  switches: [
    'Contacts',
    'The key, contact by contact, with the positions in which it is closed; and switches of their own. What was measured at the ignition switch outranks this list.',
  ],
  relays: ['Relays', 'Where the coil gets its two ends, and what its contact joins.'],
  cables: ['Cables', 'Thick cables and ground straps that no list of wires has.'],
  loads: ['Loads', 'What was stated or measured of a load; the rest is reckoned as usual for its kind.'],
};
