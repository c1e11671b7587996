import { Button, Checkbox, Modal } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useTakeUsual } from '../../api/feed';
import type { Proposed } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { listWords } from './lists';

/** The fields of a proposed line in words, its name and its note left out. */
const saysOf = (p: Proposed) =>
  [
    p.cells.kind,
    [p.cells.plus ?? p.cells.in ?? p.cells.from, p.cells.out ?? p.cells.to ?? p.cells.minus]
      .filter(Boolean)
      .join(' → '),
    p.cells.coilplus && `coil ${p.cells.coilplus}, ${p.cells.coilminus}`,
    p.cells.common && `${p.cells.common} → ${p.cells.make ?? p.cells.break}`,
    p.cells.closed && `closed in ${p.cells.closed}`,
    p.cells.rating && `${p.cells.rating} A`,
    p.cells.volts && `${p.cells.volts} V`,
    p.cells.amps && `${p.cells.amps} A`,
    p.cells.size && `${p.cells.size} mm²`,
    p.cells.length && `${p.cells.length} mm`,
  ]
    .filter(Boolean)
    .join(', ');

interface Props {
  job: string;
  revision: number;
  lines: Proposed[];
  onClose: () => void;
}

/** What a vehicle usually has, line by line, to be taken or left: nothing of it is reckoned with before. */
export function UsualDialog({ job, revision, lines, onClose }: Props) {
  const take = useTakeUsual(job);
  const key = (p: Proposed) => `${p.list} ${p.name}`;
  const [left, leave] = useState<ReadonlySet<string>>(new Set());
  const taken = lines.filter((p) => !left.has(key(p)));
  const flip = (p: Proposed) => {
    const next = new Set(left);
    if (!next.delete(key(p))) {
      next.add(key(p));
    }
    leave(next);
  };
  return (
    <Modal
      open
      width={860}
      title="What a vehicle usually has"
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button
            type="primary"
            autoFocus
            disabled={taken.length === 0}
            onClick={() =>
              take.mutate(
                { seen: revision, lines: taken.map((p) => ({ list: p.list, name: p.name })) },
                { onSuccess: onClose, onError: (e) => notice.warning(explain(e)) },
              )
            }
          >
            Take {taken.length} {taken.length === 1 ? 'line' : 'lines'}
          </Button>
        </>
      }
    >
      <p className="quiet">
        Common practice, and what the wires of the lists show. Each line that is taken bears the note that
        nobody has looked at it, until somebody has.
      </p>
      <div className="usual" data-testid="usual">
        <table className="table">
          <tbody>
            {lines.map((p, i) => (
              <tr key={key(p)}>
                <td className="quiet oneline">
                  {lines[i - 1]?.list === p.list ? '' : (listWords[p.list]?.[0] ?? p.list)}
                </td>
                <td>
                  <Checkbox checked={!left.has(key(p))} onChange={() => flip(p)}>
                    <strong>{p.name}</strong>
                  </Checkbox>
                </td>
                <td className="mono">{saysOf(p)}</td>
                <td className="quiet">{p.why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Modal>
  );
}
