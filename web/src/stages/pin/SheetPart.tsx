import { Button } from 'antd';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { fileAddress } from '../../api/hooks';
import { notice } from '../../frame/notice';
import { useKeyed } from '../../outbox/useOutbox';
import { useWish } from '../../api/pin';
import { useTick } from '../../api/work';
import type { PinView, SheetStep, Tick } from '../../api/types.gen';
import { SeverityMark } from '../../frame/SeverityMark';
import { VirtualRows } from '../../frame/VirtualRows';
import type { View } from '../../harness/ConnectorFace';
import { useCursor } from '../../keys/useCursor';
import { useKey } from '../../keys/useKey';
import { BenchDialog } from '../thin/BenchDialog';
import { contentsBefore } from '../../work/contents';
import { OtherwiseDialog } from './OtherwiseDialog';
import { Reports } from './Reports';
import { Selected } from './Selected';
import { StepFaces } from '../../work/StepFaces';
import { StepRow, stepHead } from './StepRow';

/** A row of the sheet: a step that is done, or one that is left. */
type SheetRow = { done: Tick; step?: undefined } | { step: SheetStep; done?: undefined };

const idOf = (r: SheetRow) => (r.done ? `done ${r.done.step}` : r.step.id);

export function SheetPart({ job, view }: { job: string; view: PinView }) {
  if (view.steps.length + view.done.length === 0) {
    return <NoSteps view={view} />;
  }
  return <Sheet job={job} view={view} />;
}

function NoSteps({ view }: { view: PinView }) {
  return (
    <div className="empty">
      <h2>No terminal moves</h2>
      <p>
        {view.totals.decided === 0
          ? 'Nothing is decided. The sheet follows from what you accept in Match.'
          : 'What is joined instead of moved, and everything else, stands in the one list of work.'}
      </p>
      <Link to="../work">To the work</Link> <Link to="../match">To Match</Link>
    </div>
  );
}

