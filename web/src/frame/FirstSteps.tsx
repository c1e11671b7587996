import { Button } from 'antd';
import { explain } from '../api/client';
import { useDemo } from '../api/hooks';

/** What to do where nothing has been done yet. */
export function FirstSteps({ onBegin, demo }: { onBegin: () => void; demo: boolean }) {
  const trial = useDemo();
  return (
    <div className="empty firststeps">
      <h2>First steps</h2>
      <ol>
        <li>Say what is before you, in up to three questions.</li>
        <li>Bring the pinout of the harness and that of the unit: a file, or pasted from anywhere.</li>
        <li>Decide what goes where. Draxel writes the steps, in order, and proves them.</li>
      </ol>
      <div className="bar">
        <Button type="primary" onClick={onBegin}>
          Begin your own
        </Button>
        {demo && (
          <Button onClick={() => trial.mutate(true)} loading={trial.isPending}>
            Try the demo
          </Button>
        )}
        {demo && (
          <span className="quiet">three invented jobs, marked, and off the list again by one press</span>
        )}
      </div>
      {trial.error && (
        <div className="problem" role="alert">
          {explain(trial.error)}
        </div>
      )}
    </div>
  );
}

/** Says below the list what is the demonstration's, and takes it off. */
export function DemoLine() {
  const trial = useDemo();
  return (
    <p className="quiet">
      <span className="demomark">demo</span> These jobs are invented, to look round in.{' '}
      <button className="plain" onClick={() => trial.mutate(false)} disabled={trial.isPending}>
        Take the demo off the list
      </button>
      {trial.error && <span className="warned"> {explain(trial.error)}</span>}
    </p>
  );
}
