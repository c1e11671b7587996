import './block.css';
import { Button, Dropdown } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { explain } from '../../api/client';
import { lidFile, useBlock, useCircuit, useProposeBlock } from '../../api/feed';
import type { Block, Circuit, FeedView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { useDocument } from '../../outbox/useOutbox';
import { useKey } from '../../keys/useKey';
import { bandsOf, circuitsAt, keyOf, nextRelay, nextSlot, type Chosen } from './block';
import { refName } from '../../harness/cavity';
import { BlockDrawing } from './BlockDrawing';
import { BlockSide } from './BlockSide';
import { amps } from '../../work/amps';
import { WaysPart } from './WaysPart';

interface Props {
  job: string;
  view: FeedView;
}

/** How the job is fed: a fuse block of its own, the vehicle's fuses, or both, circuit by circuit. */
export function BlockPart({ job, view }: Props) {
  const [comparing, compare] = useState(false);
  if (comparing) {
    return <WaysPart job={job} view={view} onBack={() => compare(false)} />;
  }
  return view.block ? (
    <Design job={job} view={view} block={view.block} onCompare={() => compare(true)} />
  ) : (
    <Start job={job} view={view} onCompare={() => compare(true)} />
  );
}

/** Both schools of a block of one's own, and what feeds each circuit as it stands. */
function Start({ job, view, onCompare }: Props & { onCompare: () => void }) {
  const propose = useProposeBlock(job);
  const go = (one: boolean) =>
    propose.mutate({ seen: view.revision, one }, { onError: (e) => notice.warning(explain(e)) });
  return (
    <div className="feedscroll">
      <p>
        This job is fed by the vehicle’s own fuses. A block of its own takes battery, ignition and ground from
        the vehicle and no more; each circuit can stay where it is or be put onto it.
      </p>
      <div className="bar">
        <Button type="primary" disabled={view.circuits.length === 0} onClick={() => go(false)}>
          A block of its own, split as the trade does
        </Button>
        <Button disabled={view.circuits.length === 0} onClick={() => go(true)}>
          One fuse for the engine
        </Button>
        {view.ways.length > 0 && <Button onClick={onCompare}>Compare {view.ways.length + 1} ways</Button>}
      </div>
      <h2>What wants a feed</h2>
      <table className="table" aria-label="circuits">
        <thead>
          <tr>
            <th>cavity</th>
            <th>for</th>
            <th>is fed from</th>
            <th>takes</th>
          </tr>
        </thead>
        <tbody>
          {view.circuits.map((c) => (
            <tr key={`${c.side} ${refName(c.at)}`}>
              <td className="mono">{refName(c.at)}</td>
              <td>{c.text}</td>
              <td className="mono">{c.from ?? 'nothing yet'}</td>
              <td className="mono">{c.amps ? amps(c.amps) : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {view.circuits.length === 0 && (
        <p className="quiet">
          No row of the tables wants a battery or an ignition feed. Match says which do.
        </p>
      )}
    </div>
  );
}

function Design({ job, view, block, onCompare }: Props & { block: Block; onCompare: () => void }) {
  const put = useBlock(job);
  const lead = useCircuit(job);
  const bands = bandsOf(view, block);
  const [chosen, choose] = useState(() => (bands[0]?.[1] ? keyOf(bands[0][1]) : ''));
  const [moving, move] = useState<Circuit | undefined>();
  const box = useRef<HTMLDivElement>(null);
  const onError = (e: unknown) => notice.warning(explain(e));
  const all = bands.flat();
  const sel = all.find((c) => keyOf(c) === chosen) ?? all[0];
  const change = useDocument(
    'block',
    view.revision,
    block,
    (next, seen) => put.mutateAsync({ ...seen, block: next }),
    onError,
  );

  const putDown = (cavity: string) => {
    if (moving && cavity) {
      lead.mutate(
        { seen: view.revision, side: moving.side, at: moving.at, from: { connector: block.id, cavity } },
        { onError },
      );
      move(undefined);
    }
  };
  const step = (dx: number, dy: number) => {
    const row = bands.findIndex((b) => b.some((c) => sel && keyOf(c) === keyOf(sel)));
    const at = bands[row]?.findIndex((c) => sel && keyOf(c) === keyOf(sel)) ?? 0;
    const band = bands[Math.max(0, Math.min(bands.length - 1, row + dy))] ?? [];
    const next = band[Math.max(0, Math.min(band.length - 1, dy === 0 ? at + dx : at))];
    if (next) {
      choose(keyOf(next));
    }
  };
  useKey('left', () => step(-1, 0));
  useKey('right', () => step(1, 0));
  useKey('up', () => step(0, -1));
  useKey('down', () => step(0, 1));
  useKey('m', () => {
    const here = sel ? holds(view, sel) : [];
    const again = here.findIndex((c) => moving && refName(c.at) === refName(moving.at));
    move(here[again + 1]);
  });
  useKey('escape', () => move(undefined), { enabled: !!moving });
  useKey('enter', () => sel && putDown(cavityOf(sel)), { enabled: !!moving });
  useEffect(() => {
    box.current?.querySelector('.on')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [chosen]);

  const addSlot = (group: string) =>
    change((b) => ({ ...b, slots: [...b.slots, { name: nextSlot(b), group }] }));
  const addGroup = () =>
    change((b) => {
      let n = b.groups.length + 1;
      while (b.groups.some((g) => g.name === `group ${n}`)) {
        n++;
      }
      choose(`group group ${n}`);
      return { ...b, groups: [...b.groups, { name: `group ${n}`, from: 'battery +', fused: true }] };
    });
  const addRelay = (group: string) =>
    change((b) => ({
      ...b,
      relays: [
        ...b.relays,
        { name: nextRelay(b), from: group, plus: group, minus: 'battery −', suppressed: 'resistor' },
      ],
    }));
  return (
    <div className="feedgrid">
      <div className="feedmain">
        <div className="bar feedkeys">
          <strong>
            fuse block <span className="mono">{block.id}</span>
          </strong>
          {view.station ? (
            <span className="quiet">at {view.station}</span>
          ) : (
            <Link to="../reach?part=places">say in Reach where it lives</Link>
          )}
          <span className="grow" />
          <Dropdown
            menu={{
              items: [
                { key: 'group', label: 'a group with a feed of its own', onClick: addGroup },
                ...block.groups.flatMap((g) => [
                  { key: `s${g.name}`, label: `a slot on “${g.name}”`, onClick: () => addSlot(g.name) },
                  { key: `r${g.name}`, label: `a relay on “${g.name}”`, onClick: () => addRelay(g.name) },
                ]),
              ],
            }}
            trigger={['click']}
          >
            <Button size="small">Add…</Button>
          </Dropdown>
          <Button size="small" href={lidFile(job)} target="_blank">
            Lid label
          </Button>
          <Button size="small" onClick={onCompare}>
            {view.ways.length > 0 ? `Compare ${view.ways.length + 1} ways` : 'Other ways'}
          </Button>
          <Button size="small" onClick={() => put.mutate({ seen: view.revision }, { onError })}>
            Take the block away
          </Button>
        </div>
        <div className="blockscroll" ref={box} tabIndex={0} role="region" aria-label="the fuse block">
          <BlockDrawing
            view={view}
            block={block}
            chosen={sel ? keyOf(sel) : ''}
            moving={moving}
            onChoose={(c) => (moving ? putDown(cavityOf(c)) : choose(keyOf(c)))}
            onPick={move}
            onPut={putDown}
          />
          {moving && (
            <p className="movinghint" role="status">
              <span className="mono strong">{refName(moving.at)}</span> {moving.text}: arrows choose its new
              slot, <kbd>Enter</kbd> puts it there, <kbd>Esc</kbd> leaves it.
            </p>
          )}
          <p className="quiet feedlegend">
            <kbd>M</kbd> moves a circuit to another slot, or drag it. The bar is what the fuse has, the ink
            what the slot carries, the tick four fifths. ▲ something in it is not right.
          </p>
        </div>
      </div>
      <aside className="side" tabIndex={0} aria-label="what is chosen in the block">
        {sel && (
          <BlockSide
            job={job}
            view={view}
            block={block}
            sel={sel}
            onChange={change}
            onMove={move}
            onError={onError}
          />
        )}
      </aside>
    </div>
  );
}

const cavityOf = (c: Chosen) => (c.kind === 'relay' ? `${c.name}.87` : c.kind === 'slot' ? c.name : '');

const holds = (view: FeedView, c: Chosen): Circuit[] =>
  c.kind === 'circuit' ? [c.circuit] : circuitsAt(view, cavityOf(c));
