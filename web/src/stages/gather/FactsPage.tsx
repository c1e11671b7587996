import { explain } from '../../api/client';
import { useGather } from '../../api/gather';
import type { JobView } from '../../api/types.gen';
import { BeforePage } from './BeforePage';
import { ConnectorsPage } from './ConnectorsPage';
import { GatherNav, type GatherPart } from './GatherNav';
import { ListsPage } from './ListsPage';
import { ReadingsPage } from './ReadingsPage';
import { VehiclesPage } from './VehiclesPage';

/** Everything of Gather beside the two pinouts. */
export function FactsPage({ job, part }: { job: JobView; part: Exclude<GatherPart, 'tables'> }) {
  const facts = useGather(job.id);
  if (facts.isError) {
    return <main className="page problem">{explain(facts.error)}</main>;
  }
  const view = facts.data;
  return (
    <main className="factspage">
      <GatherNav job={job} />
      {view && part === 'vehicles' && (
        <VehiclesPage job={job.id} view={view} key={JSON.stringify(view.identity)} />
      )}
      {view && part === 'before' && <BeforePage job={job.id} view={view} />}
      {view && part === 'connectors' && <ConnectorsPage job={job.id} view={view} />}
      {view && part === 'lists' && <ListsPage job={job.id} view={view} />}
      {view && part === 'readings' && <ReadingsPage job={job.id} view={view} />}
    </main>
  );
}
