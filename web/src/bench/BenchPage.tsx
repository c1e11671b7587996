import './bench.css';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { explain } from '../api/client';
import { useLiveJob } from '../api/hooks';
import { useBenchView } from '../api/pin';
import type { BenchView, WorkStep } from '../api/types.gen';
import { notice } from '../frame/notice';
import type { View } from '../harness/ConnectorFace';
import { useKey } from '../keys/useKey';
import { outboxOf, Refused } from '../outbox/outbox';
import { heldUp, Unsent } from '../frame/Unsent';
import { useUnsent } from '../outbox/useOutbox';
import { ReasonDialog } from '../work/ReasonDialog';
import { BenchFrame, useBenchKeys } from './BenchFrame';
import { CheckBench } from './CheckBench';
import { NotAsExpected, type Answer } from './NotAsExpected';
import { ProveBench } from './ProveBench';
import { ShareLink } from './ShareLink';
import { StepCard } from './StepCard';
import { useAwake } from './useAwake';
import { useClock } from './useClock';

/** One step at a time, for hands that are busy: the same for the moves of Pin and for the work of Thin and Reach. */
export function BenchPage() {
  const job = useParams().job ?? '';
  const [address] = useSearchParams();
  switch (address.get('stage')) {
    case 'check':
      return <CheckBench job={job} />;
    case 'prove':
      return <ProveBench job={job} />;
  }
  return <StepsBench job={job} />;
}

function StepsBench({ job }: { job: string }) {
  const [address] = useSearchParams();
  const asked = address.get('stage');
  const stage = asked && ['thin', 'pin', 'reach', 'feed', 'join', 'own'].includes(asked) ? asked : 'work';
  const bench = useBenchView(job, stage);
  useLiveJob(job, (e) => notice.warning(e.message + heldUp(e), 8));
  if (!bench.data) {
    return (
      <main className="bench" aria-busy={!bench.isError}>
        {bench.isError && <div className="problem">{explain(bench.error)}</div>}
      </main>
    );
  }
  return <Bench key={stage} job={job} view={bench.data} onReload={() => void bench.refetch()} />;
}

/** What was done to a step, for the list of what was not taken. */
const saysOf = (step: string, steps: readonly WorkStep[]) => {
  const text = steps.find((s) => step.endsWith(s.id))?.text ?? '';
  return step.startsWith('back ')
    ? `Taken back: ${text}`
    : step.startsWith('report ')
      ? `Not as expected: ${text}`
      : text;
};

interface Props {
  job: string;
  view: BenchView;
  onReload: () => void;
}

const byID = (steps: readonly WorkStep[]) => new Map(steps.map((s) => [s.id, s]));

/** A step that was ticked here: shown as done until what was read from the server says so, or says otherwise. */
type Ticked = ReadonlyMap<string, number>;

