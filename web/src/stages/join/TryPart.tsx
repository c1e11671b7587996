import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { explain } from '../../api/client';
import { useSetRule, useTrial, type Tried } from '../../api/join';
import type { JoinView, RuledOutput, TriedRow } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { useKey } from '../../keys/useKey';
import { KeyTabs, SwitchTabs } from '../../work/KeyTabs';

/** A condition by hand: the key, switches, outputs of the unit; and what works in it, which relay pulls. */
export function TryPart({ job, view }: { job: string; view: JoinView }) {
  const [t, set] = useState<Tried>({ position: 'run', sw: view.closed, on: [], off: [], is: {}, flags: [] });
  const step = (by: number) =>
    set((was) => {
      const at = view.positions.findIndex((p) => p.name === was.position) + by;
      return { ...was, position: view.positions[at]?.name ?? was.position };
    });
  useKey('left', () => step(-1));
  useKey('right', () => step(1));
  const trial = useTrial(job, view.revision, t, view.said);
  if (!view.said) {
    return (
      <p className="pathempty">
        Nothing is said yet of what stands in the vehicle.{' '}
        <Link to="../feed?part=sources">Say it in Feed</Link>, and every condition can be tried here.
      </p>
    );
  }
  const flip = (list: string[], x: string) => (list.includes(x) ? list.filter((y) => y !== x) : [...list, x]);
  /** Usual, held on, held off, and round again. */
  const turn = (x: string) =>
    set(
      t.on.includes(x)
        ? { ...t, on: t.on.filter((y) => y !== x), off: [...t.off, x] }
        : t.off.includes(x)
          ? { ...t, off: t.off.filter((y) => y !== x) }
          : { ...t, on: [...t.on, x] },
    );
  return (
    <div className="try" data-testid="try">
      <KeyTabs positions={view.positions} at={t.position} onTurn={(position) => set({ ...t, position })} />
      <SwitchTabs label="switches" switches={view.switches} on={t.sw} onFlip={(sw) => set({ ...t, sw })} />
      {view.numbers.length + view.flags.length > 0 && (
        <div className="bar feedkeys" role="group" aria-label="what the rules ask for">
          {view.numbers.map((n) => (
            <Input
              key={n}
              size="small"
              style={{ width: 150 }}
              prefix={<span className="quiet">{n}</span>}
              aria-label={n}
              value={t.is[n] ?? ''}
              onChange={(e) => set({ ...t, is: { ...t.is, [n]: e.target.value } })}
            />
          ))}
          {view.flags
            .filter(
              (x) => !view.switches.includes(x) && !view.rules.some((r) => r.output.toLowerCase() === x),
            )
            .map((x) => (
              <button
                key={x}
                className={`plain keytab${t.flags.includes(x) ? ' on' : ''}`}
                aria-pressed={t.flags.includes(x)}
                onClick={() => set({ ...t, flags: flip(t.flags, x) })}
              >
                {x}
              </button>
            ))}
        </div>
      )}
      <div className="trygrid">
        <div className="outputs" role="group" aria-label="outputs of the unit">
          <h2>Outputs, held against what is usual</h2>
          {view.outputs.map((o) => (
            <button key={o.at} className="plain output" onClick={() => turn(o.at)}>
              <span className="mono">{o.at}</span> {o.drives}
              <strong>{t.on.includes(o.at) ? ' held on' : t.off.includes(o.at) ? ' held off' : ''}</strong>
            </button>
          ))}
        </div>
        <div aria-live="polite">
          {trial.isError && <div className="problem">{explain(trial.error)}</div>}
          {trial.data && (
            <>
              <Rules job={job} view={view} ruled={trial.data.ruled} />
              <h2>Otherwise than usual</h2>
              {trial.data.starts.length + trial.data.stops.length === 0 && <p className="quiet">Nothing.</p>}
              {trial.data.starts.length > 0 && <p>Works now: {trial.data.starts.join(', ')}.</p>}
              {trial.data.stops.length > 0 && <p>Stops: {trial.data.stops.join(', ')}.</p>}
              {trial.data.buzzes.length > 0 && <p>▲ Buzzes: {trial.data.buzzes.join(', ')}.</p>}
              <h2>Relays</h2>
              <p>
                {trial.data.pulled.length > 0
                  ? `Pulled: ${trial.data.pulled.join(', ')}.`
                  : 'None has pulled.'}{' '}
                <span className="quiet">
                  {trial.data.rest.length > 0 && `At rest: ${trial.data.rest.join(', ')}.`}
                </span>
              </p>
            </>
          )}
        </div>
      </div>
      {trial.data && <Conditions view={view} rows={trial.data.table} at={t.position} />}
    </div>
  );
}

