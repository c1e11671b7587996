import type { CavityWire, Face, Ref } from '../api/types.gen';
import { ConnectorFace, type View } from '../harness/ConnectorFace';
import { contentsOf } from './contents';

const narrow = 560; // px, under which two faces stand one above the other

interface Props {
  faces: Record<string, Face>;
  /** What is in the cavities before the step. */
  contents: ReadonlyMap<string, CavityWire>;
  from: Ref | undefined;
  to: Ref | undefined;
  view: View;
  width: number;
  height?: number;
  /** Connectors whose rows nobody has looked at. */
  assumed?: ReadonlySet<string>;
}

/** The housings that a step touches, filled as they are before it: the cavity it leaves and the one it enters. */
export function StepFaces({ faces, contents, from, to, view, width, height, assumed }: Props) {
  const ids = [...new Set([from?.connector, to?.connector])].filter((c): c is string => !!c && !!faces[c]);
  const inside = (r: Ref | undefined, id: string) => (r?.connector === id ? r.cavity : undefined);
  const stacked = ids.length > 1 && width < narrow;
  const share = stacked ? 1 : ids.length;
  return (
    <div className={`stepfaces${stacked ? ' stacked' : ''}`}>
      {ids.map((id) => {
        const drawing = faces[id]?.[view];
        const lit = inside(to, id);
        const beside = inside(from, id);
        return (
          drawing && (
            <figure key={id}>
              <ConnectorFace
                connector={id}
                drawing={drawing}
                contents={contentsOf(contents, id)}
                {...(lit ? { lit } : {})}
                {...(beside ? { beside } : {})}
                width={width / share}
                {...(height ? { height: stacked ? height / 2 - 30 : height } : {})}
              />
              <figcaption className="quiet">
                plug <strong>{id}</strong>, {drawing.cells.length}-way · you look at the {drawing.words}
                {assumed?.has(id) ? ' · rows assumed: check the moulded numbers' : ''}
              </figcaption>
            </figure>
          )
        );
      })}
    </div>
  );
}
