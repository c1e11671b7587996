import type { CavityWire, Ref } from '../api/types.gen';
import { refKey } from '../harness/cavity';
import type { Contents } from '../harness/ConnectorFace';

/** A step as far as it changes what sits in the cavities. */
interface Change {
  id: string;
  kind: string;
  from?: Ref;
  to?: Ref;
}

/** What is in each cavity before a step: as it is now, with the steps before it carried out. */
export function contentsBefore<S extends Change>(
  wires: readonly CavityWire[],
  steps: readonly S[],
  before: string | undefined,
  rowOf: (s: S) => CavityWire['row'],
): Map<string, CavityWire> {
  const at = new Map(wires.map((w) => [refKey(w.at), w]));
  for (const s of steps) {
    if (s.id === before) {
      break;
    }
    if (s.from) {
      at.delete(refKey(s.from));
    }
    if (s.to) {
      const row = rowOf(s);
      at.set(
        refKey(s.to),
        s.kind === 'plug' ? { at: s.to, plugged: true } : { at: s.to, ...(row ? { row } : {}) },
      );
    }
  }
  return at;
}

/** The contents of one connector, by cavity. */
export function contentsOf(all: ReadonlyMap<string, CavityWire>, connector: string): Contents {
  const out = new Map<string, NonNullable<CavityWire['row']>['colour'] | 'plug'>();
  for (const w of all.values()) {
    if (w.at.connector === connector) {
      if (w.plugged) {
        out.set(w.at.cavity, 'plug');
      } else {
        out.set(w.at.cavity, w.row?.colour ?? { written: '' });
      }
    }
  }
  return out;
}
