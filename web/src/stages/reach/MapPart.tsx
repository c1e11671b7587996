import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { ReachView, RouteMap, RoutePath } from '../../api/types.gen';
import { MapTable } from './MapTable';
import { Quantity } from './Quantity';
import { PathFields } from './PathFields';
import type { Changer, PartProps } from './part';
import { RouteDrawing, type Spot } from './RouteDrawing';
import { StationFields } from './StationFields';

/** The route map of this job: drawn, or as tables; what is selected is changed at the right. */
export function MapPart({
  job,
  view,
  onError,
  onMap,
  onRename,
}: PartProps & { onMap: Changer<RouteMap>; onRename: (from: string, to: string) => void }) {
  const [address, setAddress] = useSearchParams();
  const [spot, select] = useState<Spot | undefined>();
  const table = address.get('as') === 'table';
  const count = new Map<string, number>();
  for (const t of view.things) {
    if (t.station && (t.thing.kind === 'device' || (t.thing.kind === 'connector' && !t.with))) {
      count.set(t.station, (count.get(t.station) ?? 0) + 1);
    }
  }
  const lit = view.lines.find((l) => l.wire === address.get('wire'));
  const station = spot?.on === 'station' ? view.map.stations.find((s) => s.id === spot.id) : undefined;
  const path = spot?.on === 'path' ? view.map.paths.find((p) => p.id === spot.id) : undefined;
  const changePath = (id: string, change: Partial<RoutePath>) =>
    onMap((m) => ({ ...m, paths: m.paths.map((p) => (p.id === id ? { ...p, ...change } : p)) }));
  return (
    <div className="reachgrid">
      <section className="reachmain">
        <div className="bar reachbar">
          <span className="sides">
            <button className={`plain${table ? '' : ' on'}`} onClick={() => setAddress({ part: 'map' })}>
              Drawn
            </button>
            <button
              className={`plain${table ? ' on' : ''}`}
              onClick={() => setAddress({ part: 'map', as: 'table' })}
            >
              As tables
            </button>
          </span>
          <AddStation map={view.map} onMap={onMap} onMade={(id) => select({ on: 'station', id })} />
          <span className="grow" />
          {lit ? (
            <Link to={`?part=cuts&only=all&wire=${encodeURIComponent(lit.wire)}`}>the way of {lit.wire}</Link>
          ) : (
            <span className="quiet">lengths in mm; a circle counts what is there</span>
          )}
        </div>
        {table ? (
          <MapTable view={view} selected={spot} onSelect={select} onPath={changePath} />
        ) : (
          <RouteDrawing
            map={view.map}
            bundles={view.bundles}
            selected={spot}
            lit={new Set([...(lit?.paths ?? []), ...(lit?.paths ? (lit.stations ?? []) : [])])}
            things={count}
            onSelect={select}
            onMove={(id, x, y) =>
              onMap((m) => ({ ...m, stations: m.stations.map((s) => (s.id === id ? { ...s, x, y } : s)) }))
            }
          />
        )}
        <Findings view={view} />
      </section>
      <aside tabIndex={0} className="reachwhy" aria-label="what is selected">
        {station && (
          <StationFields
            key={station.id}
            job={job}
            view={view}
            station={station}
            onMap={onMap}
            onRename={onRename}
            onError={onError}
            onSelect={select}
          >
            <AddPath
              map={view.map}
              from={station.id}
              onMap={onMap}
              onMade={(id) => select({ on: 'path', id })}
            />
          </StationFields>
        )}
        {path && (
          <PathFields
            key={path.id}
            job={job}
            view={view}
            path={path}
            onChange={(c) => changePath(path.id, c)}
            onGone={() => {
              onMap((m) => ({ ...m, paths: m.paths.filter((p) => p.id !== path.id) }));
              select(undefined);
            }}
          />
        )}
        {!station && !path && <Nothing view={view} />}
      </aside>
    </div>
  );
}

