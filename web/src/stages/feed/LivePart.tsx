import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { feedFile, useFeedTree, type Fault } from '../../api/feed';
import type { Feeder, FeedView, LiveLine } from '../../api/types.gen';
import { KeyTabs, SwitchTabs } from '../../work/KeyTabs';
import { useKey } from '../../keys/useKey';
import { FeedReasons } from './FeedReasons';
import { FeedTree } from './FeedTree';
import { LiveTable } from './LiveTable';

const keyOf: Record<string, string> = { off: 'o', accessory: 'a', run: 'r', crank: 'c', running: 'e' };
const wordOf: Record<string, string> = { running: 'run, engine running' };

/** What is live in a position of the key, as a tree, and what would be if. */
export function LivePart({ job, view }: { job: string; view: FeedView }) {
  const [address, setAddress] = useSearchParams();
  const position = view.positions.find((p) => p.name === address.get('key'))?.name ?? 'run';
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [chosen, choose] = useState('');
  const [fault, ask] = useState<Fault | undefined>();
  const [spot, point] = useState<LiveLine | undefined>();
  const table = address.get('as') === 'table';
  const [on, setOn] = useState<string[]>(view.closed);
  const other = on.join('\n') !== view.closed.join('\n');
  const asked = useFeedTree(job, view.revision, position, on, other);
  const tree = (other ? asked.data?.tree : undefined) ?? view.trees[position] ?? [];
  const led = address.get('sel'); // by a finding: a device, a relay, a wire
  const sel =
    chosen || (tree.find((f) => [f.id, f.name, f.device, f.thin].includes(led ?? '')) ?? tree[0])?.id || '';
  const turn = (name: string) => {
    setAddress({ part: 'live', key: name, ...(table ? { as: 'table' } : {}) }, { replace: true });
  };
  const look = () => {
    setAddress({ part: 'live', key: position, ...(table ? {} : { as: 'table' }) }, { replace: true });
    ask(undefined);
  };
  useKey('l', look);
  useKey(Object.values(keyOf).join(','), (e) => {
    const name = Object.entries(keyOf).find(([, k]) => k === e.key.toLowerCase())?.[0];
    if (name) {
      turn(name);
    }
  });
  const open = (key: string, first: string) => {
    setOpened(new Set([...opened, key]));
    choose(first);
  };
  const pick = (key: string) => {
    choose(key);
    ask(undefined);
  };
  const feeder: Feeder | undefined = table && spot ? feederOf(spot) : tree.find((f) => f.id === sel);
  return (
    <div className="feedgrid">
      <div className="feedmain">
        <KeyTabs
          positions={view.positions}
          at={position}
          onTurn={turn}
          word={(name) => (
            <>
              <kbd>{keyOf[name]?.toUpperCase()}</kbd> {wordOf[name] ?? name}
            </>
          )}
        >
          <span className="grow" />
          <button className="plain" onClick={look}>
            <kbd>L</kbd> {table ? 'as a tree' : 'as a table'}
          </button>
          {!table && opened.size > 0 && (
            <button className="plain" onClick={() => setOpened(new Set())}>
              fold what is alike
            </button>
          )}
          <a href={feedFile(job, 'spice', position)} title="the network in this position, as a SPICE netlist">
            netlist
          </a>
          <a href={feedFile(job, 'dot', position)} title="this tree in the DOT language">
            DOT
          </a>
        </KeyTabs>
        <SwitchTabs
          label="switches of their own"
          switches={view.switches}
          on={on}
          onFlip={(next) => setOn(view.switches.filter((x) => next.includes(x)))}
        />
        {table ? (
          <LiveTable
            job={job}
            revision={view.revision}
            position={position}
            on={on}
            chosen={spot?.name ?? ''}
            onChoose={(x) => {
              point(x);
              ask(undefined);
            }}
          />
        ) : (
          <>
            <FeedTree tree={tree} opened={opened} chosen={sel} onChoose={pick} onOpen={open} />
            {view.unfed.length > 0 && (
              <div className="feedunfed" data-testid="unfed">
                <strong>Led to by nothing that a source feeds:</strong> {view.unfed.slice(0, 14).join(', ')}
                {view.unfed.length > 14 && ` and ${view.unfed.length - 14} more`}.
              </div>
            )}
            <Legend />
          </>
        )}
      </div>
      <aside className="side">
        <FeedReasons
          job={job}
          view={view}
          tree={tree}
          position={position}
          on={on}
          feeder={feeder}
          fault={fault}
          onAsk={ask}
        />
      </aside>
    </div>
  );
}

/** A line of the table as a thing that can be asked about. */
const feederOf = (s: LiveLine): Feeder => ({
  id: s.name,
  name: s.name,
  kind: s.kind === 'wire' ? 'wire' : s.kind === 'cable' ? 'cable' : 'load',
  parent: -1,
  at: s.fuse ? `behind fuse ${s.fuse} of ${s.rating} A` : '',
  depth: 0,
  amps: s.amps,
  volts: s.volts,
  live: s.live,
  band: s.amps,
  drop: s.drop,
  ...(s.carries ? { carries: s.carries, thin: s.name } : {}),
});

function Legend() {
  return (
    <div className="feedlegend quiet">
      <svg width="84" height="22" aria-hidden="true">
        <path d="M2 11H82" className="band edge" strokeWidth="15" />
        <path d="M2 11H82" className="band page" strokeWidth="13" />
        <path d="M2 11H82" className="band ink" strokeWidth="7" />
      </svg>
      <span>
        the outline is what the wire may carry, the ink what it carries: wider by as much with every doubling
      </span>
      <svg width="40" height="10" aria-hidden="true">
        <path d="M2 5H38" className="band dead" />
      </svg>
      <span>no current</span>
      <span>▲ a wire in it carries more than it may</span>
      <span>
        <kbd>←</kbd> <kbd>→</kbd> along, <kbd>↑</kbd> <kbd>↓</kbd> across, <kbd>Enter</kbd> opens what is
        folded
      </span>
    </div>
  );
}
