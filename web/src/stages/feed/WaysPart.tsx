import { Button, Input } from 'antd';
import { useState } from 'react';
import { explain, newChangeID } from '../../api/client';
import { useKeepWay, useTakeWay, useWays } from '../../api/feed';
import type { FeedFigures, FeedView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { amps } from '../../work/amps';

interface Props {
  job: string;
  view: FeedView;
  onBack: () => void;
}

type Row = [string, (f: FeedFigures) => string];

const rows: Row[] = [
  ['fuses in a block of its own', (f) => String(f.fuses)],
  ['relays in it', (f) => String(f.relays)],
  ['new wires', (f) => String(f.wires)],
  ['new wire, as far as its way is known', (f) => `${f.metres.toFixed(1)} m`],
  ['joints', (f) => String(f.joints)],
  ['steps of all stages', (f) => String(f.steps)],
  ['work of all stages', (f) => `${f.hours.toFixed(1)} h`],
  ['fuses above a wire behind them', (f) => String(f.thin)],
  ['dangers', (f) => String(f.danger)],
  ['wrong', (f) => String(f.wrong)],
  ['to check', (f) => String(f.check)],
  ['taken with the key off', (f) => amps(f.sleeps)],
  ['proven on the model', (f) => (f.reached ? 'yes' : 'NO')],
];

/** The ways to feed the job side by side, each worked out as a whole plan. */
export function WaysPart({ job, view, onBack }: Props) {
  const ways = useWays(job, view.revision, true);
  const take = useTakeWay(job);
  const keep = useKeepWay(job);
  const [name, setName] = useState('');
  const onError = (e: unknown) => notice.warning(explain(e));
  const all = ways.data?.ways ?? [];
  return (
    <div className="feedscroll">
      <div className="bar">
        <Button size="small" onClick={onBack}>
          Back to the block
        </Button>
        <span className="quiet">
          Each is worked out as a whole plan, with everything else as it is decided.
        </span>
      </div>
      {ways.isError && <div className="problem">{explain(ways.error)}</div>}
      <table className="table compare" data-testid="ways" aria-busy={!ways.data}>
        <thead>
          <tr>
            <td />
            {all.map((w) => (
              <th key={w.id} scope="col">
                {w.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([word, of]) => (
            <tr key={word}>
              <th scope="row">{word}</th>
              {all.map((w, i) => (
                <td
                  key={w.id}
                  className={`mono${i > 0 && all[0] && of(w.figures) === of(all[0].figures) ? ' quiet' : ''}`}
                >
                  {of(w.figures)}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <td />
            {all.map((w) => (
              <td key={w.id}>
                {w.id && (
                  <span className="bar" style={{ gap: 6 }}>
                    <Button
                      size="small"
                      type="primary"
                      onClick={() => take.mutate({ seen: view.revision, option: w.id }, { onError })}
                    >
                      Take
                    </Button>
                    <Button
                      size="small"
                      onClick={() => keep.mutate({ seen: view.revision, option: w.id }, { onError })}
                    >
                      Drop
                    </Button>
                  </span>
                )}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <div className="bar">
        <Input
          size="small"
          style={{ width: 280 }}
          aria-label="name of this way"
          placeholder="name, to keep it as it stands"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button
          size="small"
          disabled={!name.trim()}
          onClick={() => {
            keep.mutate({ seen: view.revision, option: newChangeID(), name: name.trim() }, { onError });
            setName('');
          }}
        >
          Keep as a way to compare
        </Button>
      </div>
    </div>
  );
}
