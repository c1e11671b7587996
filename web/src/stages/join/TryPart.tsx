import { useState } from 'react';
import { Link } from 'react-router';
import { explain } from '../../api/client';
import { useTrial, type Tried } from '../../api/join';
import type { JoinView } from '../../api/types.gen';

/** A condition by hand: the key, switches, outputs of the unit; and what works in it, which relay pulls. */
export function TryPart({ job, view }: { job: string; view: JoinView }) {
  const [t, set] = useState<Tried>({ position: 'run', sw: view.closed, on: [], off: [] });
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
      <div className="bar feedkeys" role="group" aria-label="position of the key">
        {view.positions.map((p) => (
          <button
            key={p.name}
            className={`plain keytab${p.name === t.position ? ' on' : ''}`}
            aria-pressed={p.name === t.position}
            onClick={() => set({ ...t, position: p.name })}
          >
            {p.name}
          </button>
        ))}
      </div>
      <div className="bar feedkeys" role="group" aria-label="switches">
        <span className="quiet">on:</span>
        {view.switches.map((x) => (
          <button
            key={x}
            className={`plain keytab${t.sw.includes(x) ? ' on' : ''}`}
            aria-pressed={t.sw.includes(x)}
            onClick={() => set({ ...t, sw: flip(t.sw, x) })}
          >
            {x}
          </button>
        ))}
      </div>
      <div className="trygrid">
        <div className="outputs" role="group" aria-label="outputs of the unit">
          <h3>Outputs, held against what is usual</h3>
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
              <h3>Otherwise than usual</h3>
              {trial.data.starts.length + trial.data.stops.length === 0 && <p className="quiet">Nothing.</p>}
              {trial.data.starts.length > 0 && <p>Works now: {trial.data.starts.join(', ')}.</p>}
              {trial.data.stops.length > 0 && <p>Stops: {trial.data.stops.join(', ')}.</p>}
              {trial.data.buzzes.length > 0 && <p>▲ Buzzes: {trial.data.buzzes.join(', ')}.</p>}
              <h3>Relays</h3>
              <p>
                {trial.data.pulled.length > 0
                  ? `Pulled: ${trial.data.pulled.join(', ')}.`
                  : 'None has pulled.'}{' '}
                <span className="quiet">
                  {trial.data.rest.length > 0 && `At rest: ${trial.data.rest.join(', ')}.`}
                </span>
              </p>
              <h3>Works</h3>
              <p>{trial.data.works.join(', ') || 'Nothing.'}</p>
              <h3>Does not</h3>
              <p className="quiet">{trial.data.not.join(', ') || 'Nothing.'}</p>
            </>
          )}
        </div>
      </div>
    </div>
  );
}
