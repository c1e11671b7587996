import './gather.css';
import { Button } from 'antd';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { fileAddress, useCorrect, useJob, useDropTable, useTable, type TableKey } from '../../api/hooks';
import type { JobView, Options, TableMeta } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { notice } from '../../frame/notice';
import { Brought } from './Brought';
import { FactsPage } from './FactsPage';
import { GatherNav, tableKey, useGatherPart } from './GatherNav';
import { AddRow } from './AddRow';
import { corrected } from './corrected';
import { ImportTable } from './ImportTable';
import { PinoutRows } from './PinoutRows';
import { ReadingSide } from './ReadingSide';

export function GatherPage() {
  const id = useJobID();
  const job = useJob(id);
  const [address] = useSearchParams();
  const part = useGatherPart();
  if (!job.data) {
    return null;
  }
  if (part !== 'tables') {
    return <FactsPage job={job.data} part={part} />;
  }
  const missing: TableKey = job.data.tables.from && !job.data.tables.to ? 'to' : 'from';
  const side = tableKey(address.get('side')) ?? missing;
  return <GatherSide key={side} job={job.data} side={side} />;
}

function GatherSide({ job, side }: { job: JobView; side: TableKey }) {
  const there = job.tables[side] !== undefined;
  const [bringing, setBringing] = useState(false);
  const [asBrought, setAsBrought] = useState(false);
  const table = useTable(job.id, side, there);
  const correct = useCorrect(job.id, side);
  const drop = useDropTable(job.id, side);
  const further = side !== 'from' && side !== 'to';
  const [, setAddress] = useSearchParams();
  if (!there || bringing) {
    return (
      <ImportTable
        nav={<GatherNav job={job} side={side} />}
        job={job.id}
        side={side}
        seen={job.revision}
        origins={job.origins}
        onCancel={there ? () => setBringing(false) : further ? () => setAddress({ side: 'from' }) : undefined}
        onDone={() => {
          setBringing(false);
          if (side === 'from' && !job.tables.to) {
            setAddress({ side: 'to' });
          }
        }}
      />
    );
  }
  if (!table.data) {
    return <main className="page">{table.isError && explain(table.error)}</main>;
  }
  const view = table.data;
  const keep = (meta: TableMeta, options: Options) =>
    correct.mutate({ meta, options, seen: view.revision }, { onError: (e) => notice.warning(explain(e)) });
  return (
    <main className="gatherpage">
      <div className="left">
        <h1 className="unseen">Gather: {view.meta.name}</h1>
        <GatherNav job={job} side={side} />
        <div className="bar">
          <span className="grow quiet">
            Click on a cell to put a misprint right; the table as brought is kept.
          </span>
          <Button size="small" onClick={() => setAsBrought(!asBrought)}>
            {asBrought ? 'Rows as read' : 'Columns…'}
          </Button>
          <Button size="small" href={fileAddress(job.id, `gather/${side}/csv`)}>
            Export CSV
          </Button>
          <Button size="small" onClick={() => setBringing(true)}>
            Bring another table
          </Button>
          {further && (
            <Button
              size="small"
              onClick={() =>
                drop.mutate(
                  { seen: view.revision },
                  {
                    onSuccess: () => setAddress({ side: 'from' }),
                    onError: (e) => notice.warning(explain(e)),
                  },
                )
              }
            >
              Take it out
            </Button>
          )}
          {job.tables.from && job.tables.to && <Link to="../match">Match them →</Link>}
        </div>
        {asBrought && <Brought view={view} onOptions={(o) => keep(view.meta, o)} />}
        <PinoutRows
          rows={view.reading.rows}
          named={view.reading.columns.includes('connector')}
          onCorrect={(line, column, text) =>
            keep(view.meta, corrected(view.options, [{ line, column, text }]))
          }
          onStrike={(line) =>
            keep(view.meta, { ...view.options, gone: [...(view.options.gone ?? []), line] })
          }
        />
        <AddRow view={view} onOptions={(o) => keep(view.meta, o)} />
      </div>
      <aside className="side">
        <ReadingSide
          view={view}
          meta={view.meta}
          origins={job.origins}
          further={further}
          onMeta={(m) => keep(m, view.options)}
          onOptions={(o) => keep(view.meta, o)}
        />
      </aside>
    </main>
  );
}
