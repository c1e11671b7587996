/** The one keymap of the product: what each key does, shown with "?". */
export const keymap = [
  { keys: ['↑', '↓'], does: 'row up, row down' },
  { keys: ['Enter'], does: 'accept what is offered, or on to the next open row' },
  { keys: ['X'], does: 'reject the candidate' },
  { keys: ['←', '→'], does: 'the candidate before, the next candidate' },
  { keys: ['C'], does: 'choose another cavity' },
  { keys: ['G'], does: 'goes: not wanted any more' },
  { keys: ['N'], does: 'needs a source: then B battery, I ignition, G ground, S switch' },
  { keys: ['E'], does: 'leave a To cavity empty, with the reason' },
  { keys: ['R'], does: 'reopen: take the decision back' },
  { keys: ['A'], does: 'accept all above a certainty' },
  { keys: ['U'], does: 'undo the last change' },
  { keys: ['/'], does: 'find' },
  { keys: ['V'], does: 'turn the connectors: wire side, mating face' },
  { keys: ['F'], does: 'findings' },
  { keys: ['?'], does: 'these keys' },
  { keys: ['Esc'], does: 'back' },
] as const;
