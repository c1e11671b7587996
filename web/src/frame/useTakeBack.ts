import { explain, ProblemError } from '../api/client';
import { useRedo, useUndo } from '../api/hooks';
import type { Done } from '../api/types.gen';
import { outboxOf } from '../outbox/outbox';
import { changeWord } from './changes.gen';
import { askFirst, notice } from './notice';

/** Which change it was, in words. */
const which = (d: Done) =>
  `${changeWord[d.what ?? ''] ?? d.what ?? 'the last change'} ${d.about ?? (d.count === 1 || !d.count ? '' : `${d.count} rows`)}`.trim();

/**
 * Takes changes back, and does again what was taken back. What has not been sent yet is just not sent. Without a number of
 * the history it is one's own last change; what somebody else has written over since is passed by, and told.
 */
export function useTakeBack(job: string) {
  const undo = useUndo(job);
  const redo = useRedo(job);
  const takeBack = (of?: number) => {
    if (!of && outboxOf(job).takeBack()) {
      notice.info('Taken back: what was not sent yet.');
      return;
    }
    undo
      .mutateAsync(of ? { of } : {})
      .then((done) => {
        const passed = done.skipped?.length
          ? ` Passed by, since somebody else has changed it: ${done.skipped.join('; ')}.`
          : '';
        notice.info(`Taken back: ${which(done)}.${passed}`, passed ? 8 : undefined);
      })
      .catch((error: unknown) => {
        if (error instanceof ProblemError && error.problem.code === 'undo-of-another') {
          askFirst({
            title: 'Take back somebody else’s change?',
            content: error.message,
            okText: 'Take it back',
            cancelText: 'Leave it',
            onOk: () => takeBack(Number(error.problem.pointer)),
          });
          return;
        }
        notice.warning(explain(error));
      });
  };
  const doAgain = () => {
    redo.mutateAsync({}).then(
      (done) => notice.info(`Done again: ${which(done)}.`),
      (error: unknown) => notice.warning(explain(error)),
    );
  };
  return { takeBack, doAgain };
}
