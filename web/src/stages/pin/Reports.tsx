import { Button } from 'antd';
import { useState } from 'react';
import { useSettle } from '../../api/pin';
import type { PinView, Report } from '../../api/types.gen';
import { refName } from '../../harness/cavity';
import { SeverityMark } from '../../frame/SeverityMark';
import { ReasonDialog } from '../../work/ReasonDialog';

/** What was found otherwise than expected and is not settled yet. */
export function Reports({
  job,
  view,
  onError,
}: {
  job: string;
  view: PinView;
  onError: (e: unknown) => void;
}) {
  const [asked, ask] = useState<Report | undefined>();
  const settle = useSettle(job);
  const open = view.reports.filter((r) => !r.settled);
  return (
    <>
      {open.map((r) => {
        const f = view.findings.find(
          (x) =>
            x.code === `found-${r.what}` &&
            x.subject === (r.what === 'lock' ? r.at.connector : refName(r.at)),
        );
        return (
          <div key={r.id} className="inreasons" data-testid="report">
            <SeverityMark severity="wrong" /> {f?.text ?? r.what} <span className="quiet">{f?.remedy}</span>{' '}
            <Button size="small" onClick={() => ask(r)}>
              Settle…
            </Button>
          </div>
        );
      })}
      {asked && (
        <ReasonDialog
          title="How was it settled?"
          why="It stands in the job’s history, and the plan goes on."
          onClose={() => ask(undefined)}
          onReason={(settled) => {
            settle.mutate({ report: asked.id, settled, seen: view.revision }, { onError });
            ask(undefined);
          }}
        />
      )}
    </>
  );
}
