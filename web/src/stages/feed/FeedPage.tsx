import './feed.css';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { explain } from '../../api/client';
import { useFeed } from '../../api/feed';
import type { FeedView } from '../../api/types.gen';
import { useJobID } from '../../frame/Frame';
import { useKey } from '../../keys/useKey';
import { BlockPart } from './BlockPart';
import { FeedWork } from './FeedWork';
import { FusesPart } from './FusesPart';
import { LivePart } from './LivePart';
import { SourcesPart } from './SourcesPart';
import { amps } from '../../work/amps';

const parts = [
  ['live', 'Live'],
  ['block', 'Block'],
  ['fuses', 'Fuses'],
  ['work', 'Work'],
  ['sources', 'What stands there'],
] as const;

/** What is live, what it carries, what protects it. */
export function FeedPage() {
  const job = useJobID();
  const feed = useFeed(job);
  if (feed.isError && !feed.data) {
    return <main className="page problem">{explain(feed.error)}</main>;
  }
  return feed.data ? <Feed job={job} view={feed.data} /> : <main className="page" aria-busy="true" />;
}

function Feed({ job, view }: { job: string; view: FeedView }) {
  const [address, setAddress] = useSearchParams();
  const asked = parts.find(([p]) => p === address.get('part'))?.[0];
  const [first] = useState(view.said ? 'live' : 'sources'); // what is said meanwhile takes nobody elsewhere
  const part = asked ?? first;
  useKey('1,2,3,4,5', (e) => {
    const chosen = parts[Number(e.key) - 1];
    if (chosen) {
      setAddress({ part: chosen[0] });
    }
  });
  return (
    <main className="feedpage">
      <h1 className="unseen">Feed: what is live, what it carries and what protects it</h1>
      {view.said ? (
        <Standing view={view} />
      ) : (
        // Its place is kept, so that nothing moves under the hand when the first reply has something to say.
        <div className="standing quiet">Nothing is reckoned yet: first say what stands in the vehicle.</div>
      )}
      <nav className="sides" aria-label="parts of Feed">
        {parts.map(([p, word], i) => (
          <Link key={p} to={`?part=${p}`} className={p === part ? 'on' : ''}>
            <kbd>{i + 1}</kbd> {word}
          </Link>
        ))}
      </nav>
      {part === 'sources' && <SourcesPart job={job} view={view} />}
      {part !== 'sources' && !view.said && (
        <div className="empty">
          <p>Nothing is said yet of sources, fuses and switches: with them Draxel reckons what is live.</p>
          <Link to="?part=sources">Say what stands there</Link>
        </div>
      )}
      {part === 'block' && view.said && <BlockPart job={job} view={view} />}
      {part === 'work' && view.said && <FeedWork job={job} view={view} />}
      {part === 'live' && view.said && <LivePart job={job} view={view} />}
      {part === 'fuses' && view.said && <FusesPart job={job} view={view} />}
    </main>
  );
}

function Standing({ view }: { view: FeedView }) {
  const above = view.fuses.filter((f) => f.unsaved).length;
  const bare = view.unprotected.filter((b) => !b.starter).length;
  const days =
    view.days > 0
      ? `, flat in ${view.days < 3 ? `${(view.days * 24).toFixed(0)} h` : `${view.days.toFixed(0)} days`}`
      : '';
  return (
    <div className="standing" data-testid="standing">
      <span>
        <strong className="mono">{amps(view.takes)}</strong> with everything on
      </span>
      <span>
        <strong className="mono">{above}</strong> {above === 1 ? 'fuse' : 'fuses'} above their wire
      </span>
      <span>
        <strong className="mono">{bare}</strong> wires without a fuse before them
      </span>
      <span>
        key off <strong className="mono">{amps(view.sleeps)}</strong>
        {days}
      </span>
    </div>
  );
}
