import { Button, Checkbox, Input, Radio } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useBefore } from '../../api/gather';
import { notice } from '../../frame/notice';
import { When } from '../../frame/When';
import { useDocument } from '../../outbox/useOutbox';
import type { Baseline, Before, GatherView, Unplugged } from '../../api/types.gen';
import { onEnter } from '../../keys/onEnter';

const works = [
  { value: '', label: 'not tried' },
  { value: 'works', label: 'works' },
  { value: 'did not', label: 'did not' },
  { value: 'not fitted', label: 'not fitted' },
];

/** What is proven of the vehicle before it is touched, and what it did without this and that. */
export function BeforePage({ job, view }: { job: string; view: GatherView }) {
  const keep = useBefore(job);
  const put = useDocument<Before>(
    'before',
    view.revision,
    view.before,
    (before, seen) => keep.mutateAsync({ ...seen, before }),
    (e) => notice.warning(explain(e)),
  );
  const known = new Map((view.before.baseline ?? []).map((b) => [b.function, b]));
  const names = [...view.functions, ...[...known.keys()].filter((f) => !view.functions.includes(f))];
  const setBaseline = (next: Baseline) =>
    put((before) => ({
      ...before,
      baseline: [...(before.baseline ?? []).filter((b) => b.function !== next.function), next].filter(
        (b) => b.works !== '' || b.note,
      ),
    }));
  return (
    <div className="factsbody twocolumns">
      <div className="stack">
        <h1>Before teardown</h1>
        <p className="quiet">
          Prove the vehicle before it is touched. What did not work then is not our fault later.
        </p>
        <table className="table" aria-label="baseline">
          <tbody>
            {names.map((f) => (
              <tr key={f}>
                <td>{f}</td>
                <td>
                  <Radio.Group
                    size="small"
                    optionType="button"
                    value={known.get(f)?.works ?? ''}
                    options={works}
                    aria-label={f}
                    onChange={(e) =>
                      setBaseline({
                        ...(known.get(f) ?? { function: f }),
                        works: e.target.value as Baseline['works'],
                      })
                    }
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <UnpluggedLog
        view={view}
        onAdd={(u) => put((before) => ({ ...before, unplugged: [...(before.unplugged ?? []), u] }))}
      />
    </div>
  );
}

function UnpluggedLog({ view, onAdd }: { view: GatherView; onAdd: (u: Unplugged) => void }) {
  const [item, setItem] = useState('');
  const [saw, setSaw] = useState('');
  const [keyOff, setKeyOff] = useState(false);
  const [restarted, setRestarted] = useState(false);
  const add = () => {
    if (item.trim()) {
      onAdd({ item: item.trim(), keyOff, restarted, saw: saw.trim() });
      setItem('');
      setSaw('');
      setKeyOff(false);
      setRestarted(false);
    }
  };
  return (
    <div className="stack">
      <h2>Unplugged to see what it does</h2>
      <p className="quiet">
        While the vehicle still runs: key off (battery off where the maker says), unplug one candidate,
        restart, note. Never restraint, high voltage, battery or alternator.
      </p>
      <Input
        value={item}
        placeholder="what was unplugged"
        aria-label="what was unplugged"
        onChange={(e) => setItem(e.target.value)}
      />
      <Input
        value={saw}
        placeholder="what it did then"
        aria-label="what it did then"
        onChange={(e) => setSaw(e.target.value)}
        onPressEnter={onEnter(add)}
      />
      <div className="bar">
        <Checkbox checked={keyOff} onChange={(e) => setKeyOff(e.target.checked)}>
          key was off
        </Checkbox>
        <Checkbox checked={restarted} onChange={(e) => setRestarted(e.target.checked)}>
          restarted
        </Checkbox>
        <span className="grow" />
        <Button disabled={!item.trim()} onClick={add}>
          Note it
        </Button>
      </div>
      {(view.before.unplugged ?? []).map((u, i) => (
        <div key={i} className="noted">
          <strong>{u.item}</strong> {u.restarted ? 'restarted' : 'not restarted'}
          {u.saw && `: ${u.saw}`}{' '}
          <span className="quiet">
            {u.who} {u.when ? <When ms={u.when} day /> : ''}
          </span>
        </div>
      ))}
    </div>
  );
}
