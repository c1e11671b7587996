import type { MouseEvent, ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import { When } from '../frame/When';
import { useTitle } from '../frame/useTitle';
import { Who } from '../frame/Who';
import { useKey } from '../keys/useKey';
import { canKeep, useKeep, useKeptSince } from './offline';
import { clock } from './useClock';
import { useSwipe } from './useSwipe';

interface Answer {
  word: string;
  key: string;
  act: () => void;
  off?: boolean;
}

interface Props {
  title: string;
  /** The address of the same at the desk. */
  desk: string;
  count: string;
  done: number;
  of: number;
  /** What is in hand, and what could not be sent yet. */
  status?: ReactNode;
  seconds: number;
  onShare?: () => void;
  back: Answer;
  middle: Answer;
  onward: Answer;
  children: ReactNode;
}

/** What every bench view has: where one is, the thing itself, and three answers that gloves can touch. */
export function BenchFrame(p: Props) {
  useTitle('Bench', p.title);
  const kept = useKeptSince();
  useKeep(useParams().job ?? '');
  const swipe = useSwipe(p.onward.act, p.back.act);
  return (
    <main className="bench" {...swipe} onClick={unfocus}>
      <header className="benchhead">
        <Link to={p.desk} aria-label={`back to ${p.title} at the desk`}>
          {p.title}
        </Link>
        <h1 data-testid="count">{p.count}</h1>
        <div className="benchbar" role="presentation">
          <div style={{ width: `${p.of ? (100 * p.done) / p.of : 0}%` }} />
        </div>
        {p.status}
        {kept > 0 && (
          <strong role="status" data-testid="kept">
            no network: as it was <When ms={kept} />
          </strong>
        )}
        <span className="mono quiet" role="timer" aria-label="time at this step">
          {clock(p.seconds)}
        </span>
        <Who />
        {p.onShare && (
          <button className="plain" onClick={p.onShare} aria-label="QR: use another device">
            QR
          </button>
        )}
      </header>
      {p.children}
      <footer className="benchfoot">
        <Touch answer={p.back} />
        <Touch answer={p.middle} />
        <Touch answer={p.onward} main />
        {!canKeep() && (
          <span className="quiet benchnote">
            Without the network this page cannot be loaded anew: it came unencrypted (--tls).
          </span>
        )}
      </footer>
    </main>
  );
}

function Touch({ answer, main }: { answer: Answer; main?: boolean }) {
  return (
    <button
      className={`benchbutton${main ? ' main' : ''}`}
      onClick={answer.act}
      disabled={answer.off ?? false}
    >
      {answer.word} <kbd>{answer.key}</kbd>
    </button>
  );
}

/** The keys of every bench view: those of a keyboard, and those that a pedal or a presenter sends. */
export function useBenchKeys(onward: () => void, back: () => void) {
  useKey('right,pagedown', onward);
  useKey('space,enter', (e) => !ownKey(e.target) && onward(), { preventDefault: false });
  useKey('left,pageup', back);
}

/** Whether a key belongs to what has the focus. */
const ownKey = (target: EventTarget | null) =>
  target instanceof HTMLButtonElement || target instanceof HTMLAnchorElement;

/** A button that was touched does not keep the focus: the next key, or a tread on the pedal, means the step. */
function unfocus(e: MouseEvent) {
  if (e.detail > 0 && document.activeElement instanceof HTMLButtonElement) {
    document.activeElement.blur();
  }
}
