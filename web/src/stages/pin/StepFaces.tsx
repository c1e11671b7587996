import type { Colour, Connector, PinView, Ref, SheetStep } from '../../api/types.gen';
import { refKey } from '../../harness/cavity';
import { ConnectorFace } from '../../harness/ConnectorFace';

/** The housings that a step touches, from the wire side, filled as they are before it: the cavity it leaves and the one it enters. */
export function StepFaces({ view, step }: { view: PinView; step: SheetStep }) {
  const ids = [...new Set([step.from?.connector, step.to?.connector].filter((c): c is string => !!c))];
  const shown = ids
    .map((id) => view.housings.find((h) => h.id === id))
    .filter((h): h is Connector => h !== undefined);
  const filled = wiresBefore(view, step);
  return (
    <div className="bar" style={{ padding: '2px 0 8px', gap: 4 }}>
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
              width={shown.length > 1 ? 400 : 520}
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

/** Which wire sits in which cavity before the step: the harness as found, with the steps before it carried out. */
function wiresBefore(view: PinView, step: SheetStep): Map<string, Colour> {
  const at = new Map(view.wires.map((r) => [refKey(r.ref), r.colour]));
  for (const s of view.steps) {
    if (s.id === step.id) {
      break;
    }
    if (s.from) {
      at.delete(refKey(s.from));
    }
    if (s.to && s.terminal) {
      at.set(refKey(s.to), s.wire.colour);
    }
  }
  return at;
}
