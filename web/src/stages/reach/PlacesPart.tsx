import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { explain, newChangeID } from '../../api/client';
import { useChoose, useCompare, useOption, usePlace } from '../../api/reach';
import type { Compared, Figures, PlacedThing, PlaceOption } from '../../api/types.gen';
import { ReasonDialog } from '../../work/ReasonDialog';
import type { PartProps } from './part';
import { across, metres, thingKey, thingName } from './words';

/** Ways to place things side by side, what each would move, and where everything is now. */
export function PlacesPart({ job, view, onError }: PartProps) {
  const compare = useCompare(job);
  const [shown, show] = useState<string | undefined>();
  const option = compare.data?.options.find((o) => o.option.id === shown) ?? compare.data?.options[0];
  return (
    <div className="reachgrid wide">
      <section
        className="reachmain reachscroll"
        aria-busy={!compare.data && !compare.isError}
        tabIndex={0}
        role="region"
        aria-label="placements compared"
      >
        {compare.isError && <div className="problem">{explain(compare.error)}</div>}
        <Comparison
          job={job}
          view={view}
          now={view.figures}
          options={compare.data?.options ?? []}
          shown={option?.option.id}
          onShow={show}
          onError={onError}
        />
        {!compare.data && !compare.isError && (
          <p className="quiet">The other placements are being worked out…</p>
        )}
        {option && <Relocations of={option} />}
        <NewOption job={job} view={view} onError={onError} />
      </section>
      <Things job={job} view={view} onError={onError} />
    </div>
  );
}

type Row = [string, (f: Figures) => string];

const rows: Row[] = [
  ['wires through a wall', (f) => String(f.crossing)],
  ['to extend', (f) => String(f.extend)],
  ['to replace or cut new', (f) => String(f.replace + f.fresh)],
  ['new wire', (f) => metres(f.new)],
  ['of it from stock', (f) => metres(f.stock)],
  ['to buy, with margin', (f) => metres(f.buy)],
  ['joints', (f) => `${f.joints}${f.troubled ? `, ${f.troubled} crowded` : ''}`],
  ['heaviest bundle', (f) => (f.thick ? across(f.thick) : '')],
  ['where', (f) => f.heaviest ?? ''],
  ['largest hole', (f) => (f.hole ? `${f.hole} mm` : '')],
  [
    'feeds that lose most',
    (f) =>
      f.worst
        .slice(0, 2)
        .map((w) => `${w.wire} ${(100 * w.part).toFixed(1)} %`)
        .join(', '),
  ],
  ['provisional', (f) => String(f.provisional)],
  ['may fall short', (f) => (f.short ? f.short.toFixed(1) : '')],
  ['work', (f) => `${f.hours} h`],
];

interface ComparisonProps extends PartProps {
  now: Figures;
  options: readonly Compared[];
  shown: string | undefined;
  onShow: (id: string) => void;
}

