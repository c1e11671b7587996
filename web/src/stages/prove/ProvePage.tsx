import './prove.css';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useProve } from '../../api/prove';
import type { ProveView } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { useKey } from '../../keys/useKey';
import { PartTabs } from '../../work/PartTabs';
import { FaultPart } from './FaultPart';
import { GatesPart } from './GatesPart';
import { RecordsPart } from './RecordsPart';
import { SheetPart } from './SheetPart';
import { SimulatedBar } from './SimulatedBar';
import { UnitPart } from './UnitPart';

/** What the meter must show, what is wrong where it does not, and power that comes on in stages. */
export function ProvePage() {
  const job = useJobID();
  const prove = useProve(job);
  if (prove.isError && !prove.data) {
    return <main className="page problem">{explain(prove.error)}</main>;
  }
  return prove.data ? <Prove job={job} view={prove.data} /> : <main className="page" aria-busy="true" />;
}

const parts = {
  sheet: 'Test sheet',
  fault: 'Find the fault',
  power: 'Power up',
  unit: 'Unit and rig',
  records: 'Records',
};

function Prove({ job, view }: { job: string; view: ProveView }) {
  const [address, setAddress] = useSearchParams();
  const go = useNavigate();
  const part = address.get('part') ?? 'sheet';
  const world: Record<string, string> = address.get('simulated') === '1' ? { simulated: '1' } : {};
  const open = (p: string) => setAddress(p === 'sheet' ? world : { part: p, ...world });
  useKey('1', () => open('sheet'));
  useKey('2', () => open('fault'));
  useKey('3', () => open('power'));
  useKey('4', () => open('unit'));
  useKey('5', () => open('records'));
  useKey('b', () => void go(`/jobs/${job}/bench?stage=prove`));
  const read = view.lines.filter((l) => l.reading && !l.again);
  const first = view.lines.filter((l) => l.first);
  return (
    <main className="provepage">
      <h1 className="unseen">Prove: what the meter must show</h1>
      <div className="standing" data-testid="provestanding">
        <span>
          <strong className="mono">{view.lines.length}</strong> measurements,{' '}
          <strong className="mono">{view.fewest}</strong> of them find every open, swap and touch
        </span>
        <span>
          <strong className="mono">{first.filter((l) => l.reading && !l.again).length}</strong> of these done
        </span>
        <span>
          <strong className="mono">{read.concat(view.others).filter((l) => !l.fits).length}</strong> out of
          band
        </span>
        <span>
          <strong className="mono">{view.gates.filter((g) => g.passed).length}</strong> of {view.gates.length}{' '}
          gates
        </span>
        <span className="grow" />
        {!view.why && (
          <>
            <Link to={`/jobs/${job}/bench?stage=prove`}>
              At the bench <kbd>B</kbd>
            </Link>
            <Link to={`/jobs/${job}/trainer`}>Trainer</Link>
          </>
        )}
      </div>
      <PartTabs label="parts of Prove" parts={parts} at={part} onOpen={open} />
      {part !== 'unit' && <SimulatedBar job={job} view={view} />}
      {view.why ? (
        <p className="proveempty">{view.why}</p>
      ) : part === 'fault' ? (
        <FaultPart job={job} view={view} />
      ) : part === 'power' ? (
        <GatesPart job={job} view={view} />
      ) : part === 'unit' ? (
        <UnitPart job={job} view={view} />
      ) : part === 'records' ? (
        <RecordsPart job={job} view={view} />
      ) : (
        <SheetPart job={job} view={view} />
      )}
    </main>
  );
}
