import './thin.css';
import { useState } from 'react';
import { Link } from 'react-router';
import { useLiveLimbs } from '../../api/feed';
import { explain, ProblemError } from '../../api/client';
import { notice } from '../../frame/notice';
import { useKeyed } from '../../outbox/useOutbox';
import { useCircuit, useThin, useThinDecide } from '../../api/thin';
import type { ThinDecision, ThinView } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { useKey } from '../../keys/useKey';
import { Balance } from './Balance';
import type { Choice } from './ChoiceGlyph';
import { HarnessDrawing } from './HarnessDrawing';
import { ReasonDialog } from '../../work/ReasonDialog';
import { ThinReasons } from './ThinReasons';
import { useThinAddress, type Part, type Selection } from './selection';
import { StockPage } from './StockPage';
import { Systems } from './Systems';
import { WireRows } from './WireRows';
import { WorkPage } from './WorkPage';

export function ThinPage() {
  const job = useJobID();
  const thin = useThin(job);
  if (thin.isError) {
    return <main className="page problem">{explain(thin.error)}</main>;
  }
  if (!thin.data) {
    return <main className="page" aria-busy="true" />;
  }
  if (thin.data.wires.length === 0) {
    return (
      <main className="page">
        <div className="empty">
          <h1>No harness yet</h1>
          <p>
            Bring its pinout in Gather, or list its wires there: both ends, splices, what plugs in where. Then
            decide here what stays and what goes.
          </p>
          <Link to="../gather">To Gather</Link>
        </div>
      </main>
    );
  }
  return <Thin job={job} view={thin.data} />;
}

const partWord: Record<Part, string> = {
  harness: 'Harness',
  wires: 'Wires',
  work: 'Work',
  stock: 'Stock and yard',
};

/** The wire by which a selection's circuit is found. */
function wireOf(view: ThinView, s: Selection | undefined): string | undefined {
  if (s?.on === 'wire') {
    return s.id;
  }
  if (s?.on === 'splice') {
    return view.wires.find((w) => w.ends.some((e) => e.splice === s.id))?.id;
  }
  return undefined;
}

function Thin({ job, view }: { job: string; view: ThinView }) {
  const { selected, latest, part, select, show, showing } = useThinAddress(view.joints);
  const decide = useThinDecide(job);
  const [asked, ask] = useState<{ decision: ThinDecision; why: string } | undefined>();
  const [reason, setReason] = useState('');
  const circuit = useCircuit(job, wireOf(view, selected), view.revision);

  const keyed = useKeyed(view.revision);
  const send = (decisions: ThinDecision[]) => {
    const [first] = decisions;
    if (!first) {
      return;
    }
    setReason('');
    keyed(
      `${first.on} ${first.id}`,
      (seen) => decide({ decisions, ...seen }),
      (e) => {
        if (e instanceof ProblemError && e.problem.code === 'reason-wanted') {
          ask({ decision: first, why: e.message });
        } else {
          notice.warning(explain(e));
        }
      },
    );
  };
  const choose = (choice: Choice) => {
    const it = latest.current;
    if (!it || it.on === 'splice' || it.on === 'branch') {
      notice.info('Select a system, a module, a connector or a wire first.');
      return;
    }
    send([{ on: it.on, id: it.id, choice, ...(reason && choice ? { reason } : {}) }]);
  };
  const live = part === 'harness' || part === 'wires';
  const [liveIn, setLiveIn] = useState('');
  const liveLimbs = useLiveLimbs(job, view.revision, liveIn);
  useKey('k', () => choose('keep'), { enabled: live });
  useKey('g', () => choose('goes'), { enabled: live });
  useKey('r', () => choose(''), { enabled: live });
  useKey('1', () => show('harness'));
  useKey('2', () => show('wires'));
  useKey('3', () => show('work'));
  useKey('4', () => show('stock'));

  return (
    <main className="thin">
      <h1 className="unseen">Thin: what stays and what goes</h1>
      {view.begun ? (
        <div className="balance" aria-busy="true" aria-label="counts">
          The steps are being worked out…
        </div>
      ) : (
        <Balance counts={view.counts} proof={view.proof} />
      )}
      <Systems view={view} keys={part === 'harness'} selected={selected} onSelect={select} onDecide={send} />
      <div className="thinmiddle">
        <nav className="sides" aria-label="parts of Thin">
          {(Object.keys(partWord) as Part[]).map((p, i) => (
            <button
              key={p}
              className={`plain${p === part ? ' on' : ''}`}
              onClick={() => show(p)}
              aria-pressed={p === part}
            >
              <kbd>{i + 1}</kbd> {partWord[p]}
            </button>
          ))}
        </nav>
        {part === 'harness' && (
          <HarnessDrawing
            view={view}
            selected={selected}
            lit={circuit.data?.limbs ?? liveLimbs.data?.limbs}
            live={liveIn}
            onLive={setLiveIn}
            onSelect={select}
            onWire={(id) => select({ on: 'wire', id })}
          />
        )}
        {part === 'wires' && <WireRows view={view} selected={selected} onSelect={select} />}
        {part === 'work' && <WorkPage job={job} onWire={(id) => showing('harness', { on: 'wire', id })} />}
        {part === 'stock' && <StockPage job={job} />}
      </div>
      <ThinReasons
        job={job}
        view={view}
        selected={selected}
        beliefs={circuit.data?.beliefs ?? []}
        reason={reason}
        onReason={setReason}
        onChoose={choose}
        onSelect={select}
      />
      {asked && (
        <ReasonDialog
          title={`${asked.decision.id} goes: why?`}
          why={asked.why}
          onClose={() => ask(undefined)}
          onReason={(text) => {
            ask(undefined);
            send([{ ...asked.decision, reason: text }]);
          }}
        />
      )}
    </main>
  );
}
