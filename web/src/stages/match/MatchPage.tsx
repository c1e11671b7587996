import './match.css';
import { Button } from 'antd';
import { useRef, useState } from 'react';
import { Link, useLocation, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useAcceptAbove, useMatch, useMeet, type Decide } from '../../api/hooks';
import type { MatchView, Ref } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { notice } from '../../frame/notice';
import { useAsked } from '../../frame/useAsked';
import { refName } from '../../harness/cavity';
import type { View } from '../../harness/ConnectorFace';
import { useKey } from '../../keys/useKey';
import { AcceptDialog, ChooseDialog, CavityDialog, EmptyDialog, SourceDialog } from './dialogs';
import { Faces } from './Faces';
import { MeetDialog } from './MeetDialog';
import { OriginDialog } from './OriginDialog';
import { Filters } from './Filters';
import { ReasonsPanel, type Act } from './ReasonsPanel';
import {
  candidatesOf,
  feeds,
  filterRows,
  groupRows,
  isHeading,
  isOpen,
  nextOpen,
  percent,
  spreadRows,
  sureOf,
  toRow,
  type Filter,
  type SpreadRow,
} from './spread';
import { Spread } from './Spread';
import { useDecisions } from './useDecisions';
import { nextWay, wayOf, wayWord } from './ways';

export function MatchPage() {
  const job = useJobID();
  const match = useMatch(job);
  if (match.isError) {
    return <main className="page problem">{explain(match.error)}</main>;
  }
  if (!match.data) {
    return <main className="page" aria-busy="true" />;
  }
  if (match.data.lines.length === 0 || match.data.to.rows.length === 0) {
    return (
      <main className="page">
        <div className="empty">
          <h1>Two pinouts make a crosswalk</h1>
          <p>
            Bring the pinout of the harness whose terminals are moved, and the list of cavities that it must
            fill.
          </p>
          <Link to="../gather">Gather them</Link>
        </div>
      </main>
    );
  }
  return <Match job={job} view={match.data} />;
}

type Dialog = 'source' | 'joins' | 'empty' | 'choose' | 'accept' | 'housings' | 'wire' | 'from';

