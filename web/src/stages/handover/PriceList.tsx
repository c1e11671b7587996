import { Button, Modal } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { previewPrices, useTakePrices } from '../../api/handover';
import { FileButton, tables } from '../../frame/FileButton';
import type { PricedLine, PricesView } from '../../api/types.gen';
import { notice } from '../../frame/notice';

const formOf = (file: File, seen?: number) => {
  const form = new FormData();
  form.set('file', file);
  if (seen !== undefined) {
    form.set('seen', String(seen));
  }
  return form;
};

/** What a line says, and what was said before where that was something else. */
const changeOf = (was: number | string | undefined, said: number | string | undefined) =>
  said === was || !said ? '' : was ? `${said} (was ${was})` : `${said}`;

/** A supplier's list, or the order list with its prices filled in: what it would change is shown, and then taken. */
export function PriceList({ job }: { job: string }) {
  const [brought, bring] = useState<{ file: File; view: PricesView } | undefined>();
  const take = useTakePrices(job);
  const lines = brought?.view.lines ?? [];
  return (
    <>
      <FileButton
        size="small"
        label="price list"
        accept={tables}
        onFile={(file) =>
          void previewPrices(job, formOf(file)).then(
            (view) => bring({ file, view }),
            (err: unknown) => notice.warning(`${explain(err)} Nothing was kept.`),
          )
        }
      >
        Bring a price list
      </FileButton>
      {brought && (
        <Modal
          open
          width={820}
          title={`What ${brought.file.name} says`}
          onCancel={() => bring(undefined)}
          footer={
            <>
              <Button onClick={() => bring(undefined)}>Leave it</Button>
              <Button
                type="primary"
                autoFocus
                disabled={lines.length === 0}
                onClick={() =>
                  take.mutate(formOf(brought.file, brought.view.revision), {
                    onSuccess: () => bring(undefined),
                    onError: (e) => notice.warning(explain(e)),
                  })
                }
              >
                Take {lines.length} {lines.length === 1 ? 'line' : 'lines'}
              </Button>
            </>
          }
        >
          <div className="pricelist" data-testid="pricelist">
            {lines.length > 0 ? <Changes lines={lines} /> : <p>Nothing of it is new to the order list.</p>}
            {brought.view.bad.length > 0 && (
              <p className="problem">Not read: {brought.view.bad.join('; ')}.</p>
            )}
            {brought.view.unknown.length > 0 && (
              <p className="quiet">
                No line of the order list, or more than one: {brought.view.unknown.slice(0, 20).join('; ')}
                {brought.view.unknown.length > 20 && ` and ${brought.view.unknown.length - 20} more`}.
              </p>
            )}
          </div>
        </Modal>
      )}
    </>
  );
}

function Changes({ lines }: { lines: PricedLine[] }) {
  return (
    <table className="table">
      <thead>
        <tr>
          <th>what</th>
          <th>price</th>
          <th>supplier</th>
          <th>lead, days</th>
          <th>there</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => (
          <tr key={l.said.key}>
            <td>{l.what}</td>
            <td className="mono">{changeOf(l.was.price, l.said.price)}</td>
            <td>{changeOf(l.was.supplier, l.said.supplier)}</td>
            <td className="mono">{changeOf(l.was.days, l.said.days)}</td>
            <td className="mono">{changeOf(l.was.there, l.said.there)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