const kindOf: Partial<Record<TriedRow['kind'], string>> = { relay: 'relay', output: 'output' };

/** The same condition in every position of the key: what has pulled, what is on, what works. */
function Conditions({ view, rows, at }: { view: JoinView; rows: TriedRow[]; at: string }) {
  const drives = Object.fromEntries(view.outputs.map((o) => [o.at, o.drives]));
  const some = rows.filter((r) => r.in.includes(true));
  const none = rows.filter((r) => r.kind === 'device' && !r.in.includes(true));
  return (
    <section className="alltried">
      <h2>In every position of the key</h2>
      <table className="table conditions" aria-label="in every position of the key" data-testid="conditions">
        <thead>
          <tr>
            <th>what</th>
            {view.positions.map((p) => (
              <th key={p.name} className={p.name === at ? 'here' : ''}>
                {p.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {some.map((r) => (
            <tr key={`${r.kind} ${r.name}`}>
              <td>
                <span className="quiet">{kindOf[r.kind]}</span> {r.name}{' '}
                <span className="quiet">{r.kind === 'output' ? drives[r.name] : ''}</span>
              </td>
              {r.in.map((is, i) => (
                <td
                  key={view.positions[i]?.name}
                  className={`condition${view.positions[i]?.name === at ? ' here' : ''}`}
                >
                  {is ? '● ' : ''}
                  <span className={is ? '' : 'quiet'}>{is ? said[r.kind] : '–'}</span>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {none.length > 0 && <p className="quiet">In no position: {none.map((r) => r.name).join(', ')}.</p>}
    </section>
  );
}

const said: Partial<Record<TriedRow['kind'], string>> = { relay: 'pulled', output: 'on', device: 'works' };

/** When the unit works its outputs, as a person states it, and what that says now. */
function Rules({ job, view, ruled }: { job: string; view: JoinView; ruled: RuledOutput[] }) {
  const set = useSetRule(job);
  const [output, choose] = useState<string | undefined>();
  const [when, write] = useState('');
  const send = (of: string, text: string) =>
    set.mutate(
      { seen: view.revision, subject: of, output: of, when: text },
      {
        onSuccess: () => write(''),
        onError: (e) => notice.warning(explain(e)),
      },
    );
  return (
    <section data-testid="rules">
      <h2>The unit’s own rules</h2>
      {ruled.map((r) => (
        <div key={r.output} className="rule">
          <span>
            <span className="mono">{r.output}</span> when {r.when}:{' '}
            <strong>{r.decides ? (r.on ? 'on' : 'off') : 'decides nothing'}</strong>
          </span>
          <Button size="small" onClick={() => send(r.output, '')}>
            Take away
          </Button>
        </div>
      ))}
      <form
        className="rule"
        onSubmit={(e) => {
          e.preventDefault();
          if (output) {
            send(output, when);
          }
        }}
      >
        <Select
          size="small"
          style={{ width: 170 }}
          aria-label="output of the rule"
          placeholder="output"
          showSearch
          virtual={false}
          value={output}
          onChange={choose}
          options={view.outputs.map((o) => ({ value: o.at, label: `${o.at} ${o.drives}` }))}
        />
        <Input
          size="small"
          aria-label="when it is on"
          placeholder="coolant above 95 or A/C request"
          value={when}
          onChange={(e) => write(e.target.value)}
        />
        <Button size="small" htmlType="submit" disabled={!output || !when.trim()}>
          State it
        </Button>
      </form>
    </section>
  );
}
