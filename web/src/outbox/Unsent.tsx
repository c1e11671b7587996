import type { Refused } from './outbox';
import { useUnsent } from './useOutbox';

/** What a refusal held up, for the end of its message. */
export const heldUp = (e: Refused) =>
  e.heldUp > 0
    ? ` ${e.heldUp} more that ${e.heldUp === 1 ? 'was' : 'were'} made after it ${e.heldUp === 1 ? 'is' : 'are'} not stored: look what was done.`
    : '';

/** Says what is kept here because it has not been sent yet. */
export function Unsent({ job }: { job: string }) {
  const { letters, cut } = useUnsent(job);
  return (
    letters.length > 0 &&
    (cut || letters.length > 1) && (
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
        {letters.length} not sent yet{cut ? ': kept here' : ''}
      </span>
    )
  );
}
