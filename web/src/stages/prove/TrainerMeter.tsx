import { AutoComplete, Button, Checkbox, Select } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useRoundRead } from '../../api/prove';
import type { ProveView, Setup, TrainView } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { refName } from '../../harness/cavity';
import { Faces } from './Faces';
import { shown } from './words';

/** A measurement that was made in a round. */
export interface Walk {
  text: string;
  how: string;
  shown: string;
}

interface Props {
  job: string;
  level: number;
  seed: number;
  round: TrainView;
  view: ProveView;
  onWalk: (w: Walk) => void;
}

const words = (s: Setup) =>
  [
    s.battery ? `key in ${s.key ?? 'off'}` : 'battery off',
    s.units ? 'everything plugged in' : 'units unplugged',
    ...(s.pulled ? ['fuses out'] : []),
  ].join(', ');

/** The meter of the trainer: two probes, what is measured, and how the vehicle stands. */
export function TrainerMeter({ job, level, seed, round, view, onWalk }: Props) {
  const [a, setA] = useState('');
  const [b, setB] = useState('battery −');
  const [setup, stand] = useState<Setup>(round.told.setup);
  const [text, show] = useState<string | undefined>();
  const read = useRoundRead(job);
  const measure = (kind: 'volts' | 'ohms') => {
    const m = { id: '', kind, a, b, setup: kind === 'ohms' ? { ...setup, battery: false } : setup };
    read.mutate(
      { level, seed, measure: m },
      {
        onSuccess: (x) => {
          const value = shown(kind, x.value, x.over);
          show(value);
          onWalk({
            text: `${kind === 'ohms' ? 'Ω' : 'V'} from ${a} to ${b}`,
            how: words(m.setup),
            shown: value,
          });
        },
        onError: (e) => notice.warning(explain(e)),
      },
    );
  };
  const spots = [a, b].flatMap((p) => view.wires.filter((w) => refName(w.at) === p).map((w) => w.at));
  return (
    <section className="unitpart" aria-label="meter">
      <div className="metershows mono" data-testid="shows">
        {text ?? '----'}
      </div>
      <div className="bar">
        {(
          [
            ['red probe', a, setA],
            ['black probe', b, setB],
          ] as const
        ).map(([word, value, set]) => (
          <label key={word}>
            {word}{' '}
            <AutoComplete
              size="small"
              aria-label={word}
              style={{ width: 150 }}
              value={value}
              onChange={set}
              options={round.points
                .filter((p) => p.toLowerCase().startsWith(value.toLowerCase()))
                .slice(0, 60)
                .map((p) => ({ value: p }))}
            />
          </label>
        ))}
      </div>
      <div className="bar">
        <Select
          size="small"
          aria-label="key"
          style={{ width: 120 }}
          virtual={false}
          value={setup.key ?? 'off'}
          onChange={(key) => stand({ ...setup, key })}
          options={view.positions.map((x) => ({ value: x, label: x }))}
        />
        <Checkbox
          checked={setup.battery ?? false}
          onChange={(e) => stand({ ...setup, battery: e.target.checked })}
        >
          battery on
        </Checkbox>
        <Checkbox
          checked={setup.units ?? false}
          onChange={(e) => stand({ ...setup, units: e.target.checked })}
        >
          units in
        </Checkbox>
        <Checkbox
          checked={!(setup.pulled ?? false)}
          onChange={(e) => stand({ ...setup, pulled: !e.target.checked })}
        >
          fuses in
        </Checkbox>
      </div>
      <div className="bar">
        <Button type="primary" disabled={!a || !b || read.isPending} onClick={() => measure('volts')}>
          Measure V
        </Button>
        <Button
          disabled={!a || !b || read.isPending}
          title="with the battery off: on a live circuit no ohms are measured"
          onClick={() => measure('ohms')}
        >
          Measure Ω, battery off
        </Button>
      </div>
      {spots.length > 0 ? (
        <Faces view={view} spots={spots} width={420} />
      ) : (
        <p className="quiet">
          Put the probes on cavities, studs or posts: A8, fuse 5 out, battery +. What is asked costs a
          measurement.
        </p>
      )}
    </section>
  );
}
