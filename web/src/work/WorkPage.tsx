import './work.css';
import { Button, Checkbox, Select } from 'antd';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { explain, newChangeID } from '../api/client';
import { fileAddress } from '../api/hooks';
import type { OwnStep, WorkListView, WorkStep } from '../api/types.gen';
import { useOwnStep, useWorkList } from '../api/work';
import { useJobID } from '../frame/Frame';
import { notice } from '../frame/notice';
import { useKey } from '../keys/useKey';
import { OwnDialog } from './OwnDialog';
import { StepReasons } from './StepReasons';
import { WorkRows } from './WorkRows';
import { stageName } from './words';

/** The one list of work: the steps of all stages in one order, proven together. */
export function WorkPage() {
  const job = useJobID();
  const work = useWorkList(job);
  if (work.isError) {
    return <main className="page problem">{explain(work.error)}</main>;
  }
  return work.data ? <Work job={job} view={work.data} /> : <main className="page" aria-busy="true" />;
}

function Work({ job, view }: { job: string; view: WorkListView }) {
  const [address, setAddress] = useSearchParams();
  const [own, askOwn] = useState<{ step: OwnStep; beside: string } | undefined>();
  const go = useNavigate();
  const keep = useOwnStep(job);
  const [picked, pick] = useState(
    () =>
      view.steps.find((s) => s.id === address.get('step'))?.id ??
      view.steps.find((s) => s.own && s.own.id === address.get('own'))?.id ??
      view.steps.find((s) => !s.done)?.id ??
      '',
  );
  const set = (key: string, value: string) =>
    setAddress(
      (old) => {
        if (value) {
          old.set(key, value);
        } else {
          old.delete(key);
        }
        return old;
      },
      { replace: true },
    );
  const stage = address.get('stage') ?? '';
  const place = address.get('place') ?? '';
  const who = address.get('who') ?? '';
  const now = address.get('now') === '1';
  const all = address.get('done') === '1' || who !== '';
  const steps = view.steps.filter(
    (s) =>
      (!stage || s.stage === stage) &&
      (!place || s.place === place) &&
      (!who || s.who === who) &&
      (!now || s.ready) &&
      (all || !s.done),
  );
  const selected = steps.find((s) => s.id === picked) ?? steps[0];
  const write = (step: OwnStep) =>
    keep.mutate({ step, seen: Number.MAX_SAFE_INTEGER }, { onError: (e) => notice.warning(explain(e)) });
  const beside = (s: WorkStep, where: 'before' | 'after') =>
    askOwn({
      step: { id: newChangeID(), text: '', [where]: s.id },
      beside: `${where === 'before' ? 'Before' : 'After'}: ${s.text}`,
    });
  useKey('b', () => void go(`../bench${stage ? `?stage=${stage}` : ''}`));
  useKey('w', () => selected && beside(selected, 'after'));
  const counts = new Map<string, number>();
  for (const s of view.steps) {
    if (!s.done) {
      counts.set(s.stage ?? '', (counts.get(s.stage ?? '') ?? 0) + 1);
    }
  }
  const left = view.steps.filter((s) => !s.done).length;
  return (
    <main className="work">
      <div className="left">
        <h1 className="unseen">Work</h1>
        <div className="bar workbar">
          <span className="grow" data-testid="proof">
            <span aria-hidden="true">{view.proof.reached ? '✓' : '✕'}</span> {view.line}{' '}
            {view.open && <span className="quiet">{view.open}</span>}{' '}
            <span className="quiet">About {hours(view.minutes)} left.</span>
          </span>
          <Button size="small" href={fileAddress(job, 'pin/sheet.pdf')}>
            Sheet as PDF
          </Button>
          <Button size="small" href={fileAddress(job, 'pin/sheet.csv')}>
            CSV
          </Button>
          <Button
            size="small"
            type="primary"
            onClick={() => void go(`../bench${stage ? `?stage=${stage}` : ''}`)}
          >
            Bench view <kbd>B</kbd>
          </Button>
        </div>
        <div className="bar workfilter" role="group" aria-label="which steps">
          {['', 'thin', 'pin', 'reach', 'feed', 'join', 'own'].map((s) => (
            <button
              key={s}
              className={`plain stagepick${stage === s ? ' on' : ''}`}
              aria-pressed={stage === s}
              onClick={() => set('stage', s)}
            >
              {s === '' ? 'All' : stageName(s)}{' '}
              <span className="mono quiet">{s === '' ? left : (counts.get(s) ?? 0)}</span>
            </button>
          ))}
          <Select
            size="small"
            style={{ width: 108 }}
            aria-label="place"
            value={place}
            showSearch
            onChange={(v: string) => set('place', v)}
            options={[
              { value: '', label: 'everywhere' },
              ...view.places.map((p) => ({ value: p, label: `at ${p}` })),
            ]}
          />
          <Select
            size="small"
            style={{ width: 92 }}
            aria-label="person"
            value={who}
            onChange={(v: string) => set('who', v)}
            options={[
              { value: '', label: 'anybody' },
              ...view.people.map((p) => ({ value: p, label: `done by ${p}` })),
            ]}
          />
          <Checkbox checked={now} onChange={(e) => set('now', e.target.checked ? '1' : '')}>
            ready now
          </Checkbox>
          <Checkbox
            checked={all}
            disabled={who !== ''}
            onChange={(e) => set('done', e.target.checked ? '1' : '')}
          >
            done too
          </Checkbox>
        </div>
        {steps.length > 0 ? (
          <WorkRows
            job={job}
            revision={view.revision}
            steps={steps}
            mixed
            selected={selected?.id ?? ''}
            onSelect={pick}
          />
        ) : (
          <div className="empty">
            <h2>{view.steps.length === 0 ? 'No work yet' : 'No step fits the filter'}</h2>
            <p>
              {view.steps.length === 0
                ? 'Accept matches, let systems go, lay the vehicle out: what follows from it stands here, in one order.'
                : 'Take a filter away, or show what is done too.'}
            </p>
          </div>
        )}
      </div>
      <StepReasons
        view={view}
        step={selected}
        onBeside={beside}
        onEdit={(o) => askOwn({ step: o, beside: '' })}
        onDrop={(o) => write({ ...o, text: '' })}
      />
      {own && (
        <OwnDialog
          step={own.step}
          beside={own.beside}
          onClose={() => askOwn(undefined)}
          onKeep={(o) => {
            askOwn(undefined);
            write(o);
          }}
        />
      )}
    </main>
  );
}

/** Minutes as people say them. */
function hours(minutes: number): string {
  const m = Math.round(minutes);
  return m < 60 ? `${m} min` : `${Math.floor(m / 60)} h ${m % 60} min`;
}
