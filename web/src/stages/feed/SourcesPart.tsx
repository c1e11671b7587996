import { Button } from 'antd';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useTakeUsual, useUsual } from '../../api/feed';
import type { FeedView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { FactList } from '../../lists/FactList';
import { listWords } from './lists';
import { UsualDialog } from './UsualDialog';

/** What stands in the vehicle beside its wires, as lists. */
export function SourcesPart({ job, view }: { job: string; view: FeedView }) {
  const [address, setAddress] = useSearchParams();
  const kind = view.lists.find((l) => l.kind === address.get('list'))?.kind ?? 'sources';
  const usual = useUsual(job, view.revision);
  const looked = useTakeUsual(job);
  const [asked, ask] = useState(false);
  const proposed = usual.data?.lines ?? [];
  const unlooked = view.findings.find((f) => f.code === 'usual-not-looked' && f.subject === kind);
  return (
    <div className="feedlists">
      <div className="bar">
        {view.lists.map((l) => (
          <button
            key={l.kind}
            className={`plain listtab${l.kind === kind ? ' on' : ''}`}
            aria-pressed={l.kind === kind}
            onClick={() => setAddress({ part: 'sources', list: l.kind }, { replace: true })}
          >
            {listWords[l.kind]?.[0] ?? l.kind} <span className="quiet mono">{l.rows}</span>
          </button>
        ))}
        <span className="grow" />
        {proposed.length > 0 && (
          <Button size="small" onClick={() => ask(true)}>
            What a vehicle usually has…
          </Button>
        )}
      </div>
      <p className="quiet">
        {listWords[kind]?.[1]} A place is a cavity (<span className="mono">F-3</span>) or a name of its own (
        <span className="mono">battery +</span>, <span className="mono">body</span>).
      </p>
      {kind === 'switches' && view.measured.length > 0 && (
        <p data-testid="measured">As measured: {view.measured.join('; ')}.</p>
      )}
      {unlooked && (
        <p className="finding">
          {unlooked.text} {unlooked.remedy}{' '}
          <Button
            size="small"
            onClick={() =>
              looked.mutate({ seen: view.revision, so: kind }, { onError: (e) => notice.warning(explain(e)) })
            }
          >
            All of this list is so
          </Button>
        </p>
      )}
      {asked && (
        <UsualDialog job={job} revision={view.revision} lines={proposed} onClose={() => ask(false)} />
      )}
      <FactList key={kind} job={job} kind={kind} />
    </div>
  );
}
