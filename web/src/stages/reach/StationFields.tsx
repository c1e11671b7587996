import { Button, Input, Select } from 'antd';
import { useState, type ReactNode } from 'react';
import { usePlace } from '../../api/reach';
import type { ReachView, RouteMap, Station } from '../../api/types.gen';
import { Quantity } from './Quantity';
import type { Changer } from './part';
import type { Spot } from './RouteDrawing';
import { thingKey, thingName } from './words';

interface Props {
  job: string;
  view: ReachView;
  station: Station;
  onMap: Changer<RouteMap>;
  onRename: (from: string, to: string) => void;
  onError: (e: unknown) => void;
  onSelect: (s: Spot | undefined) => void;
  children: ReactNode;
}

const groups = ['engine', 'gearbox', 'driveline', 'body'];

/** A station: its name, what comes out of the vehicle with it, and what is there. */
export function StationFields({ job, view, station, onMap, onRename, onError, onSelect, children }: Props) {
  const [name, setName] = useState(station.id);
  const [thing, setThing] = useState<string | undefined>();
  const place = usePlace(job);
  const here = view.things.filter(
    (t) => t.station === station.id && (t.own || t.thing.kind === 'device') && (t.wires > 0 || t.own),
  );
  const elsewhere = view.things.filter(
    (t) => t.station !== station.id && (t.wires > 0 || t.thing.kind === 'branch'),
  );
  const change = (c: Partial<Station>) =>
    onMap((m) => ({ ...m, stations: m.stations.map((s) => (s.id === station.id ? { ...s, ...c } : s)) }));
  const rename = () => {
    const id = name.trim();
    if (id === '' || id === station.id || view.map.stations.some((s) => s.id === id)) {
      setName(station.id);
      return;
    }
    onRename(station.id, id);
    onSelect({ on: 'station', id });
  };
  const put = () => {
    const found = view.things.find((t) => thingKey(t.thing) === thing);
    if (found) {
      place.mutate(
        { seen: view.revision, places: [{ thing: found.thing, station: station.id }] },
        { onError, onSuccess: () => setThing(undefined) },
      );
    }
  };
  return (
    <div className="stack">
      <Input
        aria-label="name of the station"
        value={name}
        maxLength={80}
        onChange={(e) => setName(e.target.value)}
        onBlur={rename}
        onPressEnter={(e) => e.currentTarget.blur()}
      />
      <div className="fields">
        <span>comes out with</span>
        <Select
          size="small"
          aria-label="service group of the station"
          value={station.group ?? ''}
          options={groups.map((g) => ({ value: g, label: g }))}
          onChange={(group: string) => change({ group })}
        />
        <span>down to the plugs</span>
        <Quantity
          label="from the bundle down to the plugs"
          value={station.drop ?? 0}
          empty={String(view.rules.drop)}
          onChange={(drop) => change({ drop })}
        />
      </div>
      <div>
        <h3>What is here</h3>
        {here.length === 0 && <p className="quiet">Nothing yet.</p>}
        {here.map((t) => (
          <div key={thingKey(t.thing)}>
            {thingName(t.thing)} <span className="quiet mono">{t.wires} ends</span>
            {t.reason && <div className="quiet">{t.reason}</div>}
          </div>
        ))}
      </div>
      <div className="bar">
        <Select
          size="small"
          className="grow"
          aria-label="what to put here"
          placeholder="put something here"
          showSearch
          value={thing ?? null}
          options={elsewhere.map((t) => ({
            value: thingKey(t.thing),
            label: `${thingName(t.thing)}${t.station ? `, now at ${t.station}` : ''}`,
          }))}
          onChange={(v: string | null) => setThing(v ?? undefined)}
        />
        <Button size="small" disabled={!thing} onClick={put}>
          Put here
        </Button>
      </div>
      {children}
      <div>
        <Button
          size="small"
          disabled={here.length > 0}
          onClick={() => {
            onMap((m) => ({
              stations: m.stations.filter((s) => s.id !== station.id),
              paths: m.paths.filter((p) => p.from !== station.id && p.to !== station.id),
            }));
            onSelect(undefined);
          }}
        >
          Take this station away
        </Button>
      </div>
    </div>
  );
}
