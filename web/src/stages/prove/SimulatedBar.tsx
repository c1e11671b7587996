import { Button } from 'antd';
import { useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useStandin } from '../../api/prove';
import type { ProveView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { useAddress } from './useMeter';

/** A simulated vehicle of this harness with its meter, unit and rig: started, told while it runs, and stopped. */
export function SimulatedBar({ job, view, start }: { job: string; view: ProveView; start?: boolean }) {
  const bench = view.bench ?? { on: false };
  const [, setAddress] = useSearchParams();
  const show = (simulated: boolean) =>
    setAddress((old) => {
      const next = new URLSearchParams(old);
      if (simulated) {
        next.set('simulated', '1');
      } else {
        next.delete('simulated');
      }
      return next;
    });
  const run = useStandin(job);
  const [, setMeter] = useAddress('meter');
  const [, setUnit] = useAddress('unit');
  const [, setRig] = useAddress('rig');
  const put = (on: boolean, seed: number) =>
    run.mutate(
      { on, ...(seed ? { seed } : {}) },
      {
        onSuccess: (b) => {
          setMeter(b.meter ?? '');
          setUnit(b.unit ?? '');
          setRig(b.rig ?? '');
          show(on);
        },
        onError: (e) => notice.warning(explain(e)),
      },
    );
  if (!bench.on) {
    return (
      start && (
        <div className="bar">
          <span className="quiet">
            No meter or unit at hand? A simulated vehicle of this harness answers like one.
          </span>
          <Button size="small" onClick={() => show(false)}>
            Back to the real one
          </Button>
          <Button size="small" loading={run.isPending} onClick={() => put(true, 0)}>
            Start it in order
          </Button>
          <Button
            size="small"
            disabled={run.isPending}
            onClick={() => put(true, 1 + Math.floor(Math.random() * 1e6))}
          >
            Start it with something wrong
          </Button>
        </div>
      )
    );
  }
  if (!view.simulated) {
    return (
      <div className="bar simulatedbeside" role="status" data-testid="simulation-runs">
        <span className="grow">
          A simulated vehicle runs on this job. What is read here is the real one&apos;s and goes into the
          job.
        </span>
        <Button size="small" onClick={() => show(true)}>
          Show the simulated one
        </Button>
      </div>
    );
  }
  return (
    <div className="simulated" role="status" data-testid="simulated">
      <span className="grow">
        <strong>SIMULATED</strong> vehicle {bench.hides ? 'with something wrong' : 'in order'}. What is read
        and kept on this page is its own: nothing of it comes into the job. Meter{' '}
        <span className="mono">{bench.meter}</span>, unit <span className="mono">{bench.unit}</span>, rig{' '}
        <span className="mono">{bench.rig}</span>.
      </span>
      <Button size="small" onClick={() => show(false)}>
        Back to the real one
      </Button>
      <Button size="small" loading={run.isPending} onClick={() => put(false, 0)}>
        Stop it
      </Button>
    </div>
  );
}