function Match({ job, view }: { job: string; view: MatchView }) {
  const [address, setAddress] = useSearchParams();
  const [candidateAt, setCandidateAt] = useState(0);
  const [reason, setReason] = useState('');
  const [text, setText] = useState(address.get('find') ?? '');
  const [dialog, setDialog] = useState<Dialog | undefined>();
  const [face, setFace] = useState<View>('wire');
  const find = useRef<HTMLInputElement>(null);
  const acceptAbove = useAcceptAbove(job);
  const meet = useMeet(job);

  const filter: Filter = {
    open: address.get('open') === '1',
    system: address.get('system') ?? '',
    connector: address.get('connector') ?? '',
    text,
    group: address.get('group') === '1',
  };
  const all = spreadRows(view);
  // The cursor moves at once; the address follows in its own time, and is heeded only where somebody else wrote it.
  const location = useLocation();
  const own = (location.state as { own?: boolean } | null)?.own === true;
  const [cursor, setCursor] = useState({ key: address.get('row') ?? '', at: location.key });
  if (!own && cursor.at !== location.key) {
    setCursor({ key: address.get('row') ?? '', at: location.key });
  }
  const asked = own ? null : address.get('row');
  useAsked(
    'row',
    asked?.replace(/^(from|to) /, '') ?? null,
    all.some((r) => r.key === asked),
  );
  const key = cursor.key || (all.find((r) => isOpen(r)) ?? all[0])?.key;
  const kept = filterRows(all, filter);
  const visible = filter.group ? groupRows(kept) : kept;
  const rows = visible.filter((r): r is SpreadRow => !isHeading(r));
  const row = rows.find((r) => r.key === key) ?? rows[0];
  const candidates = row ? candidatesOf(row) : [];
  const candidate = candidates[Math.min(candidateAt, candidates.length - 1)];

  const set = (change: Record<string, string>) => {
    setAddress(
      (old) => {
        for (const [k, v] of Object.entries(change)) {
          if (v) {
            old.set(k, v);
          } else {
            old.delete(k);
          }
        }
        return old;
      },
      { replace: true, state: { own: true } },
    );
  };
  const findText = (next: string) => {
    setText(next);
    set({ find: next });
  };
  const select = (next: string) => {
    setCursor((c) => ({ ...c, key: next }));
    set({ row: next });
    setCandidateAt(0);
    setReason('');
  };
  const focusRows = () => document.querySelector<HTMLElement>('[data-testid=spread]')?.focus();
  const close = () => {
    setDialog(undefined);
    setTimeout(focusRows);
  };
  const step = (by: number) => {
    const at = rows.findIndex((r) => r.key === row?.key);
    const next = rows[Math.max(0, Math.min(rows.length - 1, at + by))];
    if (next) {
      select(next.key);
    }
  };
  const warn = (error: unknown) => notice.warning(explain(error));
  const decide = useDecisions(job, view.revision, (error, at) => {
    warn(error);
    select(at);
  });
  const act = (d: Omit<Decide, 'side' | 'at'>, onward = true) => {
    const at = row?.line?.from ?? row?.want?.to;
    if (!row || !at) {
      return;
    }
    decide(row.key, { side: row.side, at, reason: reason || undefined, ...d });
    if (onward) {
      select(nextOpen(rows, row.key)); // at once: the reply moves nothing
    } else {
      setCandidateAt(0);
    }
    close();
  };
  const open = row?.line && !row.line.decided;
  const acts: Act = {
    accept: () => {
      if (!row) {
        return;
      }
      if (open && candidate && row.line && sureOf(row.line, candidate) < 0.5) {
        setDialog('choose'); // less likely than not: it is chosen with open eyes
      } else if (open && candidate) {
        act({ action: 'accept', to: candidate.to });
      } else if (open && row.line?.verdict === 'goes') {
        act({ action: 'goes' });
      } else if (open && row.line?.verdict === 'needs-source') {
        act({ action: 'source', source: row.line.source });
      } else {
        select(nextOpen(rows, row.key)); // nothing to accept here: on to the next open row
      }
    },
    reject: () => candidate && act({ action: 'reject', to: candidate.to }, false),
    choose: () => open && setDialog('choose'),
    goes: () => open && act({ action: 'goes' }),
    source: () => open && setDialog('source'),
    empty: () => row?.want && !row.want.decided && setDialog('empty'),
    joins: () => (open || (row?.want && !row.want.decided)) && setDialog('joins'),
    way: (w) => {
      const at = row?.line && feeds(row.line) ? wayOf(view, row.line.from) : undefined;
      if (at && at.choices.length > 1) {
        act({ action: 'way', way: w ?? nextWay(at) }, false);
      }
    },
    wire: () => row?.want && !row.want.decided && setDialog('wire'),
    reopen: () => (row?.line?.decided ?? row?.want?.decided) && act({ action: 'reopen' }, false),
  };
  useKey('up', () => step(-1));
  useKey('down', () => step(1));
  useKey('pageup', () => step(-14));
  useKey('pagedown', () => step(14));
  useKey('home', () => step(-1e6));
  useKey('end', () => step(1e6));
  useKey('left', () => setCandidateAt(Math.max(0, candidateAt - 1)));
  useKey('right', () => setCandidateAt(Math.min(candidates.length - 1, candidateAt + 1)));
  useKey(
    'enter',
    (e) => {
      if (!(e.target instanceof HTMLButtonElement)) {
        e.preventDefault();
        acts.accept();
      }
    },
    { preventDefault: false },
  );
  useKey('x', acts.reject);
  useKey('c', acts.choose);
  useKey('g', acts.goes);
  useKey('n', acts.source);
  useKey('e', acts.empty);
  useKey('j', acts.joins);
  useKey('w', () => (row?.want ? acts.wire() : acts.way()));
  useKey('r', acts.reopen);
  useKey('a', () => setDialog('accept'));
  useKey('v', () => setFace(face === 'wire' ? 'mating' : 'wire'));
  useKey('/', () => find.current?.focus());

  const considered = row && candidate ? toRow(view, candidate.to) : undefined;
  // What the shape in the gutter does not tell: a plain move needs no word of its own.
  const wayFor = (r: SpreadRow) => {
    const w = r.line && feeds(r.line) ? wayOf(view, r.line.from)?.way : undefined;
    return w && w !== 'move' ? wayWord[w].word : '';
  };
  const name = refName(row?.line?.from ?? row?.want?.to);
  const chosen = (to: Ref) => act({ action: 'accept', to });
  return (
    <main className="match">
      <div className="left">
        <h1 className="unseen">Match</h1>
        <Faces view={view} row={row} considered={considered} face={face} onFace={setFace} onSelect={select} />
        <Filters ref={find} view={view} filter={filter} onChange={set} onText={findText} onDone={focusRows}>
          <Button size="small" onClick={() => setDialog('housings')}>
            Connectors…
          </Button>
          <Button size="small" onClick={() => setDialog('accept')}>
            Accept above… <kbd>A</kbd>
          </Button>
        </Filters>
        <Spread
          rows={visible}
          selected={row?.key}
          considered={considered}
          fromName={view.from.name}
          toName={view.to.name}
          way={wayFor}
          onSelect={select}
        />
      </div>
      {row ? (
        <ReasonsPanel
          job={job}
          view={view}
          row={row}
          candidate={candidate}
          onCandidate={(c) => setCandidateAt(candidates.indexOf(c))}
          reason={reason}
          onReason={setReason}
          act={acts}
        />
      ) : (
        <aside className="reasons">
          <p>No row fits the filter.</p>
        </aside>
      )}
      {dialog === 'source' && (
        <SourceDialog
          name={name}
          onChoose={(source) => act({ action: 'source', source })}
          onFrom={() => setDialog('from')}
          onClose={close}
        />
      )}
      {dialog === 'empty' && (
        <EmptyDialog name={name} onChoose={(r) => act({ action: 'empty', reason: r })} onClose={close} />
      )}
      {dialog === 'joins' && row && (
        <CavityDialog
          rows={row.side === 'from' ? view.to.rows : view.from.rows}
          title={
            row.side === 'from'
              ? `Which wire does ${name} join?`
              : `From which wire does the lead to ${name} come?`
          }
          label="the other wire"
          note="The sheet makes it a sealed joint. Feeds and grounds of one kind may share a wire; two different outputs or signals never do."
          onChoose={(to) => act({ action: row.side === 'from' ? 'join' : 'branch', to })}
          onClose={close}
        />
      )}
      {dialog === 'choose' && (
        <ChooseDialog
          view={view}
          name={name}
          note={
            candidate && row?.line && sureOf(row.line, candidate) < 0.5
              ? `${refName(candidate.to)} is offered, and is no more than ${percent(sureOf(row.line, candidate))} % likely. Look at both wires before you choose.`
              : undefined
          }
          onChoose={chosen}
          onClose={close}
        />
      )}
      {dialog === 'accept' && (
        <AcceptDialog
          view={view}
          onClose={close}
          onChoose={(above) => {
            acceptAbove.mutate(
              { above, seen: view.revision },
              { onError: warn, onSuccess: (d) => notice.success(`${d.count ?? 0} matches accepted.`) },
            );
            close();
          }}
        />
      )}
      {dialog === 'wire' && (
        <OriginDialog
          view={view}
          name={name}
          onChoose={(origin) => act({ action: 'wire', origin })}
          onClose={close}
        />
      )}
      {dialog === 'from' && (
        <OriginDialog
          view={view}
          name={name}
          onChoose={(origin) => act({ action: 'source', source: 'switch', origin })}
          onClose={close}
        />
      )}
      {dialog === 'housings' && (
        <MeetDialog
          view={view}
          onClose={close}
          onChoose={(met, vehicle) => {
            meet.mutate({ met, vehicle, seen: view.revision }, { onError: warn });
            close();
          }}
        />
      )}
    </main>
  );
}
