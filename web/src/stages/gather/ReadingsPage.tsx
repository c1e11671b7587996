import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { numberOf } from '../../frame/number';
import { explain } from '../../api/client';
import { useDrop, useReading, type NewFact } from '../../api/gather';
import type { GatherView, KeyLine, Measurement } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { When } from '../../frame/When';
import { refName } from '../../harness/cavity';
import { onEnter } from '../../keys/onEnter';

type What = 'volts' | 'ohms' | 'joined' | 'apart';
const keys = ['off', 'accessory', 'run', 'crank'] as const;

const number = (text: string) => numberOf(text) ?? NaN;

/** What a meter said, what that makes of each feed, and the wires that nobody can name. */
export function ReadingsPage({ job, view }: { job: string; view: GatherView }) {
  const drop = useDrop(job, 'readings');
  const dropTrace = useDrop(job, 'traces');
  return (
    <div className="factsbody twocolumns">
      <div className="stack">
        <h1>Readings</h1>
        <NewReading job={job} view={view} />
        {view.readings.length === 0 && (
          <p className="quiet">
            A reading outranks colour and table. A feed is proven with a load on it, in every position of the
            key.
          </p>
        )}
        <section>
          {[...view.readings].reverse().map((m) => (
            <div key={m.id} className="noted bar">
              <span className="grow">
                <strong className="mono">{refName(m.at)}</strong> {said(m)}{' '}
                <span className="quiet">
                  {m.who} {m.when ? <When ms={m.when} /> : ''}
                </span>
              </span>
              <button className="plain" onClick={() => drop.mutate({ seen: view.revision, fact: m.id })}>
                take back
              </button>
            </div>
          ))}
        </section>
        {view.traces.length > 0 && <h2>Traces</h2>}
        {view.traces.map((t) => (
          <div key={t.id} className="noted bar">
            <span className="grow">
              <strong className="mono">{t.wire ?? refName(t.at)}</strong> {sawText(t)}{' '}
              <span className="quiet">{t.who}</span>
            </span>
            <button className="plain" onClick={() => dropTrace.mutate({ seen: view.revision, fact: t.id })}>
              take back
            </button>
          </div>
        ))}
      </div>
      <div className="stack">
        {view.keyTable.length > 0 && <KeyTable lines={view.keyTable} />}
        {view.beliefs.length > 0 && (
          <section>
            <h2>Believed before</h2>
            {view.beliefs.map((b) => (
              <div key={b.wire + b.was + b.now} className="noted">
                <strong className="mono">{b.wire}</strong> {b.was} → {b.now}{' '}
                <span className="quiet">{b.by}</span>
              </div>
            ))}
          </section>
        )}
        <section>
          <h2>Wires that nobody can name</h2>
          {view.queue.length === 0 && <p className="quiet">Every wire has a name.</p>}
          {view.queue.map((u) => (
            <div key={u.wire} className="noted">
              <Link className="mono" to={`../thin?sel=${encodeURIComponent(`wire:${u.wire}`)}`}>
                {u.wire}
              </Link>{' '}
              {u.colour} {u.size} · {u.at.join(' – ')}
              {u.joins.length > 0 && <div className="quiet">joined to {u.joins.slice(0, 3).join(', ')}</div>}
              {u.neighbour.length > 0 && (
                <div className="quiet">beside {u.neighbour.slice(0, 3).join(', ')}</div>
              )}
              {u.alike.length > 0 && <div className="quiet">like {u.alike.slice(0, 3).join(', ')}</div>}
            </div>
          ))}
        </section>
      </div>
    </div>
  );
}

function said(m: Measurement): string {
  if (m.volts !== undefined) {
    return `${m.volts} V in ${m.key ?? '?'}${m.loaded ? ', loaded' : ', nothing on it'}`;
  }
  const to = m.to?.cavity ? refName(m.to) : 'ground';
  if (m.ohms !== undefined) {
    return `${m.ohms} Ω to ${to}`;
  }
  return `${m.joined ? 'continuity' : 'no continuity'} to ${to}`;
}

function sawText(t: GatherView['traces'][number]): string {
  switch (t.saw) {
    case 'goes':
      return `goes to ${t.to ? refName(t.to) : '?'}`;
    case 'joins':
    case 'added':
      return `joins ${t.with?.join(', ') || 'others'} at ${t.splice || 'a splice'}${t.by ? `, added by ${t.by}` : ''}`;
    case 'taped':
      return 'ends taped off';
    case 'stuck':
      return 'does not come out';
    default:
      return `${t.saw}: ${t.text ?? ''}`;
  }
}

