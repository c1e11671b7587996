import './unsent.css';
import { useState } from 'react';
import type { Refused } from '../outbox/outbox';
import { useUnsent } from '../outbox/useOutbox';
import { later } from './later';

const NotTaken = later(async () => (await import('./NotTaken')).NotTaken);

/** What a refusal held up, for the end of its message. */
export const heldUp = (e: Refused) =>
  e.heldUp > 0
    ? ` ${e.heldUp} more that ${e.heldUp === 1 ? 'rests' : 'rest'} on it ${e.heldUp === 1 ? 'is' : 'are'} not stored: look what was done.`
    : '';

/** Says what is kept here because it has not been sent yet, or was not taken. */
export function Unsent({ job }: { job: string }) {
  const { letters, fallen, cut, loose } = useUnsent(job);
  const [open, show] = useState(false);
  return (
    <>
      {letters.length > 0 && (cut || loose || letters.length > 1) && (
        <span
          className="unsent"
          role="status"
          data-testid="unsent"
          title={
            cut
              ? 'Draxel does not answer. What was done is kept in this browser and sent when it does.'
              : 'being sent, one after the other'
          }
        >
          {letters.length} not sent yet
          {loose ? ': this browser has no room to keep it, leave the page open' : cut ? ': kept here' : ''}
        </span>
      )}
      {fallen.length > 0 && (
        <button className="unsent" data-testid="fallen" onClick={() => show(true)}>
          {fallen.length} not taken
        </button>
      )}
      {open && fallen.length > 0 && <NotTaken job={job} fallen={fallen} onClose={() => show(false)} />}
    </>
  );
}
