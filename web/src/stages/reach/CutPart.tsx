import { Input, Select, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { fileAddress } from '../../api/hooks';
import { useAsked } from '../../frame/useAsked';
import { useRecords } from '../../outbox/useOutbox';
import { useLength } from '../../api/reach';
import type { CutLine, LengthRequest, ReachWire } from '../../api/types.gen';
import { VirtualRows } from '../../frame/VirtualRows';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';
import { useKey } from '../../keys/useKey';
import { LengthGlyph } from './LengthGlyph';
import { LineReasons } from './LineReasons';
import type { PartProps } from './part';
import { chance, endName, mm, verdictWord } from './words';

const order: CutLine['verdict'][] = [
  'no way',
  'no place',
  'measure',
  'replace',
  'extend',
  'new',
  'trim',
  'reaches',
  'no end',
];

/** The cut list: a wire a row, what it needs, what it has, and what is done about it. */
export function CutPart({ job, view, onError }: PartProps) {
  const [address, setAddress] = useSearchParams();
  const [find, setFind] = useState('');
  const finder = useRef<InputRef>(null);
  const field = useRef<HTMLDivElement>(null);
  const length = useLength(job);
  const put = useRecords<Omit<LengthRequest, 'id' | 'seen'>>(
    view.revision,
    (measured, seen) => length.mutateAsync({ ...seen, ...measured }),
    onError,
  );
  const only = address.get('only') ?? 'open';
  const wanted = find.trim().toLowerCase();
  const all = view.lines.flatMap((line, i) => {
    const wire = view.wires[i];
    return wire ? [{ line, wire }] : [];
  });
  const rows = all
    .filter(
      ({ line, wire }) =>
        (only === 'all' ||
          (only === 'open'
            ? line.verdict !== 'reaches' && line.verdict !== 'no end' && line.verdict !== 'trim'
            : line.verdict === only)) &&
        (wanted === '' ||
          `${line.wire} ${wire.function ?? ''} ${colourName(wire.colour)} ${endName(wire, 0)} ${endName(wire, 1)}`
            .toLowerCase()
            .includes(wanted)),
    )
    .sort(
      (a, b) =>
        order.indexOf(a.line.verdict) - order.indexOf(b.line.verdict) || (b.line.by ?? 0) - (a.line.by ?? 0),
    );
  const chosen = address.get('wire');
  useAsked(
    'wire',
    chosen,
    all.some((r) => r.line.wire === chosen),
  );
  const index = rows.findIndex((r) => r.line.wire === chosen);
  const kept = index < 0 && wanted === '' ? all.find((r) => r.line.wire === chosen) : undefined; // decided, and off the list: still looked at
  const at = index >= 0 || kept ? index : 0;
  const last = useRef(0);
  const row = rows[at] ?? kept;
  const go = (to: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, to))];
    if (next) {
      last.current = rows.indexOf(next);
      setAddress({ part: 'cuts', only, wire: next.line.wire }, { replace: true });
    }
  };
  useKey('down', () => go(at < 0 ? last.current : at + 1)); // what was decided is gone: the next one has its place
  useKey('up', () => go((at < 0 ? last.current : at) - 1));
  useKey('/', () => finder.current?.focus());
  useKey('m', () => field.current?.querySelector('input')?.focus());
  const measured = (wire: string, change: { had?: number; need?: number }) => {
    const was = view.measured.find((m) => m.wire === wire);
    const shown = { wire, had: was?.had ?? 0, need: was?.need ?? 0, spread: was?.spread ?? 0 };
    put(wire, shown, (doc) => ({ ...doc, ...change }));
  };
  const counts = new Map<string, number>();
  for (const { line } of all) {
    counts.set(line.verdict, (counts.get(line.verdict) ?? 0) + 1);
  }
  const open =
    all.length - (counts.get('reaches') ?? 0) - (counts.get('no end') ?? 0) - (counts.get('trim') ?? 0);
  return (
    <div className="reachgrid">
      <section className="reachmain">
        <div className="bar reachbar">
          <Select
            size="small"
            style={{ width: 190 }}
            aria-label="which wires"
            value={only}
            options={[
              { value: 'open', label: `to be done (${open})` },
              { value: 'all', label: `all (${all.length})` },
              ...order
                .filter((v) => counts.has(v))
                .map((v) => ({ value: v, label: `${verdictWord[v]} (${counts.get(v) ?? 0})` })),
            ]}
            onChange={(v: string) => setAddress({ part: 'cuts', only: v })}
          />
          <Input
            ref={finder}
            size="small"
            style={{ width: 200 }}
            aria-label="find a wire"
            placeholder="find: wire, colour, function"
            value={find}
            onChange={(e) => setFind(e.target.value)}
            onPressEnter={(e) => e.currentTarget.blur()}
          />
          <span className="grow" />
          <a href={fileAddress(job, 'reach/cuts.csv')} download>
            Cut list as CSV
          </a>
        </div>
        <VirtualRows
          rows={rows}
          keyOf={(r) => r.line.wire}
          estimate={34}
          label="cut list"
          className="cutrows"
          at={at}
          testID="cuts"
          head={
            <div className="cutrow headrow" role="row">
              {['wire', 'what for', 'from', 'to', 'needs', 'has', 'becomes', 'risk'].map((h) => (
                <span key={h} role="columnheader">
                  {h}
                </span>
              ))}
            </div>
          }
          draw={(r, i) => <Row {...r} on={i === at} onGo={() => go(i)} number={i + 2} />}
        />
      </section>
      <aside tabIndex={0} className="reachwhy" aria-label="why, and what was decided" ref={field}>
        {row ? (
          <LineReasons
            key={row.line.wire}
            job={job}
            view={view}
            line={row.line}
            wire={row.wire}
            onError={onError}
            onMeasured={(c) => measured(row.line.wire, c)}
          />
        ) : (
          <p className="quiet">No wire is like that. All others reach.</p>
        )}
      </aside>
    </div>
  );
}

function Row({
  line: l,
  wire: w,
  on,
  onGo,
  number,
}: {
  line: CutLine;
  wire: ReachWire;
  on: boolean;
  onGo: () => void;
  number: number;
}) {
  return (
    <div
      className={`cutrow${on ? ' selected' : ''}`}
      role="row"
      aria-rowindex={number}
      aria-selected={on}
      onClick={onGo}
    >
      <span role="gridcell" className="bar" style={{ gap: 6, flexWrap: 'nowrap' }}>
        <WireSwatch colour={w.colour} bare="right" />
        <span className="mono">{l.wire}</span>
      </span>
      <span role="gridcell" className="fn">
        {w.function}
      </span>
      <span role="gridcell" className="mono">
        {endName(w, 0)}
      </span>
      <span role="gridcell" className="mono">
        {endName(w, 1)}
      </span>
      <span role="gridcell" className="mono right">
        {mm(l.need)}
        {l.waits && <span title={`waits for: ${l.waits.join(', ')}`}> ~</span>}
      </span>
      <span role="gridcell" className="mono right">
        {l.had ? mm(l.had) : l.verdict === 'new' ? '' : '?'}
      </span>
      <span role="gridcell" className="bar" style={{ gap: 6, flexWrap: 'nowrap' }}>
        <LengthGlyph verdict={l.verdict} />
        <span>
          {verdictWord[l.verdict]} {l.by ? <strong className="mono">{mm(l.by)}</strong> : ''}
          {l.stale && <span className="quiet"> for another place</span>}
        </span>
      </span>
      <span role="gridcell" className="mono right">
        {l.verdict === 'reaches' || l.verdict === 'trim' ? chance(l.short) : ''}
      </span>
    </div>
  );
}
