import { Modal } from 'antd';
import { explain } from '../../api/client';
import { useCompared, type Other } from '../../api/handover';
import type { Difference } from '../../api/types.gen';

const kinds: Record<Difference['kind'], string> = {
  wire: 'wire',
  end: 'ends',
  colour: 'colour',
  size: 'size',
  length: 'length',
  state: 'state',
  setting: 'setting of the unit',
  decision: 'decision',
};

/** What differs between a state that was kept, or another job, and the job as it is. */
export function Changed({ job, other, onClose }: { job: string; other: Other; onClose: () => void }) {
  const compared = useCompared(job, other);
  const v = compared.data;
  return (
    <Modal
      open
      title={v ? `${v.was}, and ${v.is}` : 'Comparing'}
      onCancel={onClose}
      footer={null}
      width={900}
    >
      {compared.isError && <div className="problem">{explain(compared.error)}</div>}
      {v?.all === 0 && <p>✓ Nothing differs: decisions, wires, lengths and settings are the same.</p>}
      {v && v.all > 0 && (
        <>
          <p>
            <strong className="mono">{v.all}</strong> differences
            {v.all > v.differences.length ? `, the first ${v.differences.length} of them` : ''}.
          </p>
          <div className="changed">
            <table className="table" aria-label="differences" data-testid="differences">
              <thead>
                <tr>
                  <th>what</th>
                  <th>of</th>
                  <th>was</th>
                  <th>is</th>
                </tr>
              </thead>
              <tbody>
                {v.differences.map((d) => (
                  <tr key={`${d.kind} ${d.at}`}>
                    <td>{kinds[d.kind]}</td>
                    <td className="mono">{d.kind === 'setting' ? '' : d.at}</td>
                    <td>{d.was || <span className="quiet">not there</span>}</td>
                    <td>{d.is || <span className="quiet">gone</span>}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </Modal>
  );
}
