import { Button, Segmented } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { explain } from '../../api/client';
import { notice } from '../../frame/notice';
import { useKeyed } from '../../outbox/useOutbox';
import { useCheckView, useSecondCheck } from '../../api/pin';
import type { Check, CheckView, Expected } from '../../api/types.gen';
import { VirtualRows } from '../../frame/VirtualRows';
import { refKey, refName } from '../../harness/cavity';
import { ConnectorFace } from '../../harness/ConnectorFace';
import { useCursor } from '../../keys/useCursor';
import { useKey } from '../../keys/useKey';
import { ReasonDialog } from '../../work/ReasonDialog';

/** The second, independent check of what is in the cavities. It shows nothing of what the first person has ticked. */
export function CheckPart({ job }: { job: string }) {
  const check = useCheckView(job);
  if (check.isError) {
    return <div className="problem">{explain(check.error)}</div>;
  }
  return check.data ? <Checking job={job} view={check.data} /> : <div aria-busy="true" />;
}

function Checking({ job, view }: { job: string; view: CheckView }) {
  const [all, setAll] = useState(false);
  const [at, setAt] = useState(0);
  const [differs, ask] = useState<Expected | undefined>();
  const go = useNavigate();
  const send = useSecondCheck(job);
  const keyed = useKeyed(view.revision);
  const checks = new Map(view.checks.map((c) => [refKey(c.at), c]));
  const lines = view.expected.filter((e) => all || e.power);
  const line = lines[Math.min(at, lines.length - 1)];
  const say = (e: Expected, answer: { ok: boolean; saw?: string; drop?: boolean }) => {
    if (!answer.drop) {
      setAt(Math.min(lines.length - 1, lines.indexOf(e) + 1));
    }
    keyed(
      refKey(e.at),
      (seen) => send.mutateAsync({ ...seen, at: e.at, ...answer }),
      (error) => notice.warning(explain(error)),
    );
  };
  useCursor(at, lines.length, setAt);
  useKey('space,enter', () => line && say(line, { ok: true }));
  useKey('x', () => line && ask(line));
  useKey('r', () => line && say(line, { ok: false, drop: true }));
  const powers = view.expected.filter((e) => e.power);
  const done = powers.filter((e) => checks.has(refKey(e.at))).length;
  const drawing = line && view.faces[line.at.connector]?.wire;
  return (
    <>
      <div className="pintop">
        <div>
          <div className="proof" data-testid="second">
            {done} of {powers.length} powers and grounds checked a second time
          </div>
          <div className="quiet">
            By another person, or on another day. What the first person ticked is not shown here: read the
            plug, then answer.
          </div>
          {view.left > 0 && (
            <div className="problem" style={{ marginTop: 8 }}>
              {view.left} steps of the sheet are not done yet: check what is finished.
            </div>
          )}
          {line && (
            <>
              <div className="bigstep" data-testid="expected">
                {refName(line.at)}: {wanted(line)}
              </div>
              <div className="bar">
                <Button type="primary" onClick={() => say(line, { ok: true })}>
                  It is so <kbd>Space</kbd>
                </Button>
                <Button onClick={() => ask(line)}>
                  It differs… <kbd>X</kbd>
                </Button>
                <Button onClick={() => void go('../bench?stage=check')}>
                  Bench view <kbd>B</kbd>
                </Button>
                <Segmented
                  aria-label="what to check"
                  value={all ? 'all' : 'power'}
                  options={[
                    { value: 'power', label: 'Powers and grounds' },
                    { value: 'all', label: 'Everything' },
                  ]}
                  onChange={(v) => {
                    setAll(v === 'all');
                    setAt(0);
                  }}
                />
              </div>
            </>
          )}
        </div>
        {drawing && (
          <figure style={{ margin: 0 }}>
            <ConnectorFace
              connector={line.at.connector}
              drawing={drawing}
              contents={new Map()}
              lit={line.at.cavity}
              width={430}
              height={190}
            />
            <figcaption className="quiet">
              plug {line.at.connector} · {drawing.words}
            </figcaption>
          </figure>
        )}
      </div>
      <VirtualRows
        rows={lines}
        keyOf={(e) => refKey(e.at)}
        estimate={32}
        label="second check"
        className="steps"
        at={at}
        testID="checks"
        draw={(e, i) => (
          <Line line={e} check={checks.get(refKey(e.at))} on={i === at} index={i} onGo={() => setAt(i)} />
        )}
      />
      {differs && (
        <ReasonDialog
          title={`What is in ${refName(differs.at)}?`}
          why="Say what you see: nothing, another colour, another wire."
          onClose={() => ask(undefined)}
          onReason={(saw) => {
            say(differs, { ok: false, saw });
            ask(undefined);
          }}
        />
      )}
    </>
  );
}

/** What a joint ties the cavity to: a meter at the one finds the others. */
export const oneCircuit = (e: Expected) =>
  e.joined ? `one circuit with ${e.joined.map(refName).join(', ')}` : '';

const wanted = (e: Expected) =>
  e.empty ? 'empty' : [e.colour, e.circuit, e.function, oneCircuit(e)].filter(Boolean).join(' · ');

interface LineProps {
  line: Expected;
  check: Check | undefined;
  on: boolean;
  index: number;
  onGo: () => void;
}

function Line({ line, check, on, index, onGo }: LineProps) {
  return (
    <div
      className={`checkrow${on ? ' selected' : ''}`}
      role="row"
      aria-rowindex={index + 1}
      aria-selected={on}
      onClick={onGo}
    >
      <span role="gridcell" className="cavities">
        {refName(line.at)}
      </span>
      <span role="gridcell">{wanted(line)}</span>
      <span role="gridcell" className={check && !check.ok ? 'warned' : 'quiet'}>
        {check
          ? check.ok
            ? `✓ ${check.who ?? ''}`
            : `✕ ${check.saw ?? 'differs'} · ${check.who ?? ''}`
          : ''}
      </span>
    </div>
  );
}