function Sheet({ job, view }: { job: string; view: PinView }) {
  const [address, setAddress] = useSearchParams();
  const [face, turn] = useState<View>('wire');
  const [otherwise, askOtherwise] = useState(false);
  const [settings, showSettings] = useState(false);
  const go = useNavigate();
  const tick = useTick(job);
  const wish = useWish(job);
  const keyed = useKeyed(view.revision);
  const rows: SheetRow[] = [...view.done.map((done) => ({ done })), ...view.steps.map((step) => ({ step }))];
  const asked = Number(address.get('step') ?? view.done.length + 1) - 1;
  const at = Math.min(rows.length - 1, Math.max(0, asked));
  const to = (row: number) =>
    setAddress({ step: String(Math.max(0, Math.min(rows.length - 1, row)) + 1) }, { replace: true });
  const row = rows[at];
  const warn = (e: unknown) => notice.warning(explain(e));
  const send = (r: SheetRow) => {
    const id = r.done ? r.done.step : r.step.id;
    to(r.done ? at : at + 1);
    keyed(
      id,
      (seen) => tick.mutateAsync({ ...seen, steps: [id], done: !r.done }),
      (e) => {
        to(at);
        warn(e);
      },
    );
  };
  const earlier = () => {
    const above = rows[at - 1];
    if (row?.step && above?.step) {
      wish.mutate(
        { seen: view.revision, step: row.step.id, then: above.step.id },
        { onSuccess: () => to(at - 1), onError: warn },
      );
    }
  };
  useCursor(at, rows.length, to);
  useKey('space', () => row && send(row));
  useKey('[', earlier);
  useKey('o', () => askOtherwise(true));
  useKey('v', () => turn(face === 'wire' ? 'mating' : 'wire'));
  const contents = contentsBefore(view.wires, view.steps, row?.step?.id, (s) =>
    s.wire.ref.cavity === '' ? undefined : s.wire,
  );
  const assumed = new Set(view.housings.filter((h) => h.assumed).map((h) => h.id));
  return (
    <>
      <div className="pinsplit">
        <section className="pinlist">
          <div className="bar sheettools">
            <span className="quiet grow">
              Battery negative off before the first terminal is pulled; the unit is unplugged and out.
            </span>
            <Button size="small" onClick={() => showSettings(true)}>
              How we work…
            </Button>
            <Button size="small" onClick={earlier} disabled={!row?.step || !rows[at - 1]?.step}>
              Before the one above <kbd>[</kbd>
            </Button>
            <Button size="small" onClick={() => askOtherwise(true)}>
              Done otherwise… <kbd>O</kbd>
            </Button>
          </div>
          <VirtualRows
            rows={rows}
            keyOf={idOf}
            estimate={34}
            label="re-pin sheet"
            className="steps"
            head={stepHead}
            at={at}
            testID="steps"
            draw={(r, i) => (
              <StepRow
                step={r.step}
                done={r.done}
                number={i + 1}
                on={i === at}
                onGo={() => to(i)}
                onTick={() => send(r)}
              />
            )}
          />
        </section>
        <aside className="pinside">
          <div className="bar" style={{ justifyContent: 'flex-end' }}>
            <Button type="primary" onClick={() => void go('../bench?stage=pin')}>
              Bench view <kbd>B</kbd>
            </Button>
            <Button href={fileAddress(job, 'pin/sheet.pdf')}>PDF</Button>
            <Button href={fileAddress(job, 'pin/sheet.csv')}>CSV</Button>
          </div>
          {row?.step && <Selected step={row.step} number={at + 1} of={rows.length} />}
          {row?.done && (
            <div>
              <div className="quiet">
                step {at + 1} of {rows.length} · done
              </div>
              <div className="bigstep" data-testid="step-text">
                {row.done.text}
              </div>
            </div>
          )}
          {row?.step && (
            <StepFaces
              faces={view.faces}
              contents={contents}
              from={row.step.from}
              to={row.step.to}
              view={face}
              width={380}
              height={
                row.step.to && row.step.from && row.step.to.connector !== row.step.from.connector ? 420 : 190
              }
              assumed={assumed}
            />
          )}
          <div className="bar">
            <Button size="small" onClick={() => turn(face === 'wire' ? 'mating' : 'wire')}>
              Turn the plug <kbd>V</kbd>
            </Button>
          </div>
          <div
            className={`proof${view.proof.reached ? '' : ' bad'}`}
            data-testid="proof"
            title={view.figures}
          >
            <span aria-hidden="true">{view.proof.reached ? '✓' : '✕'}</span> <span>{view.line}</span>
          </div>
          <div className="quiet figures">{view.figures}</div>
          {view.hand.length > 0 && (
            <div>
              In hand now: <strong className="mono">{view.hand.join(', ')}</strong>
            </div>
          )}
          {view.open && (
            <div className="problem">
              {view.open} <Link to="../match?open=1">Decide them</Link>; what holds a cavity is in the
              findings (F).
            </div>
          )}
          {view.adaptations.map((a) => (
            <div key={a.connector} className="inreasons" data-testid="adapted">
              <strong>
                Plug {a.connector}: {a.pattern}.
              </strong>{' '}
              {a.text} {a.warn} <Link to="?part=parts">The pigtail instead</Link>
            </div>
          ))}
          <Reports job={job} view={view} onError={warn} />
          {view.findings
            .filter((f) => f.code !== 'cavity-held' && !f.code.startsWith('found-'))
            .slice(0, 3)
            .map((f) => (
              <div key={f.text} className="inreasons">
                <SeverityMark severity={f.severity} /> {f.text} <span className="quiet">{f.remedy}</span>
              </div>
            ))}
        </aside>
      </div>
      {settings && (
        <BenchDialog
          job={job}
          bench={view.bench}
          revision={view.revision}
          onClose={() => showSettings(false)}
        />
      )}
      {otherwise && (
        <OtherwiseDialog job={job} view={view} at={row?.step?.from} onClose={() => askOtherwise(false)} />
      )}
    </>
  );
}
