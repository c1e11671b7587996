import './join.css';
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useJoin, useSetFunction } from '../../api/join';
import type { Item, JoinView } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { notice } from '../../frame/notice';
import { useAsked } from '../../frame/useAsked';
import { useKeyed } from '../../outbox/useOutbox';
import { useKey } from '../../keys/useKey';
import { ReasonDialog } from '../../work/ReasonDialog';
import { PartTabs } from '../../work/PartTabs';
import { CarryOut } from './CarryOut';
import { FunctionPath } from './FunctionPath';
import { FunctionSum } from './FunctionSum';
import { JoinReasons } from './JoinReasons';
import { StateGlyph } from './StateGlyph';
import { TryPart } from './TryPart';

/** What must work in the finished vehicle, what it takes, and whether it will. */
export function JoinPage() {
  const job = useJobID();
  const join = useJoin(job);
  if (join.isError && !join.data) {
    return <main className="page problem">{explain(join.error)}</main>;
  }
  return join.data ? <Join job={job} view={join.data} /> : <main className="page" aria-busy="true" />;
}

const parts = { path: 'Its path and its sum', try: 'Try it', work: 'Parts and steps' };

const counted = (view: JoinView, state: Item['state']) => view.items.filter((i) => i.state === state).length;

function Join({ job, view }: { job: string; view: JoinView }) {
  const [address, setAddress] = useSearchParams();
  const set = useSetFunction(job);
  const keyed = useKeyed(view.revision);
  const [asked, ask] = useState<Item | undefined>();
  const list = useRef<HTMLDivElement>(null);
  const part = address.get('part') ?? 'path';
  const at = Math.max(
    0,
    view.items.findIndex((i) => i.id === (address.get('sel') ?? firstOpen(view))),
  );
  const sel = view.items[at];
  const linked = address.get('sel');
  useAsked(
    'function',
    linked,
    view.items.some((i) => i.id === linked),
  );
  const choose = (id: string) => setAddress({ sel: id }, { replace: true });
  const step = (by: number) => {
    const next = view.items[Math.max(0, Math.min(view.items.length - 1, at + by))];
    if (next) {
      choose(next.id);
    }
  };
  const decide = (it: Item, choice: '' | 'wanted' | 'given-up' | 'not-fitted', reason?: string) =>
    keyed(
      it.id,
      (seen) => set.mutateAsync({ ...seen, function: it.id, choice, ...(reason ? { reason } : {}) }),
      (e) => notice.warning(explain(e)),
    );
  useKey('up', () => step(-1));
  useKey('down', () => step(1));
  const open = (p: string) =>
    setAddress({ ...(p === 'path' ? {} : { part: p }), ...(sel ? { sel: sel.id } : {}) });
  useKey('1', () => open('path'));
  useKey('2', () => open('try'));
  useKey('3', () => open('work'));
  useKey('w', () => sel && decide(sel, 'wanted'));
  useKey('g', () => sel && ask(sel));
  useKey('x', () => sel && decide(sel, 'not-fitted'));
  useKey('r', () => sel && decide(sel, ''));
  useEffect(() => {
    list.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  return (
    <main className="joinpage">
      <h1 className="unseen">Join: what must work in the finished vehicle</h1>
      <div className="standing" data-testid="joinstanding">
        <span>
          <strong className="mono">{counted(view, 'works on paper')}</strong> work on paper
        </span>
        <span>
          <strong className="mono">{counted(view, 'needs something')}</strong> need something
        </span>
        <span>
          <strong className="mono">{counted(view, 'open')}</strong> open
        </span>
        <span>
          <strong className="mono">{counted(view, 'given up')}</strong> given up
        </span>
      </div>
      <div className="joingrid">
        <div className="functions" role="listbox" aria-label="functions" tabIndex={0} ref={list}>
          {view.items.map((it) => (
            <div
              key={it.id}
              role="option"
              aria-selected={it.id === sel?.id}
              className={`function${it.id === sel?.id ? ' selected' : ''}${it.state === 'not fitted' ? ' quiet' : ''}`}
              onClick={() => choose(it.id)}
            >
              <StateGlyph state={it.state} />
              <span>
                {it.name}
                <span className="quiet stateword"> {it.state}</span>
              </span>
            </div>
          ))}
        </div>
        <section className="joinmiddle" tabIndex={0} aria-label="what was chosen">
          <PartTabs label="parts of Join" parts={parts} at={part} onOpen={open} />
          {part === 'try' ? (
            <TryPart job={job} view={view} />
          ) : part === 'work' ? (
            <CarryOut job={job} view={view} />
          ) : (
            sel && (
              <>
                <FunctionPath key={`path ${sel.id}`} job={job} view={view} item={sel} />
                <FunctionSum key={sel.id} job={job} view={view} item={sel} />
              </>
            )
          )}
        </section>
        <aside className="reasons" aria-label="reasons">
          {sel && <JoinReasons job={job} view={view} item={sel} onDecide={decide} onGiveUp={ask} />}
        </aside>
      </div>
      {asked && (
        <ReasonDialog
          title={`${asked.name} given up: why?`}
          why={asked.law ?? 'What is given up is not joined, and is told to whoever programs the unit.'}
          onClose={() => ask(undefined)}
          onReason={(reason) => {
            ask(undefined);
            decide(asked, 'given-up', reason);
          }}
        />
      )}
    </main>
  );
}

const firstOpen = (view: JoinView) =>
  (
    view.items.find((i) => i.state === 'needs something') ??
    view.items.find((i) => i.state === 'open') ??
    view.items[0]
  )?.id;
