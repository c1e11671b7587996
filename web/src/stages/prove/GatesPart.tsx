import { Button, Input } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { numberOf } from '../../frame/number';
import { explain, ProblemError } from '../../api/client';
import { usePassGate } from '../../api/prove';
import type { GateState, ProveView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { When } from '../../frame/When';
import { ReasonDialog } from '../../work/ReasonDialog';
import { PartLink } from './PartLink';

/** Power comes on in stages: one gate at a time, each with what must be true before it. */
export function GatesPart({ job, view }: { job: string; view: ProveView }) {
  const pass = usePassGate(job);
  const [asked, ask] = useState<{ gate: GateState; value: number | undefined; why: string } | undefined>();
  const at = view.gates.findIndex((g) => !g.passed);
  const send = (gate: GateState, value: number | undefined, reason?: string) =>
    pass.mutate(
      {
        seen: view.revision,
        gate: gate.id,
        ...(value === undefined ? {} : { value }),
        ...(reason ? { reason } : {}),
      },
      {
        onError: (e) =>
          e instanceof ProblemError && ['gate-held', 'bad-value'].includes(e.problem.code)
            ? ask({ gate, value, why: e.message })
            : notice.warning(explain(e)),
      },
    );
  return (
    <div className="gates">
      {view.gates.map((g, i) => (
        <Gate
          key={g.id}
          gate={g}
          now={i === at}
          keyOn={view.keyOn}
          onPass={(v) => send(g, v)}
          onBack={() =>
            pass.mutate(
              { seen: view.revision, gate: g.id, back: true },
              { onError: (e) => notice.warning(explain(e)) },
            )
          }
        />
      ))}
      {at < 0 && <p>Every gate is passed.</p>}
      {asked && (
        <ReasonDialog
          title={`${asked.gate.title}: why may it stand?`}
          why={asked.why}
          onClose={() => ask(undefined)}
          onReason={(reason) => {
            ask(undefined);
            send(asked.gate, asked.value, reason);
          }}
        />
      )}
    </div>
  );
}

interface GateProps {
  gate: GateState;
  now: boolean;
  /** What is to be seen and heard when the key comes to run. */
  keyOn: readonly string[];
  onPass: (value: number | undefined) => void;
  onBack: () => void;
}

function Gate({ gate, now, keyOn, onPass, onBack }: GateProps) {
  const [text, write] = useState('');
  const number = numberOf(text);
  const a = gate.asks;
  return (
    <section
      className={`gate${now ? ' now' : ''}${gate.passed ? ' passed' : ''}`}
      aria-current={now ? 'step' : undefined}
    >
      <h2>
        {gate.passed ? '✓' : now ? '▶' : '○'} {gate.title}
      </h2>
      {(now || gate.passed) && (
        <>
          {now && gate.do.map((d) => <div key={d}>{d}</div>)}
          {now && gate.id === 'wake' && keyOn.length > 0 && (
            <div data-testid="keyon">
              At key-on: {keyOn.join(', ')}. Whatever else is heard is unknown: note it in Records, and look
              for it.
            </div>
          )}
          {now && gate.id === 'outputs' && (
            <div>
              <PartLink part="unit">Unit and rig</PartLink> has the unit work them one at a time.
            </div>
          )}
          {now && gate.caution && <div className="warned">▲ {gate.caution}</div>}
          {now && gate.held && (
            <div data-testid="held">
              Held: {gate.held}.{' '}
              {gate.id === 'second' ? (
                <Link to="../pin?part=check">Second check</Link>
              ) : gate.id === 'start' ? (
                <PartLink part="records">Records</PartLink>
              ) : (
                <Link to="?only=open">Test sheet</Link>
              )}
            </div>
          )}
          {gate.passed && (
            <div className="bar">
              <span className="quiet">
                {gate.passed.value !== undefined && a ? `${gate.passed.value} ${a.unit}, ` : ''}
                {gate.passed.reason ? `“${gate.passed.reason}” ` : ''}
                {gate.passed.who} {gate.passed.when ? <When ms={gate.passed.when} day /> : ''}
              </span>
              <Button size="small" onClick={onBack}>
                Open again
              </Button>
            </div>
          )}
          {now && (
            <form
              className="bar"
              onSubmit={(e) => {
                e.preventDefault();
                onPass(number);
              }}
            >
              {a && (
                <Input
                  aria-label={a.what}
                  style={{ width: 360 }}
                  prefix={<span className="quiet">{a.what}</span>}
                  suffix={`${a.unit}, ${a.least} to ${a.most}`}
                  value={text}
                  onChange={(e) => write(e.target.value)}
                />
              )}
              <Button
                type="primary"
                htmlType="submit"
                disabled={Boolean(a) && (number === undefined || Number.isNaN(number))}
              >
                Passed
              </Button>
            </form>
          )}
        </>
      )}
    </section>
  );
}