/** What to do next, where nothing is selected. */
function Nothing({ view }: { view: ReachView }) {
  const open = view.things.filter((t) => t.wires > 0 && !t.station && t.thing.kind !== 'branch');
  const waits = view.map.paths.filter((p) => p.waits).length;
  return (
    <div className="stack">
      <h2>The map</h2>
      <p>
        Select a station or a path to change it; drag a station to where it is. Lengths are what somebody
        measured along the path, not what the drawing shows.
      </p>
      {open.length > 0 && (
        <p>
          <strong>{open.length}</strong> things that wires end at have no station: put them somewhere in
          Placements <kbd>2</kbd>.
        </p>
      )}
      {waits > 0 && (
        <p>
          <strong>{waits}</strong> of the lengths {waits === 1 ? 'is' : 'are'} provisional: measure, or fit
          the part that is waited for.
        </p>
      )}
      {view.tape.length > 0 && (
        <>
          <h3>Tape marks from {view.unit}</h3>
          <table className="table">
            <tbody>
              {view.tape.map((m) => (
                <tr key={m.station}>
                  <td>{m.station}</td>
                  <td className="mono right">{m.at} mm</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}

function Findings({ view }: { view: ReachView }) {
  const bad = view.findings.filter((f) =>
    ['bad-path', 'path-twice', 'station-twice', 'station-alone', 'place-gone'].includes(f.code),
  );
  return bad.map((f) => (
    <div key={f.text} className="problem">
      {f.text} <span className="quiet">{f.remedy}</span>
    </div>
  ));
}

interface AddProps {
  map: RouteMap;
  onMap: Changer<RouteMap>;
  onMade: (id: string) => void;
}

function AddStation({ map, onMap, onMade }: AddProps) {
  const [name, setName] = useState('');
  const id = name.trim();
  const free = id !== '' && !map.stations.some((s) => s.id === id);
  const add = () => {
    if (!free) {
      return;
    }
    const last = map.stations.at(-1);
    onMap((m) => ({
      ...m,
      stations: [
        ...m.stations,
        { id, x: (last?.x ?? 0) + 250, y: (last?.y ?? 0) + 200, group: last?.group ?? 'body' },
      ],
    }));
    setName('');
    onMade(id);
  };
  return (
    <span className="bar" style={{ gap: 6 }}>
      <Input
        size="small"
        aria-label="name of a new station"
        placeholder="a new station"
        style={{ width: 170 }}
        value={name}
        maxLength={80}
        onChange={(e) => setName(e.target.value)}
        onPressEnter={add}
      />
      <Button size="small" disabled={!free} onClick={add}>
        Add station
      </Button>
    </span>
  );
}

function AddPath({ map, from, onMap, onMade }: AddProps & { from: string }) {
  const [to, setTo] = useState<string | undefined>();
  const [length, setLength] = useState(0);
  const id = to ? `${from} – ${to}` : '';
  const taken = map.paths.some((p) => p.id === id || (p.from === to && p.to === from));
  const add = () => {
    if (to && length > 0 && !taken) {
      onMap((m) => ({ ...m, paths: [...m.paths, { id, from, to, length, cover: 'tape' }] }));
      setTo(undefined);
      setLength(0);
      onMade(id);
    }
  };
  return (
    <div className="stack tight">
      <h3>A path from here</h3>
      <Select
        size="small"
        aria-label="to which station"
        placeholder="to which station"
        value={to ?? null}
        showSearch
        options={map.stations.filter((s) => s.id !== from).map((s) => ({ value: s.id, label: s.id }))}
        onChange={(v: string | null) => setTo(v ?? undefined)}
      />
      <div className="bar">
        <Quantity label="length of the new path" value={length} empty="measured" onChange={setLength} />
        <Button size="small" disabled={!to || length <= 0 || taken} onClick={add}>
          Add path
        </Button>
      </div>
      {taken && <span className="quiet">There is one already.</span>}
    </div>
  );
}
