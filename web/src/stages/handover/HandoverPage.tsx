import './handover.css';
import { useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useHandover } from '../../api/handover';
import type { HandoverView } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { useKey } from '../../keys/useKey';
import { PartTabs } from '../../work/PartTabs';
import { BookPart } from './BookPart';
import { GivePart } from './GivePart';
import { MoneyPart } from './MoneyPart';
import { OpenPart } from './OpenPart';

/** What is still open first, then what is given away: the book, drawn page by page, files, and the states that were. */
export function HandoverPage() {
  const job = useJobID();
  const view = useHandover(job);
  if (view.isError && !view.data) {
    return <main className="page problem">{explain(view.error)}</main>;
  }
  return view.data ? <Handover job={job} view={view.data} /> : <main className="page" aria-busy="true" />;
}

const parts = { open: 'Still open', book: 'The book', money: 'Time, parts, money', give: 'Give away' };

function Handover({ job, view }: { job: string; view: HandoverView }) {
  const [address, setAddress] = useSearchParams();
  const part = address.get('part') ?? 'open';
  const open = (p: string) => setAddress(p === 'open' ? {} : { part: p });
  useKey('1', () => open('open'));
  useKey('2', () => open('book'));
  useKey('3', () => open('money'));
  useKey('4', () => open('give'));
  const wires = view.pages.reduce((n, p) => n + p.wires, 0);
  const planned = view.pages.reduce((n, p) => n + p.planned, 0);
  return (
    <main className="provepage">
      <h1 className="unseen">Hand over</h1>
      <div className="standing" data-testid="handoverstanding">
        <span>
          <strong className="mono">{view.open}</strong> open, and nobody owns them
        </span>
        <span>
          <strong className="mono">{wires - planned}</strong> of {wires} wires are as built
        </span>
        <span>
          <strong className="mono">{view.pages.length}</strong> drawn pages
        </span>
        <span>
          {view.delivered.length === 0 ? 'not handed over yet' : `last: ${view.delivered.at(-1)?.name ?? ''}`}
        </span>
      </div>
      <PartTabs label="parts of Hand over" parts={parts} at={part} onOpen={open} />
      {part === 'book' ? (
        <BookPart job={job} view={view} />
      ) : part === 'money' ? (
        <MoneyPart job={job} />
      ) : part === 'give' ? (
        <GivePart job={job} view={view} />
      ) : (
        <OpenPart job={job} view={view} />
      )}
    </main>
  );
}
