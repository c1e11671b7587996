import { useState } from 'react';
import { explain } from '../api/client';
import { listCells, previewList, useEditList, useList, type ListKind } from '../api/gather';
import type { CellEdit, SheetPreview } from '../api/types.gen';
import { FileButton, tables } from '../frame/FileButton';
import { notice } from '../frame/notice';
import { useKeyed, useUnsent } from '../outbox/useOutbox';
import { BringList, listForm } from './BringList';
import { FactGrid } from './FactGrid';
import { linesOf, withTyped, type Typed } from './typed';

/** What was typed here, and the revision in which it is: none yet while the server has not answered. */
type Own = Typed & { revision: number };

/** A list that is brought as a table, put right and added to in place. */
export function FactList({ job, kind }: { job: string; kind: ListKind }) {
  return <OneList key={`${job} ${kind}`} job={job} kind={kind} />;
}

function OneList({ job, kind }: { job: string; kind: ListKind }) {
  const list = useList(job, kind);
  const edit = useEditList(job, kind);
  const [brought, bring] = useState<{ file: File; first: SheetPreview } | undefined>();
  const keyed = useKeyed(list.data?.revision ?? 0);
  const { letters } = useUnsent(job);
  const [own, setOwn] = useState<readonly Own[]>([]);
  if (!list.data) {
    return <p className="problem">{list.isError ? explain(list.error) : ''}</p>;
  }
  const { fields, reading, revision, source } = list.data;
  const put = (edits: CellEdit[], gone?: number[]) => {
    const typed: Typed = { edits, ...(gone ? { gone } : {}) };
    const mine: Own = { ...typed, revision: Infinity };
    setOwn((all) => [...all.filter((o) => o.revision > revision), mine]);
    keyed(
      kind,
      async (seen) => {
        const says = gone
          ? `${kind}: line ${gone.join(', ')} struck out`
          : `${kind}: ${edits.map((e) => `line ${e.line}, ${e.field}: ${e.text}`).join('; ')}`;
        const done = await edit.mutateAsync({ ...seen, ...typed, says });
        setOwn((all) => all.map((o) => (o === mine ? { ...mine, revision: done.revision } : o)));
        return done;
      },
      (e) => {
        setOwn((all) => all.filter((o) => o !== mine));
        notice.warning(explain(e));
      },
    );
  };
  const waiting = letters.filter((l) => l.path === listCells(kind)).map((l) => l.body as Typed); // also what was typed before the page was loaded anew
  const shown = withTyped(
    linesOf(
      reading.rows,
      reading.rejected,
      fields.map((f) => f.name),
    ),
    reading.next,
    [...waiting, ...own.filter((o) => o.revision > revision)],
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
              (err: unknown) => notice.warning(`${explain(err)} Nothing was kept.`),
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
        rows={shown.rows}
        next={shown.next}
        onEdit={(edits) => put(edits)}
        onStrike={(line) => put([], [line])}
      />
    </>
  );
}
