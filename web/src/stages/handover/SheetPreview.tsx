import { Modal } from 'antd';
import { explain } from '../../api/client';
import { useSheets } from '../../api/handover';
import { fileAddress } from '../../api/hooks';

/** A sheet for somebody else, as it is printed. */
export function SheetPreview({ job, sheet, onClose }: { job: string; sheet: string; onClose: () => void }) {
  const sheets = useSheets(job);
  const s = sheets.data?.sheets.find((x) => x.id === sheet);
  return (
    <Modal
      open
      title={s?.title ?? 'The sheet'}
      onCancel={onClose}
      width={820}
      footer={<a href={fileAddress(job, `handover/sheet/${sheet}.pdf`)}>as PDF</a>}
    >
      {sheets.isError && <p className="problem">{explain(sheets.error)}</p>}
      <div className="preview" data-testid="preview">
        {s && <p className="quiet">{s.for}</p>}
        {s?.parts.map((p) => (
          <section key={p.title}>
            <h3>{p.title}</h3>
            {p.lines.length === 0 ? (
              <p className="quiet">{p.empty}</p>
            ) : (
              <ul className={p.boxes ? 'boxes' : ''}>
                {p.lines.map((line, i) => (
                  <li key={i}>{line}</li>
                ))}
              </ul>
            )}
          </section>
        ))}
      </div>
    </Modal>
  );
}
