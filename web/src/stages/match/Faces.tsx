import type { Colour, Face as FaceOf, MatchView, Pinout, Row } from '../../api/types.gen';
import { refName } from '../../harness/cavity';
import { ConnectorFace, type View } from '../../harness/ConnectorFace';
import type { SpreadRow } from './spread';

interface Props {
  view: MatchView;
  row: SpreadRow | undefined;
  considered: Row | undefined;
  face: View;
  onFace: (v: View) => void;
  onSelect: (key: string) => void;
}

/** Both connectors of the selected row, its cavities lit, and between them the totals, which are never out of sight. */
export function Faces({ view, row, considered, face, onFace, onSelect }: Props) {
  const t = view.totals;
  const to = considered ?? row?.to;
  const pick = (pinout: Pinout, connector: string, side: 'from' | 'to') => (cavity: string) => {
    if (side === 'from') {
      const line = view.lines.find((l) => l.from.connector === connector && l.from.cavity === cavity);
      if (line) {
        onSelect(keyOf('from', connector, cavity));
      }
      return;
    }
    const line = view.lines.find(
      (l) => l.to?.connector === connector && l.to.cavity === cavity && l.verdict !== 'undecided',
    );
    const filled = pinout.rows.some(
      (r) => r.ref.connector === connector && r.ref.cavity === cavity && !r.empty,
    );
    if (line) {
      onSelect(keyOf('from', line.from.connector, line.from.cavity));
    } else if (filled) {
      onSelect(keyOf('to', connector, cavity));
    }
  };
  return (
    <div className="faces">
      <Face
        pinout={view.from}
        faces={view.fromFaces}
        at={row?.from}
        face={face}
        onFace={onFace}
        onPick={pick}
        side="from"
      />
      <div className="totals" data-testid="totals">
        <div>
          <strong>{t.from}</strong> rows · <strong>{t.decided}</strong> decided
        </div>
        <div>
          <strong>{t.open}</strong> open · <strong>{t.needsWire}</strong> need a wire
        </div>
        <div className="quiet">
          {[
            [t.stays + t.faces, 'stay'],
            [t.moves + t.movesConnector, 'move'],
            [t.meets + t.joins, 'are joined'],
            [t.goes, 'go'],
          ]
            .filter(([n]) => n)
            .map(([n, word]) => `${n} ${word}`)
            .join(' · ')}
        </div>
        <div>
          {!t.reconciled ? (
            <strong>the counts do not balance</strong>
          ) : t.open + view.unserved > 0 ? (
            'the counts balance'
          ) : (
            'all reconciled'
          )}
        </div>
      </div>
      <Face
        pinout={view.to}
        faces={view.toFaces}
        at={to}
        face={face}
        onFace={onFace}
        onPick={pick}
        side="to"
      />
    </div>
  );
}

const keyOf = (side: string, connector: string, cavity: string) =>
  `${side} ${refName({ connector, cavity })}`;

interface FaceProps {
  pinout: Pinout;
  faces: Record<string, FaceOf>;
  at: Row | undefined;
  face: View;
  onFace: (v: View) => void;
  side: 'from' | 'to';
  onPick: (pinout: Pinout, connector: string, side: 'from' | 'to') => (cavity: string) => void;
}

function Face({ pinout, faces, at, face, onFace, side, onPick }: FaceProps) {
  const connector = pinout.connectors.find((c) => c.id === at?.ref.connector) ?? pinout.connectors[0];
  const drawing = connector && faces[connector.id]?.[face];
  if (!connector || !drawing) {
    return <figure />;
  }
  const colours = new Map<string, Colour>();
  for (const r of pinout.rows) {
    if (r.ref.connector === connector.id && !r.empty) {
      colours.set(r.ref.cavity, r.colour);
    }
  }
  return (
    <figure>
      <figcaption>
        <strong>
          {connector.name}, {connector.cavities.length}-way
        </strong>{' '}
        <button
          className="plain quiet"
          onClick={() => onFace(face === 'wire' ? 'mating' : 'wire')}
          title="turn the connectors (V)"
        >
          {drawing.words}
          {connector.assumed ? ' · rows assumed' : ''}
        </button>
      </figcaption>
      <ConnectorFace
        connector={connector.id}
        drawing={drawing}
        contents={colours}
        {...(at ? { lit: at.ref.cavity } : {})}
        width={380}
        height={150}
        onPick={onPick(pinout, connector.id, side)}
      />
    </figure>
  );
}
