import { useState } from 'react';
import { explain } from '../api/client';
import { useJob, useLiveJob } from '../api/hooks';
import { useCheckView } from '../api/pin';
import { notice } from '../frame/notice';
import { oneCircuit } from '../stages/pin/CheckPart';
import type { CheckView, Expected } from '../api/types.gen';
import { refKey, refName } from '../harness/cavity';
import { ConnectorFace, type Contents, type View } from '../harness/ConnectorFace';
import { useKey } from '../keys/useKey';
import { outboxOf } from '../outbox/outbox';
import { heldUp, Unsent } from '../frame/Unsent';
import { ReasonDialog } from '../work/ReasonDialog';
import { BenchFrame, useBenchKeys } from './BenchFrame';
import { ShareLink } from './ShareLink';
import { useAwake } from './useAwake';
import { useClock } from './useClock';
import { useRoom } from './useRoom';

/** The second check at the bench: one cavity at a time, and nothing of what the first person ticked. */
export function CheckBench({ job }: { job: string }) {
  const check = useCheckView(job);
  const head = useJob(job);
  useLiveJob(job, (e) => notice.warning(e.message + heldUp(e), 8));
  if (!check.data || !head.data) {
    return (
      <main className="bench" aria-busy={!check.isError}>
        {check.isError && <div className="problem">{explain(check.error)}</div>}
      </main>
    );
  }
  return <Checks job={job} title={head.data.title} view={check.data} onReload={() => void check.refetch()} />;
}

interface Props {
  job: string;
  title: string;
  view: CheckView;
  onReload: () => void;
}

const nothing: Contents = new Map(); // what is in the plug is to be seen on the plug

function Checks({ job, title, view, onReload }: Props) {
  const [at, setAt] = useState(() => {
    const checked = new Set(view.checks.map((c) => refKey(c.at)));
    return Math.max(
      0,
      view.expected.findIndex((e) => !checked.has(refKey(e.at))),
    );
  });
  const [face, turn] = useState<View>('wire');
  const [asking, ask] = useState<'differs' | 'link' | undefined>();
  const [box, room] = useRoom();
  const line = view.expected[at];
  const powers = view.expected.filter((e) => e.power).length;
  const time = useClock(line ? refKey(line.at) : '');
  useAwake();
  const go = (to: number) => setAt(Math.max(0, Math.min(view.expected.length, to)));
  const say = (e: Expected, answer: { ok: boolean; saw?: string }) => {
    outboxOf(job)
      .post({
        method: 'POST',
        path: '/pin/check',
        body: { seen: Number.MAX_SAFE_INTEGER, at: e.at, ...answer }, // what eyes see now outranks an earlier look
        step: refKey(e.at),
      })
      .catch((error: unknown) => {
        notice.warning(explain(error), 8);
        onReload();
      });
    go(at + 1);
  };
  const onward = () => line && say(line, { ok: true });
  const back = () => go(at - 1);
  useBenchKeys(onward, back);
  useKey('x,n', () => line && ask('differs'));
  useKey('v', () => turn(face === 'wire' ? 'mating' : 'wire'));
  const drawing = line && view.faces[line.at.connector]?.[face];
  return (
    <BenchFrame
      title={title}
      desk={`/jobs/${job}/pin?part=check`}
      count={
        !line
          ? 'second check done'
          : line.power
            ? `power or ground ${at + 1} of ${powers}`
            : `cavity ${at + 1} of ${view.expected.length}`
      }
      done={at}
      of={view.expected.length}
      seconds={time()}
      onShare={() => ask('link')}
      status={<Unsent job={job} />}
      back={{ word: 'Back', key: '←', act: back, off: at === 0 }}
      middle={{ word: 'It differs', key: 'X', act: () => ask('differs'), off: !line }}
      onward={{ word: 'It is so', key: 'Space', act: onward, off: !line }}
    >
      {view.left > 0 && (
        <div className="problem" role="alert">
          {view.left} steps of the sheet are not done yet: check what is finished.
        </div>
      )}
      {line ? (
        <div className="benchstep">
          <section className="benchsay" aria-live="polite">
            <p className="benchtext" data-testid="bench-text">
              <span className="benchcavity mono">{refName(line.at)}</span>{' '}
              {line.empty ? 'is empty' : (line.function ?? 'holds a wire')}
            </p>
            {!line.empty && (
              <div className="benchwire">
                <strong className="mono">{line.colour ?? 'colour not given'}</strong>
                {line.circuit && (
                  <span>
                    circuit <strong className="mono">{line.circuit}</strong>
                  </span>
                )}
                {line.joined && <span>{oneCircuit(line)}</span>}
              </div>
            )}
            <div className="benchsmall">
              Look at the plug first, then answer. A colour alone proves nothing: where it matters, prove the
              wire by continuity.
            </div>
          </section>
          <section className="benchface" ref={box}>
            {drawing && (
              <figure className="stepfaces" style={{ display: 'block', margin: 0 }}>
                <ConnectorFace
                  connector={line.at.connector}
                  drawing={drawing}
                  contents={nothing}
                  lit={line.at.cavity}
                  width={room.width}
                  height={Math.max(150, room.height - 70)}
                />
                <figcaption className="quiet" style={{ textAlign: 'center' }}>
                  plug <strong>{line.at.connector}</strong> · you look at the {drawing.words}
                </figcaption>
              </figure>
            )}
          </section>
        </div>
      ) : (
        <div className="benchend">
          <h2>Every cavity has been looked at a second time.</h2>
          <p>What differs stands in the findings.</p>
        </div>
      )}
      {asking === 'differs' && line && (
        <ReasonDialog
          title={`What is in ${refName(line.at)}?`}
          why="Say what you see: nothing, another colour, another wire."
          onClose={() => ask(undefined)}
          onReason={(saw) => {
            say(line, { ok: false, saw });
            ask(undefined);
          }}
        />
      )}
      {asking === 'link' && <ShareLink job={job} stage="check" onClose={() => ask(undefined)} />}
    </BenchFrame>
  );
}
