import { Input } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { explain } from '../api/client';
import { useJob, useLiveJob } from '../api/hooks';
import { useProve } from '../api/prove';
import type { MeterReading, ProvedLine, ProveView } from '../api/types.gen';
import { notice } from '../frame/notice';
import { refKey } from '../harness/cavity';
import type { View } from '../harness/ConnectorFace';
import { useKey } from '../keys/useKey';
import { outboxOf } from '../outbox/outbox';
import { heldUp, Unsent } from '../frame/Unsent';
import { useUnsent } from '../outbox/useOutbox';
import { BandBar } from '../stages/prove/BandBar';
import { bandWords, bare, shown, typed } from '../stages/prove/words';
import { StepFaces } from '../work/StepFaces';
import { BenchFrame, useBenchKeys } from './BenchFrame';
import { ShareLink } from './ShareLink';
import { useAwake } from './useAwake';
import { useClock } from './useClock';
import { useRoom } from './useRoom';

/** The test sheet at the bench: one measurement fills the screen, and what the meter shows is kept here until it is sent. */
export function ProveBench({ job }: { job: string }) {
  const prove = useProve(job);
  const head = useJob(job);
  useLiveJob(job, (e) => notice.warning(e.message + heldUp(e), 8));
  if (!prove.data || !head.data) {
    return (
      <main className="bench" aria-busy={!prove.isError}>
        {prove.isError && <div className="problem">{explain(prove.error)}</div>}
      </main>
    );
  }
  return <Lines job={job} title={head.data.title} view={prove.data} onReload={() => void prove.refetch()} />;
}

interface Props {
  job: string;
  title: string;
  view: ProveView;
  onReload: () => void;
}

type Said = Pick<MeterReading, 'value' | 'over'>;

