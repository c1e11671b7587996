import { App } from 'antd';
import { useState } from 'react';
import { explain } from '../api/client';
import { previewList, useEditList, useList, type ListKind } from '../api/gather';
import type { CellEdit, SheetPreview } from '../api/types.gen';
import { FileButton, tables } from '../frame/FileButton';
import { useKeyed } from '../outbox/useOutbox';
import { BringList, listForm } from './BringList';
import { FactGrid } from './FactGrid';

/** A list that is brought as a table, put right and added to in place. */
export function FactList({ job, kind }: { job: string; kind: ListKind }) {
  const list = useList(job, kind);
  const edit = useEditList(job, kind);
  const [brought, bring] = useState<{ file: File; first: SheetPreview } | undefined>();
  const { message } = App.useApp();
  const keyed = useKeyed(list.data?.revision ?? 0);
  if (!list.data) {
    return <p className="problem">{list.isError ? explain(list.error) : ''}</p>;
  }
  const { fields, reading, revision, source } = list.data;
  const put = (edits: CellEdit[], gone?: number[]) =>
    keyed(
      kind,
      (seen) => edit.mutateAsync({ ...seen, edits, ...(gone ? { gone } : {}) }),
      (e) => void message.warning(explain(e)),
    );
  return (
    <>
      <div className="bar">
        <span className="grow quiet">
          Arrows move, typing or Enter edits, a block from a spreadsheet is pasted where the cell is,
          Ctrl+Delete strikes a line out. {source && `Source: ${source}.`}
        </span>
        <FileButton
          size="small"
          label={`list of ${kind}`}
          accept={tables}
          onFile={(file) =>
            void previewList(job, kind, listForm(file, kind, revision, {})).then(
              (first) => bring({ file, first }),
              (err: unknown) => void message.warning(`${explain(err)} Nothing was kept.`),
            )
          }
        >
          Bring a table
        </FileButton>
      </div>
      {reading.rejected.length > 0 && (
        <div className="problem" data-testid="rejected">
          {reading.rejected.length} lines are not taken:{' '}
          {reading.rejected
            .slice(0, 4)
            .map((r) => `line ${r.line}, ${r.text}`)
            .join('; ')}
        </div>
      )}
      {brought && (
        <BringList
          job={job}
          kind={kind}
          seen={revision}
          file={brought.file}
          first={brought.first}
          onClose={() => bring(undefined)}
        />
      )}
      <FactGrid
        label={`list of ${kind}`}
        fields={fields}
        rows={reading.rows}
        next={reading.next}
        onEdit={(edits) => put(edits)}
        onStrike={(line) => put([], [line])}
      />
    </>
  );
}
