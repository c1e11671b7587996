import type { Colour, Connector, PinView, Ref, SheetStep } from '../../api/types.gen';
import { ConnectorFace } from '../../harness/ConnectorFace';

/** The housings that a step touches, from the wire side, filled as they are before it: the cavity it leaves and the one it enters. */
export function StepFaces({ view, step }: { view: PinView; step: SheetStep }) {
  const ids = [...new Set([step.from?.connector, step.to?.connector].filter((c): c is string => !!c))];
  const shown = ids
    .map((id) => view.housings.find((h) => h.id === id))
    .filter((h): h is Connector => h !== undefined);
  const filled = wiresBefore(view, step);
  return (
    <div className="bar" style={{ justifyContent: 'space-evenly', padding: '4px 0 6px' }}>
      {shown.map((h) => {
        const inHere = (r: Ref | undefined) => (r?.connector === h.id ? r.cavity : undefined);
        return (
          <figure key={h.id} style={{ margin: 0, textAlign: 'center' }}>
            <ConnectorFace
              connector={h}
              view="wire"
              colours={
                new Map(
                  [...filled]
                    .filter(([k]) => k.startsWith(h.id + ' '))
                    .map(([k, c]) => [k.slice(h.id.length + 1), c]),
                )
              }
              lit={inHere(step.to) ?? inHere(step.from)}
              beside={inHere(step.to) ? inHere(step.from) : undefined}
              width={shown.length > 1 ? 540 : 720}
            />
            <figcaption className="quiet" style={{ fontSize: 13 }}>
              plug {h.name}, {h.cavities.length}-way · you look at the wire side, lock up
              {h.assumed ? ' · rows assumed: check the moulded numbers' : ''}
            </figcaption>
          </figure>
        );
      })}
    </div>
  );
}

/** Which wire sits in which cavity before the step, among the wires that the sheet moves. */
function wiresBefore(view: PinView, step: SheetStep): Map<string, Colour> {
  const at = new Map<string, string>();
  const colour = new Map<string, Colour>();
  for (const s of view.steps) {
    if (s.terminal && s.wire.ref.cavity !== '') {
      colour.set(s.terminal, s.wire.colour);
      if (s.kind !== 'new' && !at.has(s.terminal) && s.from && s.kind !== 'seat') {
        at.set(s.terminal, `${s.from.connector} ${s.from.cavity}`);
      }
    }
  }
  for (const s of view.steps) {
    if (s.id === step.id) {
      break;
    }
    if (s.terminal) {
      if (s.to) {
        at.set(s.terminal, `${s.to.connector} ${s.to.cavity}`);
      } else {
        at.delete(s.terminal);
      }
    }
  }
  return new Map([...at].map(([t, k]) => [k, colour.get(t) ?? { written: '' }]));
}