function Lines({ job, title, view, onReload }: Props) {
  const lines = view.lines.filter(
    (l) => !l.waits && (l.first || l.section === 'feeds' || l.section === 'relays'),
  );
  const unsent = useUnsent(job);
  // What was said here and is not read back yet, by line.
  const [said, say] = useState<ReadonlyMap<string, Said>>(new Map());
  const waits = new Set(unsent.letters.filter((l) => l.chain === 'bench prove').map((l) => l.step ?? ''));
  const readOf = (l: ProvedLine): Said | undefined =>
    (waits.has(l.id) || view.revision < unsent.revision ? said.get(l.id) : undefined) ??
    (l.again ? undefined : l.reading);
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      lines.findIndex((l) => !l.reading || l.again),
    ),
  );
  const [text, write] = useState('');
  const [face, turn] = useState<View>('mating');
  const [linked, link] = useState(false);
  const [box, room] = useRoom();
  const line = lines[at];
  const time = useClock(line?.id ?? '');
  useAwake();
  const value = typed(text);
  const go = (to: number) => {
    write('');
    setAt(Math.max(0, Math.min(lines.length, to)));
  };
  const keep = (l: ProvedLine, x: Said) => {
    say((old) => new Map(old).set(l.id, x));
    outboxOf(job)
      .post({
        method: 'POST',
        path: '/prove/reading',
        body: {
          seen: Number.MAX_SAFE_INTEGER, // what the meter shows now outranks an earlier look
          reading: { ...bare(l), value: x.value, ...(x.over ? { over: true } : {}) },
        },
        step: l.id,
        chain: 'bench prove',
        says: `${l.text}: ${x.over ? 'OL' : `${x.value} ${l.kind === 'ohms' ? 'Ω' : 'V'}`}`,
      })
      .catch((error: unknown) => {
        notice.warning(explain(error), 8);
        say((old) => new Map([...old].filter(([id]) => id !== l.id)));
        onReload();
      });
    if (fits(l, x)) {
      go(at + 1);
    } else {
      write('');
    }
  };
  const onward = () => {
    if (!line) {
      return;
    }
    if (value) {
      keep(line, value);
    } else {
      go(at + 1);
    }
  };
  const back = () => go(at - 1);
  useBenchKeys(onward, back);
  useKey('v', () => turn(face === 'wire' ? 'mating' : 'wire'));
  useKey('o', () => line?.kind === 'ohms' && keep(line, { value: 0, over: true }));
  const x = line && readOf(line);
  const left = lines.filter((l) => readOf(l) === undefined).length;
  const out = line && x && !fits(line, x);
  return (
    <BenchFrame
      title={title}
      desk={`/jobs/${job}/prove`}
      count={
        line
          ? `measurement ${at + 1} of ${lines.length}`
          : `${lines.length - left} of ${lines.length} measured`
      }
      done={lines.length - left}
      of={lines.length}
      seconds={time()}
      onShare={() => link(true)}
      status={
        <>
          {view.bench?.on && (
            <span data-testid="simulation-runs">simulated vehicle runs: this is the real one</span>
          )}
          <Unsent job={job} />
        </>
      }
      back={{ word: 'Back', key: '←', act: back, off: at === 0 }}
      middle={{
        word: 'OL',
        key: 'O',
        act: () => line && keep(line, { value: 0, over: true }),
        off: line?.kind !== 'ohms',
      }}
      onward={{ word: value ? 'Keep' : 'Next', key: 'Space', act: onward, off: !line }}
    >
      {line ? (
        <div className="benchstep">
          <section className="benchsay" aria-live="polite">
            <p className="benchtext" data-testid="bench-text">
              {line.text}
            </p>
            <div className="benchfunction">{line.how}</div>
            {line.caution && <div className="benchwarn">▲ {line.caution}</div>}
            <form
              className="benchread"
              onSubmit={(e) => {
                e.preventDefault();
                if (value) {
                  keep(line, value);
                }
              }}
            >
              <Input
                size="large"
                inputMode="decimal"
                autoComplete="off"
                aria-label="what the meter shows"
                suffix={line.kind === 'ohms' ? 'Ω' : 'V'}
                placeholder={line.kind === 'ohms' ? '0,3 · 12k · OL' : '12,4'}
                status={text.trim() && !value ? 'error' : ''}
                value={text}
                onChange={(e) => write(e.target.value)}
              />
            </form>
            <div className="benchmust" data-testid="bench-band">
              it must show <strong className="mono">{bandWords(line.kind, line.band)}</strong>
              <BandBar
                kind={line.kind}
                band={line.band}
                {...(x ? { reading: { ...line, value: x.value, ...(x.over ? { over: x.over } : {}) } } : {})}
              />
            </div>
            {x && (
              <p className="benchmust" data-testid="bench-read">
                {out ? '✕' : '✓'} read <strong className="mono">{shown(line.kind, x.value, x.over)}</strong>,{' '}
                {out ? 'out of band' : 'in band'}
              </p>
            )}
            {out && (
              <p className="benchwarn">
                ▲ Measure it once more. If it stays so,{' '}
                <Link to={`/jobs/${job}/prove?part=fault`}>find the fault</Link>: what could be wrong, and
                what to measure next.
              </p>
            )}
            <div className="benchsmall">{line.why}</div>
          </section>
          <section className="benchface" ref={box}>
            <StepFaces
              faces={view.faces}
              contents={new Map(view.wires.map((w) => [refKey(w.at), w]))}
              from={line.spots[0]}
              to={line.spots[1]}
              view={face}
              width={room.width}
              height={Math.max(150, room.height - 70)}
            />
          </section>
        </div>
      ) : (
        <div className="benchend">
          <h2>{left === 0 ? 'Every line is measured.' : `${left} lines are not measured yet.`}</h2>
          <p>What is not built yet waits, and stands in the sheet at the desk.</p>
        </div>
      )}
      {linked && <ShareLink job={job} stage="prove" onClose={() => link(false)} />}
    </BenchFrame>
  );
}

/** Whether a reading lies in its line's band. */
const fits = (l: ProvedLine, x: Said) =>
  l.band.over || x.over
    ? Boolean(l.band.over) && (Boolean(x.over) || (l.kind === 'ohms' && x.value > 1e6))
    : x.value >= l.band.least && x.value <= l.band.most;
