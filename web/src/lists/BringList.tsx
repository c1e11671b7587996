import { Button, Modal, Select } from 'antd';
import { useRef, useState } from 'react';
import { explain } from '../api/client';
import { previewList, useImportList, type ListKind } from '../api/gather';
import type { SheetPreview } from '../api/types.gen';
import { FocusAt } from '../keys/FocusAt';

interface Props {
  job: string;
  kind: ListKind;
  seen: number;
  file: File;
  first: SheetPreview;
  onClose: () => void;
}

/** What is sent with a list that is brought. */
export function listForm(file: File, kind: ListKind, seen: number, map: Record<string, string>): FormData {
  const form = new FormData();
  form.set('file', file);
  form.set('seen', String(seen));
  form.set('map', JSON.stringify(map));
  form.set('meta', JSON.stringify({ name: kind, source: file.name, trust: 'copied' }));
  return form;
}

/** A list as it would be read: the person says what a column holds where its heading does not, and then keeps it. */
export function BringList({ job, kind, seen, file, first, onClose }: Props) {
  const [view, setView] = useState(first);
  const [map, setMap] = useState<Record<string, string>>({});
  const [error, setError] = useState<string | undefined>();
  const keep = useImportList(job, kind);
  const button = useRef<HTMLButtonElement>(null);
  const say = (column: number, field: string) => {
    const next = { ...map, [String(column)]: field };
    setMap(next);
    previewList(job, kind, listForm(file, kind, seen, next)).then(
      (v) => {
        setView(v);
        setError(undefined);
      },
      (e: unknown) => setError(explain(e)),
    );
  };
  const width = Math.max(0, ...view.sample.map((line) => line.length));
  const problem =
    error ?? view.problem ?? (keep.error ? `${explain(keep.error)} Nothing was kept.` : undefined);
  return (
    <Modal
      open
      width={1000}
      title={`Is ${file.name} read right?`}
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button
            ref={button}
            type="primary"
            disabled={view.rows === 0}
            loading={keep.isPending}
            onClick={() => keep.mutate(listForm(file, kind, seen, map), { onSuccess: onClose })}
          >
            Keep this list
          </Button>
        </>
      }
    >
      <p data-testid="reading">
        {view.rows} lines taken, {view.rejected} not.
      </p>
      {problem && (
        <div className="problem" role="alert">
          {problem}
        </div>
      )}
      <div className="brought" style={{ marginTop: 8, maxHeight: 360, overflow: 'auto' }}>
        <table className="table">
          <thead>
            <tr>
              {Array.from({ length: width }, (_, c) => (
                <th key={c}>
                  <Select
                    size="small"
                    style={{ width: 116 }}
                    aria-label={`column ${c + 1}`}
                    value={view.columns[c] ?? ''}
                    onChange={(v: string) => say(c, v)}
                    options={[
                      { value: '', label: 'passed over' },
                      ...view.fields.map((f) => ({ value: f.name, label: fieldName(f.name, f.title) })),
                    ]}
                  />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {view.sample.map((line, i) => (
              <tr key={i}>
                {Array.from({ length: width }, (_, c) => (
                  <td key={c}>{line[c]}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <FocusAt field={button} />
    </Modal>
  );
}

/** Two fields of the wire list are called "Cavity". */
const fieldName = (name: string, title: string) =>
  name === 'fromCavity' ? 'From cavity' : name === 'toCavity' ? 'To cavity' : title;
