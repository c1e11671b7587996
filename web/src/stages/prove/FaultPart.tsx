import { Button, Select } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useDiagnosis, useMend, useSetReading } from '../../api/prove';
import type { Advice, DiagnosisView, MayShow, ProveView, SuspectView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { When } from '../../frame/When';
import { ReasonDialog } from '../../work/ReasonDialog';
import { Faces } from './Faces';
import { ReadingField } from './ReadingField';
import { bandWords, readingWords, type Measure } from './words';

/** What could be wrong by all that was measured, and the one thing to measure next. */
export function FaultPart({ job, view }: { job: string; view: ProveView }) {
  const diagnosis = useDiagnosis(job, view.revision);
  if (diagnosis.isError) {
    return <div className="problem">{explain(diagnosis.error)}</div>;
  }
  const d = diagnosis.data;
  if (!d) {
    return <div className="proveempty" aria-busy="true" />;
  }
  return (
    <div className="faultgrid" aria-busy={diagnosis.isFetching}>
      <section className="faultleft">
        {view.unbuilt > 0 && (
          <p>
            ▲ {view.unbuilt} wires are not yet as they are wanted: what is measured at them is compared with
            the finished harness, and says nothing of a fault.
          </p>
        )}
        <Symptom job={job} view={view} />
        <Taken job={job} view={view} d={d} />
        {view.mended.length > 0 && (
          <>
            <h2>Found before</h2>
            {view.mended.map((m) => (
              <p key={m.id}>
                {m.text} <span className="quiet">{m.did}</span>{' '}
                <span className="quiet">
                  {m.who} {m.when ? <When ms={m.when} day /> : ''}, after {m.took} readings
                </span>
              </p>
            ))}
          </>
        )}
      </section>
      <section className="faultmiddle" data-testid="suspects" tabIndex={0} aria-label="what could be wrong">
        <Suspects job={job} view={view} d={d} />
      </section>
      <aside className="reasons" aria-label="what to measure next">
        {d.next ? (
          <Next job={job} view={view} d={d} next={d.next} />
        ) : (
          d.readings > 0 && (
            <p className="quiet">
              {d.found ? 'Nothing more has to be measured.' : 'Nothing more tells anything.'}
            </p>
          )
        )}
      </aside>
    </div>
  );
}

/** Something that does not work, or works and should not. */
function Symptom({ job, view }: { job: string; view: ProveView }) {
  const [device, choose] = useState<string | undefined>();
  const [key, turn] = useState('run');
  const [on, switchOn] = useState<string[]>([]);
  const [drive, setDrive] = useState<string | undefined>();
  const measure: Measure = {
    id: '',
    kind: 'works',
    a: device ?? '',
    b: '',
    setup: {
      key,
      battery: true,
      units: true,
      ...(on.length > 0 ? { on: [...on].sort().join(',') } : {}),
      ...(drive ? { drive } : {}),
    },
  };
  return (
    <>
      <h2>What is seen or heard</h2>
      <div className="bar">
        <Select
          size="small"
          aria-label="device"
          placeholder="fuel pump"
          style={{ width: 180 }}
          showSearch={{ optionFilterProp: 'label' }}
          virtual={false}
          value={device}
          onChange={choose}
          options={view.devices.map((x) => ({ value: x, label: x }))}
        />
        <Select
          size="small"
          aria-label="key"
          style={{ width: 110 }}
          virtual={false}
          value={key}
          onChange={turn}
          options={view.positions.map((x) => ({ value: x, label: x }))}
        />
      </div>
      {device && (
        <div className="bar">
          <Select
            size="small"
            mode="multiple"
            aria-label="what is worked meanwhile"
            placeholder="pedal, lever, light"
            style={{ width: 180 }}
            virtual={false}
            value={on}
            onChange={switchOn}
            options={view.switches.map((x) => ({ value: x, label: x }))}
          />
          <Select
            size="small"
            allowClear
            aria-label="output that a tester works"
            placeholder="tester on"
            style={{ width: 110 }}
            virtual={false}
            value={drive}
            onChange={setDrive}
            options={view.outputs.map((o) => ({ value: o.at, label: `${o.at} ${o.drives}` }))}
            popupMatchSelectWidth={300}
          />
        </div>
      )}
      {device && (
        <ReadingField job={job} revision={view.revision} measure={measure} onKept={() => choose(undefined)} />
      )}
    </>
  );
}

/** What the diagnosis goes by: each can be taken back. */
function Taken({ job, view, d }: { job: string; view: ProveView; d: DiagnosisView }) {
  const set = useSetReading(job);
  const out = [...view.lines, ...view.others].filter((l) => l.reading && !l.again);
  const told = out.filter((l) => !l.fits).concat(view.others.filter((l) => l.fits));
  return (
    <>
      <h2>What was read</h2>
      {out.length === 0 && (
        <p className="quiet">
          Nothing since the last fault. Say above what does not work, or measure a line of the sheet.
        </p>
      )}
      <table className="table" aria-label="readings">
        <tbody>
          {told.map((l) => (
            <tr key={l.id}>
              <td>{l.fits ? '✓' : '✕'}</td>
              <td>
                {l.kind === 'works' ? l.a : l.text}
                <div className="quiet">
                  {l.how}; {l.why || `expected ${bandWords(l.kind, l.band)}`}
                </div>
              </td>
              <td className="mono oneline">{l.reading && readingWords(l.reading)}</td>
              <td>
                <button
                  className="plain"
                  aria-label={`take ${l.text} back`}
                  onClick={() =>
                    set.mutate(
                      { seen: view.revision, out: l.id },
                      { onError: (e) => notice.warning(explain(e)) },
                    )
                  }
                >
                  ×
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {out.length > told.length && <p className="quiet">{out.length - told.length} more, in band.</p>}
      {(d.doubtful ?? []).length > 0 && (
        <p>▲ These contradict the others; measure them again: {d.doubtful?.join('; ')}.</p>
      )}
    </>
  );
}

const percent = (p: number) => (p >= 0.995 ? '> 99' : p < 0.01 ? '< 1' : Math.round(p * 100).toString());

function Suspects({ job, view, d }: { job: string; view: ProveView; d: DiagnosisView }) {
  const mend = useMend(job);
  const [found, find] = useState<SuspectView | undefined>();
  const [left, leave] = useState<SuspectView | undefined>();
  if (d.readings === 0) {
    return <p className="quiet">Nothing is measured yet.</p>;
  }
  return (
    <>
      <h2>
        {d.found ? 'It is this' : 'What could be wrong'}{' '}
        <span className="quiet">
          {d.looked} of {d.of} faults tried on the model
        </span>
      </h2>
      {d.healthy > 0.02 && !d.found && (
        <p className="quiet">Nothing is wrong: {percent(d.healthy)} %, as far as it was measured.</p>
      )}
      {d.suspects
        .filter((s, i) => i === 0 || (s.probability > 0.004 && !d.found))
        .map((s) => (
          <div key={s.text} className="suspect">
            <div className="suspecthead">
              <span className="chance" style={{ width: `${Math.max(2, s.probability * 100)}px` }} />
              <strong className="mono">{percent(s.probability)} %</strong>
              <span>{s.text}</span>
            </div>
            <div className="quiet">
              {s.explains.length > 0 && `Explains: ${s.explains.join('; ')}. `}
              {s.against.length > 0 && `Does not fit: ${s.against.join('; ')}. `}
              {d.found && s.like.length > 0 && `No measurement here tells it from: ${s.like.join('; ')}.`}
            </div>
            {d.found && (
              <div className="bar">
                <span>{s.do.join(' ')}</span>
                <span className="grow" />
                {s.left && (
                  <Button
                    size="small"
                    title="the terminals stay where they are found: the plan goes on from there"
                    onClick={() => leave(s)}
                  >
                    It is so: the plan follows…
                  </Button>
                )}
                <Button size="small" type="primary" onClick={() => find(s)}>
                  It was this…
                </Button>
              </div>
            )}
          </div>
        ))}
      {left && (
        <ReasonDialog
          title="Keep it as it is found?"
          why={`${left.text}. That is what is really there from now on: the harness as it is now has it so, and the work list says what is to be moved. Nothing has been touched yet.`}
          onClose={() => leave(undefined)}
          onReason={(did) => {
            leave(undefined);
            mend.mutate(
              { seen: view.revision, text: left.text, did, left: true },
              { onError: (e) => notice.warning(explain(e)) },
            );
          }}
        />
      )}
      {found && (
        <ReasonDialog
          title="What was done?"
          why={`${found.text}. What was measured so far says nothing any more of how it is now: the lines out of band are measured again.`}
          onClose={() => find(undefined)}
          onReason={(did) => {
            find(undefined);
            mend.mutate(
              { seen: view.revision, text: found.text, did },
              { onError: (e) => notice.warning(explain(e)) },
            );
          }}
        />
      )}
    </>
  );
}

interface NextProps {
  job: string;
  view: ProveView;
  d: DiagnosisView;
  next: Advice;
}

function Next({ job, view, d, next }: NextProps) {
  return (
    <>
      <div data-testid="next">
        <h3>Measure next</h3>
        <h2>{d.nextText}</h2>
        <div>{d.nextHow}</div>
      </div>
      <ReadingField key={next.id} job={job} revision={view.revision} measure={next} focus />
      {next.outcomes.map((o: MayShow) => (
        <div key={bandWords(next.kind, o.band)}>
          <strong className="mono">{bandWords(next.kind, o.band)}</strong>{' '}
          <span className="quiet">{percent(o.probability)} %: then</span> {o.means.join('; or ')}
        </div>
      ))}
      <div className="quiet">{next.why}</div>
      <Faces view={view} spots={d.nextAt ?? []} width={300} />
    </>
  );
}
