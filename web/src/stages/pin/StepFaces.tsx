import type { CavityWire, Face, Ref } from '../../api/types.gen';
import { ConnectorFace, type View } from '../../harness/ConnectorFace';
import { contentsOf } from './contents';

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
  return (
    <div className="stepfaces">
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
                width={width / ids.length}
                {...(height ? { height } : {})}
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