function Comparison({ job, view, now, options, shown, onShow, onError }: ComparisonProps) {
  const choose = useChoose(job);
  const option = useOption(job);
  const [asked, ask] = useState<PlaceOption | undefined>();
  return (
    <>
      <table className="table compare" data-testid="compare">
        <thead>
          <tr>
            <td />
            <th scope="col">as it is now</th>
            {options.map((o) => (
              <th key={o.option.id} scope="col" className={o.option.id === shown ? 'selected' : ''}>
                <button className="plain" onClick={() => onShow(o.option.id)}>
                  {o.option.name}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(now.guessed ?? 0) > 0 && (
            <tr>
              <th scope="row">as it was guessed</th>
              <td className="mono">{metres(now.guessed ?? 0)}</td>
              {options.map((o) => (
                <td key={o.option.id} className="mono"></td>
              ))}
            </tr>
          )}
          {rows.map(([word, of]) => (
            <tr key={word}>
              <th scope="row">{word}</th>
              <td className="mono">{of(now)}</td>
              {options.map((o) => (
                <td
                  key={o.option.id}
                  className={`mono${o.option.id === shown ? ' selected' : ''}${of(o.figures) === of(now) ? ' quiet' : ''}`}
                >
                  {of(o.figures)}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <td />
            <td />
            {options.map((o) => (
              <td key={o.option.id}>
                <div className="bar" style={{ gap: 6 }}>
                  <Button
                    size="small"
                    type="primary"
                    disabled={(o.dangling ?? []).length > 0}
                    onClick={() => ask(o.option)}
                  >
                    Choose
                  </Button>
                  <Button
                    size="small"
                    onClick={() =>
                      option.mutate({ seen: view.revision, option: { ...o.option, moves: [] } }, { onError })
                    }
                  >
                    Drop
                  </Button>
                </div>
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      {options.length === 0 && (
        <p className="quiet">
          Nothing to compare yet. Make a placement below: say what would live elsewhere, and every figure
          stands beside what is now.
        </p>
      )}
      {asked && (
        <ReasonDialog
          title={`${asked.name}: why?`}
          why="Every length follows from it. Where things were is kept as another placement to compare with."
          onClose={() => ask(undefined)}
          onReason={(reason) => {
            ask(undefined);
            choose.mutate({ seen: view.revision, option: asked.id, reason }, { onError });
          }}
        />
      )}
    </>
  );
}

const signed = (x: number) => `${x > 0 ? '+' : x < 0 ? '−' : ''}${Math.abs(Math.round(x))}`;

/** What would live elsewhere, with what its wires need more than they have. */
function Relocations({ of }: { of: Compared }) {
  return (
    <section className="stack tight">
      <h2>{of.option.name}: what moves</h2>
      {(of.dangling ?? []).length > 0 && (
        <div className="problem">There is no station {of.dangling?.join(', ')} any more.</div>
      )}
      {of.relocations.map((r) => (
        <div key={thingKey(r.thing)}>
          <p>
            <strong>{thingName(r.thing)}</strong> from {r.old || 'nowhere'} to {r.new || 'nowhere'}.{' '}
            {r.worst > 0 ? (
              <>
                The worst of its wires is short by <strong className="mono">{Math.round(r.worst)} mm</strong>.
              </>
            ) : (
              'All of its wires reach, as far as their lengths are known.'
            )}
          </p>
          <table className="table">
            <thead>
              <tr>
                <th scope="col">wire</th>
                <th scope="col">needs now</th>
                <th scope="col">would need</th>
                <th scope="col">has</th>
                <th scope="col">need minus had</th>
              </tr>
            </thead>
            <tbody>
              {[...r.wires]
                .sort((a, b) => (b.over ?? -Infinity) - (a.over ?? -Infinity))
                .slice(0, 8)
                .map((w) => (
                  <tr key={w.wire}>
                    <td className="mono">{w.wire}</td>
                    <td className="mono">{Math.round(w.old)}</td>
                    <td className="mono">{Math.round(w.new)}</td>
                    <td className="mono">{w.had ? Math.round(w.had) : 'measure'}</td>
                    <td className="mono">{w.over === undefined ? '' : signed(w.over)}</td>
                  </tr>
                ))}
            </tbody>
          </table>
          {r.wires.length > 8 && <p className="quiet">and {r.wires.length - 8} more</p>}
        </div>
      ))}
      {of.breaks.map((b) => (
        <p key={b.branch}>
          Branch <strong>{b.branch}</strong> would break out at {b.new || 'nowhere'} instead of{' '}
          {b.old || 'nowhere'}.
        </p>
      ))}
      {of.relocations.length + of.breaks.length === 0 && <p className="quiet">Nothing is elsewhere.</p>}
    </section>
  );
}

function NewOption({ job, view, onError }: PartProps) {
  const option = useOption(job);
  const [name, setName] = useState('');
  const [thing, setThing] = useState<string | undefined>();
  const [station, setStation] = useState<string | undefined>();
  const moved = view.things.find((t) => thingKey(t.thing) === thing);
  const add = () => {
    if (moved && station) {
      option.mutate(
        {
          seen: view.revision,
          option: {
            id: newChangeID().slice(0, 40),
            name: name.trim() || `${thingName(moved.thing)} at ${station}`,
            moves: [{ thing: moved.thing, station }],
          },
        },
        {
          onError,
          onSuccess: () => {
            setName('');
            setThing(undefined);
            setStation(undefined);
          },
        },
      );
    }
  };
  return (
    <section className="stack tight">
      <h2>Another placement</h2>
      <div className="bar">
        <Select
          size="small"
          style={{ width: 230 }}
          aria-label="what would live elsewhere"
          placeholder="what would live elsewhere"
          showSearch
          value={thing ?? null}
          options={view.things
            .filter((t) => t.station)
            .map((t) => ({ value: thingKey(t.thing), label: thingName(t.thing) }))}
          onChange={(v: string | null) => setThing(v ?? undefined)}
        />
        <Select
          size="small"
          style={{ width: 200 }}
          aria-label="at which station"
          placeholder="at which station"
          showSearch
          value={station ?? null}
          options={view.map.stations.map((s) => ({ value: s.id, label: s.id }))}
          onChange={(v: string | null) => setStation(v ?? undefined)}
        />
        <Input
          size="small"
          style={{ width: 200 }}
          aria-label="name of the placement"
          placeholder="a name for it"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          onPressEnter={add}
        />
        <Button size="small" disabled={!moved || !station} onClick={add}>
          Compare
        </Button>
      </div>
    </section>
  );
}

const kindOrder: Record<PlacedThing['thing']['kind'], number> = {
  device: 0,
  connector: 1,
  splice: 2,
  branch: 3,
};

function Things({ job, view, onError }: PartProps) {
  const place = usePlace(job);
  const [find, setFind] = useState('');
  const wanted = find.trim().toLowerCase();
  const listed = view.things
    .filter(
      (t) =>
        (t.thing.kind === 'device'
          ? t.wires > 0
          : t.own || (!t.with && t.wires > 0) || (t.thing.kind === 'splice' && t.wires > 0)) &&
        (wanted === '' ||
          thingName(t.thing).toLowerCase().includes(wanted) ||
          (t.station ?? '').toLowerCase().includes(wanted)),
    )
    .sort(
      (a, b) =>
        Number(!!a.station) - Number(!!b.station) || kindOrder[a.thing.kind] - kindOrder[b.thing.kind],
    );
  const open = view.things.filter((x) => !x.station && x.wires > 0);
  const proposed = view.proposed.filter((p) =>
    open.some(
      (x) => thingKey(x.thing) === thingKey(p.thing) || (p.thing.kind === 'branch' && x.with === p.thing.id),
    ),
  );
  return (
    <aside tabIndex={0} className="reachwhy" aria-label="where everything is">
      <h2>Where everything is</h2>
      {proposed.length > 0 && (
        <div className="stack tight">
          <p>{proposed.length} things have no station, and usually are where the map has a place for them.</p>
          <div>
            <Button
              size="small"
              data-testid="place-proposed"
              onClick={() =>
                place.mutate(
                  { seen: view.revision, places: proposed, reason: 'where it usually is' },
                  { onError },
                )
              }
            >
              Put {proposed.length} where they usually are
            </Button>
          </div>
        </div>
      )}
      <Input
        size="small"
        aria-label="find a thing or a station"
        placeholder="find"
        value={find}
        onChange={(e) => setFind(e.target.value)}
        style={{ margin: '8px 0' }}
      />
      <table className="table" data-testid="things">
        <tbody>
          {listed.map((t) => (
            <tr key={thingKey(t.thing)}>
              <td>
                {thingName(t.thing)}
                {t.reason && <div className="quiet">{t.reason}</div>}
              </td>
              <td>
                <select
                  className="plainselect"
                  aria-label={`station of ${thingName(t.thing)}`}
                  value={t.station ?? ''}
                  onChange={(e) =>
                    place.mutate(
                      { seen: view.revision, places: [{ thing: t.thing, station: e.target.value }] },
                      { onError },
                    )
                  }
                >
                  <option value="">{t.station && !t.own ? '' : 'nowhere'}</option>
                  {view.map.stations.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.id}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </aside>
  );
}
