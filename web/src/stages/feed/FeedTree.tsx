import { useMemo } from 'react';
import type { Feeder } from '../../api/types.gen';
import { useKey } from '../../keys/useKey';
import { amps } from '../../work/amps';
import { liveWord } from '../../work/live';
import { band, kindWord, layOut, type Drawn, type Thing } from './tree';

interface Props {
  tree: Feeder[];
  opened: ReadonlySet<string>;
  chosen: string;
  onChoose: (key: string) => void;
  onOpen: (key: string, first: string) => void;
}

const box = { width: 116, height: 32, gap: 42, row: 40, left: 10, top: 12 };
const x = (d: Drawn) => box.left + d.depth * (box.width + box.gap);
const y = (d: Drawn) => box.top + d.row * box.row;

/** From the battery to every load: a band's outline is what its wire may carry, the ink in it what it does. */
export function FeedTree({ tree, opened, chosen, onChoose, onOpen }: Props) {
  const drawn = useMemo(() => layOut(tree, opened), [tree, opened]);
  const at = Math.max(
    0,
    drawn.findIndex((d) => d.key === chosen),
  );
  const go = (to: Drawn | undefined) => {
    if (to) {
      onChoose(to.key);
      document.getElementById(`feeder ${to.key}`)?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    }
  };
  const here = drawn[at];
  const beside = (step: number) => {
    const column = drawn.filter((d) => d.depth === here?.depth).sort((a, b) => a.row - b.row);
    return here && column[column.indexOf(here) + step];
  };
  useKey('up', () => go(beside(-1)));
  useKey('down', () => go(beside(1)));
  useKey('left', () => go(drawn[here?.parent ?? -1]));
  useKey('right', () => go(drawn[here?.children[0] ?? -1]));
  useKey('enter', () => here && here.of.length > 1 && onOpen(here.key, tree[here.of[0] ?? 0]?.id ?? ''));
  const width = Math.max(...drawn.map((d) => x(d))) + box.width + 96;
  const height = Math.max(...drawn.map((d) => y(d))) + box.height + 14;
  return (
    <div className="feedtree" role="group" aria-label="feed tree" tabIndex={0} data-testid="feedtree">
      <svg width={width} height={height} role="presentation">
        {drawn.map((d) => d.parent >= 0 && <Band key={d.key} d={d} drawn={drawn} tree={tree} />)}
      </svg>
      {drawn.map((d, i) => (
        <Box key={d.key} d={d} tree={tree} on={i === at} onChoose={onChoose} onOpen={onOpen} />
      ))}
    </div>
  );
}

function Band({ d, drawn, tree }: { d: Drawn; drawn: Drawn[]; tree: Feeder[] }) {
  const parent = drawn[d.parent];
  const f = tree[d.of[0] ?? 0];
  if (!parent || !f) {
    return null;
  }
  const x1 = x(parent) + box.width;
  const y1 = y(parent) + box.height / 2;
  const x2 = x(d);
  const y2 = y(d) + box.height / 2;
  const bend = (x1 + x2) / 2;
  const path = `M${x1} ${y1}C${bend} ${y1} ${bend} ${y2} ${x2} ${y2}`;
  const carried = d.of.reduce((sum, i) => sum + (tree[i]?.amps ?? 0), 0);
  if (f.live !== 'live' || f.open || carried < 0.0005) {
    return <path d={path} className="band dead" />;
  }
  const may = f.carries ? band(f.carries) : 0;
  const over = !!f.carries && f.band > f.carries;
  const does = band(carried);
  return (
    <g>
      {may > 0 && (
        <>
          <path d={path} className="band edge" strokeWidth={may + 2} />
          <path d={path} className="band page" strokeWidth={may} />
        </>
      )}
      <path d={path} className={`band ink${over ? ' over' : ''}`} strokeWidth={does} />
      {over && (
        <text x={x2 - 15} y={y2 - Math.max(does, may) / 2 - 3} className="bandtext">
          ▲<title>{`${f.thin} carries ${amps(f.band)} and may ${amps(f.carries ?? 0)}`}</title>
        </text>
      )}
    </g>
  );
}

interface BoxProps {
  d: Drawn;
  tree: Feeder[];
  on: boolean;
  onChoose: (key: string) => void;
  onOpen: (key: string, first: string) => void;
}

function Box({ d, tree, on, onChoose, onOpen }: BoxProps) {
  const all = d.of.map((i) => tree[i]).filter((f) => f !== undefined);
  const f = all[0];
  if (!f) {
    return null;
  }
  const sum = all.reduce((s, x) => s + x.amps, 0);
  const asleep = f.live !== 'live' || f.open;
  const many = all.length > 1;
  const name = many ? `${all.length} ${plural[f.kind]}` : f.name;
  const state = f.live !== 'live' ? liveWord[f.live] : f.open ? 'open' : '';
  const last = d.children.length === 0;
  const shown = f.kind === 'fuse' && !many ? `fuse ${name}` : name;
  return (
    <>
      <button
        id={`feeder ${d.key}`}
        className={`feeder ${f.kind}${asleep ? ' dead' : ''}${on ? ' on' : ''}${many ? ' many' : ''}`}
        style={{ left: x(d), top: y(d), width: box.width, height: box.height }}
        aria-pressed={on}
        aria-label={`${shown}${f.rating && !many ? ` ${f.rating} A` : ''}, ${kindWord[f.kind]}, ${state || `${amps(sum)}, ${f.volts.toFixed(1)} V`}`}
        title={many ? all.map((a) => a.name).join(', ') : f.name}
        onClick={() => onChoose(d.key)}
        onDoubleClick={() => many && onOpen(d.key, f.id)}
      >
        <span className="name">{shown}</span>{' '}
        {!!f.rating && !many && <span className="mono quiet"> {f.rating}</span>}
        {f.open && <OpenMark />}
      </button>
      <span
        className={`feederstate${asleep ? ' quiet' : ''}`}
        style={
          last ? { left: x(d) + box.width + 6, top: y(d) + 7 } : { left: x(d), top: y(d) + box.height - 1 }
        }
      >
        {last && (state || <span className="mono">{amps(sum)}</span>)}
      </span>
    </>
  );
}

/** A contact that stands open. */
const OpenMark = () => (
  <svg width="18" height="12" viewBox="0 0 18 12" aria-hidden="true" className="openmark">
    <path d="M1 9H5L13 2M13 9H17" />
  </svg>
);

const plural: Record<Thing, string> = {
  source: 'sources',
  fuse: 'fuses',
  switch: 'contacts',
  key: 'contacts of the key',
  relay: 'relays',
  output: 'outputs',
  unit: 'feeds of units',
  load: 'loads',
  lamp: 'lamps',
  wire: 'wires',
  cable: 'cables, straps',
  device: 'devices',
};