function Bench({ job, view: read, onReload }: Props) {
  const [face, turn] = useState<View>('wire');
  const [asking, ask] = useState<'not' | 'link' | undefined>();
  const [gate, askGate] = useState<{ step: WorkStep; why: string } | undefined>();
  const [ticked, setTicked] = useState<Ticked>(new Map());
  const [takenBack, setTakenBack] = useState<Ticked>(new Map()); // the same of steps that were taken back
  const unsent = useUnsent(job);
  const chain = `bench ${read.stage}`;
  const mine = unsent.letters.filter((l) => l.chain === chain);
  const waits = new Set(mine.map((l) => l.step ?? ''));
  // What is on its way here may hold one half of what these hands did: it is shown when it holds all of it.
  const [whole, setWhole] = useState(read);
  const settled = mine.length === 0 && read.revision >= unsent.revision;
  // Steps as they were shown: one that is taken back is to be done again before the server has said so.
  const [shown, setShown] = useState<ReadonlyMap<string, WorkStep>>(() => byID(read.steps));
  if (settled && whole !== read) {
    setWhole(read);
    setShown(new Map([...shown, ...byID(read.steps)]));
  }
  const view = settled ? read : whole;
  // Of a step that was ticked and taken back, and is still on its way, the last word counts.
  const word = new Map(mine.map((l) => [(l.step ?? '').replace(/^back /, ''), !l.step?.startsWith('back ')]));
  const isDone = (id: string) => word.get(id) ?? (ticked.get(id) ?? -1) > view.revision;
  const post = (step: string, path: string, body: object) => {
    outboxOf(job)
      .post({ method: 'POST', path, body, step, chain, says: saysOf(step, view.steps) })
      .then((done) => {
        setTicked((old) => (old.has(step) ? new Map(old).set(step, done.revision) : old));
        const of = step.replace(/^back /, '');
        setTakenBack((old) => (of !== step && old.has(of) ? new Map(old).set(of, done.revision) : old));
      })
      .catch((e: unknown) => {
        const fallen = step.replace(/^(back|report) /, ''); // what others rest on is not shown as undone for it
        setTicked((old) => new Map([...old].filter(([id]) => id !== fallen)));
        setTakenBack((old) => new Map([...old].filter(([id]) => id !== fallen)));
        onReload();
        if (!(e instanceof Refused) || !e.first) {
          return;
        }
        const about = view.steps.find((s) => s.id === step);
        if (e.problem.code === 'gate-open' && about) {
          outboxOf(job).throwAway([e.letter]); // it is sent anew with the reason
          askGate({ step: about, why: e.message });
          return;
        }
        notice.warning(e.message + heldUp(e), 8);
      });
  };
  const gone = view.steps.filter((s) => isDone(s.id));
  const undone = view.done.filter(
    (d) => !(word.get(d.step) ?? (takenBack.get(d.step) ?? -1) <= view.revision),
  );
  const again = undone.flatMap((d) => shown.get(d.step) ?? []);
  const left = again.concat(view.steps.filter((s) => !isDone(s.id) && !waits.has(`report ${s.id}`)));
  const step = left[0];
  const number = view.done.length - undone.length + gone.length + 1;
  const total = view.done.length + view.steps.length;
  const time = useClock(step?.id ?? '');
  useAwake();
  const send = (s: WorkStep, more: object) => {
    setTicked((old) => new Map(old).set(s.id, Infinity));
    setTakenBack((old) => new Map([...old].filter(([id]) => id !== s.id)));
    post(s.id, '/work/tick', { seen: view.revision, steps: [s.id], done: true, ...more });
  };
  const done = () => {
    if (step?.blocked) {
      notice.warning(`First: ${step.blocked}`, 8);
    } else if (step) {
      send(step, step.stage === 'pin' ? { spent: time() / 60 } : {});
    }
  };
  const measured = (s: WorkStep, had: number) => {
    setTicked((old) => new Map(old).set(s.id, Infinity));
    post(s.id, '/reach/length', { seen: Number.MAX_SAFE_INTEGER, wire: s.measure, had });
  };
  const back = () => {
    const last = outboxOf(job).takeBack((l) => l.chain === chain && !l.step?.startsWith('back ')); // to go back twice is not to go on
    if (last) {
      setTicked((old) => new Map([...old].filter(([id]) => id !== last.step)));
      return;
    }
    const step = gone.at(-1)?.id ?? view.done.findLast((d) => !undone.includes(d))?.step;
    if (step) {
      const seen = Math.max(view.revision, ticked.get(step) ?? 0); // endless where the reply is not here yet
      setTicked((old) => new Map([...old].filter(([id]) => id !== step)));
      setTakenBack((old) => new Map(old).set(step, Infinity));
      post(`back ${step}`, '/work/tick', {
        seen: Math.min(Number.MAX_SAFE_INTEGER, seen),
        steps: [step],
        done: false,
      });
    }
  };
  const answer = (a: Answer) => {
    ask(undefined);
    if (!step) {
      return;
    }
    if (a.what === 'out') {
      post(`report ${step.id}`, '/work/tick', {
        seen: view.revision,
        steps: [step.id],
        done: true,
        outcome: 'stuck',
      });
    } else {
      post(`report ${step.id}`, '/pin/reports', { seen: view.revision, what: a.what, at: a.at, saw: a.saw });
    }
  };
  useBenchKeys(done, back);
  useKey('n', () => step && ask('not'));
  useKey('v', () => turn(face === 'wire' ? 'mating' : 'wire'));
  // Join and own steps have their place in the one list.
  const desk = `/jobs/${job}/${['thin', 'pin', 'reach', 'feed'].includes(view.stage) ? view.stage : `work${view.stage === 'work' ? '' : `?stage=${view.stage}`}`}`;
  const held = gone.at(-1)?.hand ?? (gone.length > 0 ? [] : view.hand);
  return (
    <BenchFrame
      title={view.title}
      desk={desk}
      count={step ? `step ${number} of ${total}` : `all ${total} done`}
      done={number - 1}
      of={total}
      seconds={time()}
      onShare={() => ask('link')}
      status={
        <>
          {held.length > 0 && (
            <span data-testid="hand">
              in hand: <strong className="mono">{held.join(', ')}</strong>
            </span>
          )}
          <Unsent job={job} />
        </>
      }
      back={{ word: 'Back', key: '←', act: back, off: number === 1 }}
      middle={{ word: 'Not as expected', key: 'N', act: () => ask('not'), off: !step }}
      onward={{ word: 'Done', key: 'Space', act: done, off: !step || !!step.blocked }}
    >
      {!view.proven && (
        <div className="problem" role="alert">
          {view.line}
        </div>
      )}
      {step ? (
        <StepCard
          view={view}
          step={step}
          before={gone}
          face={face}
          onTurn={() => turn(face === 'wire' ? 'mating' : 'wire')}
          onMeasured={(had) => measured(step, had)}
        />
      ) : (
        <div className="benchend">
          <h2>Nothing is left to do here.</h2>
          <p>
            {view.stage === 'pin' || view.stage === 'work'
              ? 'Have the second check made, by another person or on another day, before the unit is plugged in.'
              : view.stage === 'thin'
                ? 'What came out stands in the stock of Thin.'
                : 'The rest of the work stands in the one list.'}
          </p>
          <Link to={view.stage === 'pin' || view.stage === 'work' ? `/jobs/${job}/bench?stage=check` : desk}>
            {view.stage === 'pin' || view.stage === 'work' ? 'To the second check' : 'To the desk'}
          </Link>
        </div>
      )}
      {asking === 'not' && step && (
        <NotAsExpected
          stage={step.stage || 'thin'}
          step={step}
          onAnswer={answer}
          onClose={() => ask(undefined)}
        />
      )}
      {asking === 'link' && <ShareLink job={job} stage={view.stage} onClose={() => ask(undefined)} />}
      {gate && (
        <ReasonDialog
          title="Pass the gate all the same?"
          why={gate.why}
          onClose={() => askGate(undefined)}
          onReason={(reason) => {
            askGate(undefined);
            send(gate.step, { reason });
          }}
        />
      )}
    </BenchFrame>
  );
}
