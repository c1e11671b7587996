import type { Block, Circuit, FeedView, Protected } from '../../api/types.gen';
import { bandsOf, circuitsAt, fuseOf, keyOf, lidOf, mainOf, type Chosen } from './block';
import { refName } from '../../harness/cavity';
import { amps } from '../../work/amps';

interface Props {
  view: FeedView;
  block: Block;
  chosen: string;
  /** The circuit that is being moved to another slot. */
  moving: Circuit | undefined;
  onChoose: (c: Chosen) => void;
  onPick: (c: Circuit) => void;
  onPut: (cavity: string) => void;
}

/** The block as it will be built: a row for each group, its slots in the order of their numbers, its relays beside them. */
export function BlockDrawing({ view, block, chosen, moving, onChoose, onPick, onPut }: Props) {
  return (
    <div className={`fuseblock${moving ? ' moving' : ''}`}>
      {bandsOf(view, block).map((band) => (
        <div className="busrow" key={band[0] ? keyOf(band[0]) : ''}>
          {band[0]?.kind === 'circuit' && (
            <div className="grouphead tray">
              <strong>not on the block</strong>
              <span className="quiet">fed from elsewhere, or from nothing yet</span>
            </div>
          )}
          {band.map((c) => {
            const on = keyOf(c) === chosen;
            switch (c.kind) {
              case 'group':
                return (
                  <GroupHead
                    key={keyOf(c)}
                    {...{ view, block, on }}
                    name={c.name}
                    onChoose={() => onChoose(c)}
                  />
                );
              case 'relay':
                return (
                  <Relay
                    key={keyOf(c)}
                    {...{ view, block, on, onPut }}
                    name={c.name}
                    onChoose={() => onChoose(c)}
                    onPick={onPick}
                  />
                );
              case 'slot':
                return (
                  <Slot
                    key={keyOf(c)}
                    {...{ view, block, on, onPut }}
                    name={c.name}
                    onChoose={() => onChoose(c)}
                    onPick={onPick}
                  />
                );
              case 'circuit':
                return (
                  <button
                    key={keyOf(c)}
                    className={`slot loose${on ? ' on' : ''}`}
                    data-key={keyOf(c)}
                    onClick={() => onChoose(c)}
                    draggable
                    onDragStart={() => onPick(c.circuit)}
                  >
                    <span className="mono strong">{refName(c.circuit.at)}</span>
                    <span className="lid">{c.circuit.text}</span>
                    <span className="quiet">{c.circuit.from ? `from ${c.circuit.from}` : 'no feed yet'}</span>
                  </button>
                );
            }
          })}
        </div>
      ))}
    </div>
  );
}

interface PartOf {
  view: FeedView;
  block: Block;
  on: boolean;
  name: string;
  onChoose: () => void;
}

function GroupHead({ view, block, on, name, onChoose }: PartOf) {
  const g = block.groups.find((x) => x.name === name);
  const main = mainOf(view, block, name);
  return (
    <button className={`grouphead${on ? ' on' : ''}`} data-key={`group ${name}`} onClick={onChoose}>
      <strong>{name}</strong>
      <span className="quiet">
        {g?.relay ? `87 of ${g.relay}` : `from ${g?.from ?? ''}`}
        {main && `, ${main.rating > 0 ? `${main.rating} A` : 'no fuse fits'} there`}
      </span>
      {main && <span className="quiet">{amps(main.load)}</span>}
    </button>
  );
}

interface Holder extends PartOf {
  onPick: (c: Circuit) => void;
  onPut: (cavity: string) => void;
}

/** What a circuit looks like where it stands: its cavity, to be taken hold of. */
function Chips({ circuits, onPick }: { circuits: Circuit[]; onPick: (c: Circuit) => void }) {
  return (
    <span className="chips">
      {circuits.map((c) => (
        <span
          key={refName(c.at)}
          className="chip mono"
          draggable
          onDragStart={() => onPick(c)}
          title={c.text}
        >
          {refName(c.at)}
        </span>
      ))}
    </span>
  );
}

/** Where a circuit can be put down. */
const target = (cavity: string, onPut: (cavity: string) => void) => ({
  onDragOver: (e: React.DragEvent) => e.preventDefault(),
  onDrop: (e: React.DragEvent) => {
    e.preventDefault();
    onPut(cavity);
  },
});

function Slot({ view, block, on, name, onChoose, onPick, onPut }: Holder) {
  const slot = block.slots.find((s) => s.name === name);
  const f = fuseOf(view, block, name);
  if (!slot) {
    return null;
  }
  const circuits = circuitsAt(view, name);
  const trouble = !!f && (f.unsaved !== undefined || f.load > f.rating) && f.wires.length > 0;
  return (
    <button
      className={`slot${on ? ' on' : ''}${circuits.length === 0 ? ' spare' : ''}`}
      data-key={`slot ${name}`}
      onClick={onChoose}
      {...target(name, onPut)}
    >
      <span className="slottop">
        <span className="mono">{name}</span>
        <span className="mono strong">{rating(f, circuits.length > 0)}</span>
      </span>
      <span className="lid">{lidOf(view, slot)}</span>
      <Chips circuits={circuits} onPick={onPick} />
      <LoadBar f={f} trouble={trouble} />
    </button>
  );
}

function rating(f: Protected | undefined, used: boolean): string {
  if (f && f.rating > 0) {
    return `${f.rating} A`;
  }
  return used ? 'none fits' : '';
}

/** What a slot carries of what its fuse has: the outline is the fuse, the ink the load. */
function LoadBar({ f, trouble }: { f: Protected | undefined; trouble: boolean }) {
  if (!f || f.load < 0.05) {
    return <span className="loadbar none" />;
  }
  const part = f.rating > 0 ? Math.min(1, f.load / f.rating) : 1;
  return (
    <span className="loadline">
      <span className={`loadbar${f.load > f.rating ? ' over' : ''}`} aria-hidden="true">
        <span style={{ width: `${100 * part}%` }} />
        <i />
      </span>
      <span className="mono">
        {trouble && '▲ '}
        {amps(f.load)}
      </span>
    </span>
  );
}

function Relay({ view, block, on, name, onChoose, onPick, onPut }: Holder) {
  const r = block.relays.find((x) => x.name === name);
  if (!r) {
    return null;
  }
  const fed = block.groups.filter((g) => g.relay === name).map((g) => g.name);
  const circuits = circuitsAt(view, `${name}.87`);
  return (
    <button
      className={`slot relaybox${on ? ' on' : ''}`}
      data-key={`relay ${name}`}
      onClick={onChoose}
      {...target(`${name}.87`, onPut)}
    >
      <span className="slottop">
        <span className="mono">{name}</span>
        <span className="mono strong">{r.amps ?? 30} A</span>
      </span>
      <span className="lid">{r.for ?? 'relay'}</span>
      <span className="quiet">
        86 {r.plus}, 85 {r.minus}
      </span>
      {fed.length > 0 ? (
        <span className="quiet">87 feeds “{fed.join(', ')}”</span>
      ) : (
        <Chips circuits={circuits} onPick={onPick} />
      )}
    </button>
  );
}
