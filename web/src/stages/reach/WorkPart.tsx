import { Button } from 'antd';
import { Link, useNavigate } from 'react-router';
import { useKeyed } from '../../outbox/useOutbox';
import { useTick } from '../../api/work';
import { WorkRows } from '../../work/WorkRows';
import type { PartProps } from './part';

/** Route all, measure all, cut, join, cover: each step ticked with who and when. */
export function WorkPart({ job, view, onError }: PartProps) {
  const go = useNavigate();
  const tick = useTick(job);
  const keyed = useKeyed(view.revision);
  return (
    <section className="reachpart">
      <div className="bar reachbar">
        <span className="grow" data-testid="proof">
          <span aria-hidden="true">{view.proof.reached ? '✓' : '✕'}</span> {view.line}{' '}
          <Link to="../work">All stages in one list</Link>
        </span>
        <Button size="small" type="primary" onClick={() => void go('../bench?stage=reach')}>
          Bench view <kbd>B</kbd>
        </Button>
      </div>
      {view.strays.map((t) => (
        <div key={t.step} className="problem">
          “{t.text}” was done, and the plan does not ask for it any more.{' '}
          <Button
            size="small"
            onClick={() =>
              keyed(t.step, (seen) => tick.mutateAsync({ ...seen, steps: [t.step], done: false }), onError)
            }
          >
            It was not done
          </Button>
        </div>
      ))}
      <WorkRows job={job} revision={view.revision} steps={view.steps} />
    </section>
  );
}
