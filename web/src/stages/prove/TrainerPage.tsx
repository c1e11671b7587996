import './prove.css';
import { Button, Select } from 'antd';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useCauses, useProve, useRound, useRoundEnd } from '../../api/prove';
import type { ProveView, TrainEnd, TrainView } from '../../api/types.gen';
import { clock, useClock } from '../../bench/useClock';
import { notice } from '../../frame/notice';
import { useTitle } from '../../frame/useTitle';
import { Who } from '../../frame/Who';
import { refKey } from '../../harness/cavity';
import { Ended, Results } from './TrainerEnd';
import { TrainerMeter, type Walk } from './TrainerMeter';

/** The trainer: a fault that Draxel hides in this very harness, and a person who looks for it. Nothing here is the vehicle. */
export function TrainerPage() {
  const job = useParams().job ?? '';
  useTitle('Trainer');
  const [address, setAddress] = useSearchParams();
  const level = Number(address.get('level') ?? 0);
  const seed = Number(address.get('seed') ?? 0);
  const prove = useProve(job);
  const start = (l: number) =>
    setAddress({ level: String(l), seed: String(1 + Math.floor(Math.random() * 1e9)) });
  return (
    <main className="trainer">
      <header className="trainerhead">
        <strong>TRAINER</strong>{' '}
        <span>a hidden fault, on the model. This is not the vehicle, and no reading of it is kept</span>
        <span className="grow" />
        <Who />
        <Link to={`/jobs/${job}/prove`}>Back to Prove</Link>
      </header>
      {prove.isError && <div className="problem">{explain(prove.error)}</div>}
      {prove.data?.why && <p className="proveempty">{prove.data.why}</p>}
      {prove.data && !prove.data.why && seed === 0 && <Choose view={prove.data} onStart={start} />}
      {prove.data && !prove.data.why && seed > 0 && (
        <RoundOf key={`${level} ${seed}`} {...{ job, level, seed }} view={prove.data} onStart={start} />
      )}
    </main>
  );
}

function Choose({ view, onStart }: { view: ProveView; onStart: (level: number) => void }) {
  return (
    <section className="trainerchoose">
      <h1>What shall be wrong?</h1>
      {view.levels.map((l, i) => (
        <div key={l.name} className="bar">
          <Button onClick={() => onStart(i)}>{l.name}</Button>
          <span className="quiet">{l.what}</span>
        </div>
      ))}
      <Results view={view} />
    </section>
  );
}

interface RoundProps {
  job: string;
  level: number;
  seed: number;
  view: ProveView;
  onStart: (level: number) => void;
}

function RoundOf({ job, level, seed, view, onStart }: RoundProps) {
  const round = useRound(job, level, seed);
  const [end, finish] = useState<TrainEnd | undefined>();
  const [walked, walk] = useState<Walk[]>([]);
  if (round.isError) {
    return (
      <section className="trainerchoose">
        <p className="problem">{explain(round.error)}</p>
        <Button onClick={() => onStart(level)}>Another round</Button>
      </section>
    );
  }
  if (!round.data) {
    return <section className="trainerchoose" aria-busy="true" />;
  }
  if (end) {
    return <Ended view={view} end={end} walked={walked} onAgain={() => onStart(level)} />;
  }
  return (
    <Looking
      {...{ job, level, seed, walked }}
      round={round.data}
      view={lying(view, round.data)}
      onWalk={(w) => walk((old) => [...old, w])}
      onEnd={finish}
    />
  );
}

/** The view with the colours of two cavities exchanged, where the round lies about them. */
function lying(view: ProveView, round: TrainView): ProveView {
  const [a, b] = round.lie ?? [];
  if (!a || !b) {
    return view;
  }
  const of = (key: string) => view.wires.find((w) => refKey(w.at) === key);
  const [x, y] = [of(refKey(a)), of(refKey(b))];
  return {
    ...view,
    wires: view.wires.map((w) => {
      const other = w === x ? y : w === y ? x : undefined;
      return other?.row && w.row ? { ...w, row: { ...w.row, colour: other.row.colour } } : w;
    }),
  };
}

interface LookingProps {
  job: string;
  level: number;
  seed: number;
  round: TrainView;
  view: ProveView;
  walked: readonly Walk[];
  onWalk: (w: Walk) => void;
  onEnd: (e: TrainEnd) => void;
}

function Looking({ job, level, seed, round, view, walked, onWalk, onEnd }: LookingProps) {
  const [words, look] = useState('');
  const [guesses, guess] = useState<string[]>([]);
  const causes = useCauses(job, words);
  const finish = useRoundEnd(job);
  const time = useClock(`${level} ${seed}`);
  const done = (all: string[]) =>
    finish.mutate(
      { seen: Number.MAX_SAFE_INTEGER, level, seed, took: walked.length, seconds: time(), guesses: all },
      { onSuccess: onEnd, onError: (e) => notice.warning(explain(e)) },
    );
  return (
    <div className="trainergrid">
      <section className="unitpart">
        <h1 data-testid="symptom">{round.text}</h1>
        <p>
          {round.how}. {round.many === 1 ? 'One thing is wrong.' : `${round.many} things are wrong.`}
          {round.lie && round.lie.length > 0 && ' And a colour lies.'}
        </p>
        <p className="bar" role="timer">
          <strong className="mono">{clock(time())}</strong>
          <span>
            <strong className="mono" data-testid="took">
              {walked.length}
            </strong>{' '}
            measured
          </span>
        </p>
        <table className="table" aria-label="measured" data-testid="walked">
          <tbody>
            {walked.map((w, i) => (
              <tr key={i}>
                <td className="mono quiet">{i + 1}</td>
                <td>
                  {w.text}
                  <div className="quiet">{w.how}</div>
                </td>
                <td className="mono oneline">{w.shown}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <h2>It is this</h2>
        <Select
          mode="multiple"
          aria-label="what is wrong"
          placeholder="terminal in A8, fuse 5, pump relay…"
          style={{ width: '100%' }}
          virtual={false}
          value={guesses}
          showSearch={{ filterOption: false, onSearch: look }}
          onChange={(all: string[]) => guess(all.slice(-round.many))}
          options={(causes.data ?? []).map((c) => ({ value: c, label: c }))}
        />
        <div className="bar">
          <Button
            type="primary"
            disabled={guesses.length < round.many}
            loading={finish.isPending}
            onClick={() => done(guesses)}
          >
            It is this
          </Button>
          <Button onClick={() => done([])}>Tell me</Button>
        </div>
      </section>
      <TrainerMeter {...{ job, level, seed, round, view }} onWalk={onWalk} />
    </div>
  );
}
