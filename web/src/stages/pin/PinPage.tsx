import './pin.css';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { usePin } from '../../api/hooks';
import { useJobID } from '../../frame/Frame';
import { useKey } from '../../keys/useKey';
import { CheckPart } from './CheckPart';
import { FacesPart } from './FacesPart';
import { PartsPart } from './PartsPart';
import { SheetPart } from './SheetPart';

const parts = [
  ['sheet', 'Sheet'],
  ['faces', 'Faces'],
  ['parts', 'Parts and spares'],
  ['check', 'Second check'],
] as const;

export function PinPage() {
  const job = useJobID();
  const pin = usePin(job);
  const [address, setAddress] = useSearchParams();
  const go = useNavigate();
  const part = parts.find(([p]) => p === address.get('part'))?.[0] ?? 'sheet';
  useKey('1,2,3,4', (e) => {
    const chosen = parts[Number(e.key) - 1];
    if (chosen) {
      setAddress({ part: chosen[0] });
    }
  });
  useKey('b', () => void go(`../bench?stage=${part === 'check' ? 'check' : 'pin'}`));
  if (pin.isError && !pin.data) {
    return <main className="page problem">{explain(pin.error)}</main>;
  }
  if (!pin.data) {
    return <main className="page" aria-busy="true" />;
  }
  const view = pin.data;
  return (
    <main className="pinpage">
      <h1 className="unseen">Pin: the re-pin sheet</h1>
      <div className="bar pinnav">
        <nav className="sides" aria-label="parts of Pin">
          {parts.map(([p, word], i) => (
            <Link key={p} to={`?part=${p}`} className={p === part ? 'on' : ''}>
              {word} <kbd>{i + 1}</kbd>
            </Link>
          ))}
        </nav>
      </div>
      {part === 'sheet' && <SheetPart job={job} view={view} />}
      {part === 'faces' && <FacesPart job={job} />}
      {part === 'parts' && <PartsPart job={job} view={view} />}
      {part === 'check' && <CheckPart job={job} />}
    </main>
  );
}