function KeyTable({ lines }: { lines: KeyLine[] }) {
  return (
    <section>
      <h2>By the key</h2>
      <table className="table" data-testid="keytable">
        <thead>
          <tr>
            <th>cavity</th>
            {keys.map((k) => (
              <th key={k}>{k}</th>
            ))}
            <th>what it is</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={refName(l.at)}>
              <td className="mono">
                <strong>{refName(l.at)}</strong>
              </td>
              {keys.map((k) => (
                <td key={k} className="mono">
                  {l.volts[k] === undefined ? <span className="quiet">?</span> : l.volts[k]}
                  {l.loaded[k] && '*'}
                </td>
              ))}
              <td>
                {l.means}
                {!l.proven && <span className="quiet"> · not proven under load</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet">Volts; * with a load on it.</p>
    </section>
  );
}

function NewReading({ job, view }: { job: string; view: GatherView }) {
  const add = useReading(job);
  const [connector, setConnector] = useState('');
  const [cavity, setCavity] = useState('');
  const [what, setWhat] = useState<What>('volts');
  const [key, setKey] = useState<(typeof keys)[number]>('run');
  const [value, setValue] = useState('');
  const [load, setLoad] = useState(true);
  const [watts, setWatts] = useState('21');
  const [toConnector, setToConnector] = useState('');
  const [toCavity, setToCavity] = useState('');
  const keep = () => {
    const reading: NewFact<Measurement> = { at: { connector: connector.trim(), cavity: cavity.trim() } };
    if (what === 'volts') {
      Object.assign(reading, { volts: number(value), key, loaded: load });
      if (load && number(watts) > 0) {
        reading.watts = number(watts);
      }
    } else if (what === 'ohms') {
      reading.ohms = number(value);
    } else {
      reading.joined = what === 'joined';
    }
    if (what !== 'volts' && toConnector.trim()) {
      reading.to = { connector: toConnector.trim(), cavity: toCavity.trim() };
    }
    if ((what === 'volts' || what === 'ohms') && (value.trim() === '' || Number.isNaN(number(value)))) {
      notice.warning('Give the value as a number.');
      return;
    }
    add.mutate(
      { seen: view.revision, reading },
      { onSuccess: () => setValue(''), onError: (e) => notice.warning(explain(e)) },
    );
  };
  return (
    <div
      className="newreading"
      onKeyDown={(e) => e.key === 'Enter' && e.target instanceof HTMLInputElement && onEnter(keep)(e)}
    >
      <Input
        style={{ width: 76 }}
        placeholder="plug"
        aria-label="connector"
        value={connector}
        onChange={(e) => setConnector(e.target.value)}
      />
      <Input
        style={{ width: 58 }}
        placeholder="cavity"
        aria-label="cavity"
        value={cavity}
        onChange={(e) => setCavity(e.target.value)}
      />
      <Select<What>
        style={{ width: 112 }}
        aria-label="what was measured"
        value={what}
        onChange={setWhat}
        options={[
          { value: 'volts', label: 'volts' },
          { value: 'ohms', label: 'ohms' },
          { value: 'joined', label: 'continuity' },
          { value: 'apart', label: 'no continuity' },
        ]}
      />
      {what === 'volts' && (
        <>
          <Select
            style={{ width: 104 }}
            aria-label="position of the key"
            value={key}
            onChange={setKey}
            options={keys.map((k) => ({ value: k, label: k }))}
          />
          <Select<'loaded' | 'bare'>
            style={{ width: 116 }}
            aria-label="load"
            value={load ? 'loaded' : 'bare'}
            onChange={(v) => setLoad(v === 'loaded')}
            options={[
              { value: 'loaded', label: 'with a load' },
              { value: 'bare', label: 'nothing on it' },
            ]}
          />
          {load && (
            <Input
              style={{ width: 72 }}
              aria-label="watts of the load"
              suffix="W"
              value={watts}
              onChange={(e) => setWatts(e.target.value)}
            />
          )}
        </>
      )}
      {what !== 'volts' && (
        <>
          <Input
            style={{ width: 110 }}
            placeholder="to (ground)"
            aria-label="to connector"
            value={toConnector}
            onChange={(e) => setToConnector(e.target.value)}
          />
          <Input
            style={{ width: 58 }}
            placeholder="cavity"
            aria-label="to cavity"
            value={toCavity}
            onChange={(e) => setToCavity(e.target.value)}
          />
        </>
      )}
      {(what === 'volts' || what === 'ohms') && (
        <Input
          style={{ width: 66 }}
          suffix={what === 'volts' ? 'V' : 'Ω'}
          aria-label="value"
          value={value}
          onChange={(e) => setValue(e.target.value)}
        />
      )}
      <Button type="primary" loading={add.isPending} onClick={keep}>
        Note it
      </Button>
    </div>
  );
}
