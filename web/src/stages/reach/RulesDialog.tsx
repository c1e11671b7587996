import { Button, Checkbox, Modal, Select } from 'antd';
import { useTemplates } from '../../api/reach';
import type { ReachView, Rules } from '../../api/types.gen';
import { Quantity } from './Quantity';
import type { Changer } from './part';
import { schoolWord } from './words';

interface Props {
  view: ReachView;
  onRules: Changer<Rules>;
  onClose: () => void;
}

const lengths = [
  ['roll', 'slack where a wire crosses to what rolls with the engine'],
  ['end', 'one re-termination at each end'],
  ['drop', 'from the bundle down to a plug'],
  ['lap', 'wire that each end of a joint takes'],
  ['stub', 'from a plug to a joint, at least'],
  ['apart', 'between two joints of a bundle, at least'],
  ['bulge', 'that a joint may thicken a covered bundle'],
  ['excess', 'from which a wire is too long'],
  ['least', 'shortest piece worth letting in'],
  ['guess', 'guessed for each wire before there were paths'],
] as const;

const minutes = [
  ['route', 'lay a path'],
  ['measure', 'measure a wire'],
  ['cut', 'cut a piece'],
  ['solder', 'solder a joint'],
  ['crimp', 'crimp a joint'],
  ['cover', 'cover a metre'],
] as const;

/** Every allowance and rule that lengths, joints and hours follow from. */
export function RulesDialog({ view, onRules, onClose }: Props) {
  const r = view.rules;
  const set = (change: Partial<Rules>) => onRules((old) => ({ ...old, ...change }));
  const classes = useTemplates().data?.classes ?? [];
  const units = view.things.filter((t) => t.thing.kind === 'device' && t.wires > 0);
  const learned = view.learned;
  return (
    <Modal
      open
      title="How we work in Reach"
      width={760}
      onCancel={onClose}
      footer={
        <Button type="primary" onClick={onClose}>
          Close
        </Button>
      }
    >
      <div className="rules">
        <div className="fields">
          {lengths.map(([key, word]) => (
            <Field key={key} word={word} value={r[key] ?? 0} onChange={(x) => set({ [key]: x })} />
          ))}
        </div>
        <div className="fields">
          <span>joints</span>
          <Select
            size="small"
            aria-label="how joints are made"
            value={r.school}
            options={(['solder', 'crimp', 'bare'] as const).map((s) => ({ value: s, label: schoolWord[s] }))}
            onChange={(school: Rules['school']) => set({ school })}
          />
          <span>insulation that is there</span>
          <Select
            size="small"
            aria-label="class of the insulation that is there"
            value={r.class}
            options={classes.map((c) => ({ value: c.class, label: `class ${c.class}, ${c.limit} °C` }))}
            onChange={(c: Rules['class']) => set({ class: c })}
          />
          <span>tape marks from</span>
          <Select
            size="small"
            aria-label="tape marks are measured from"
            value={r.unit ?? ''}
            showSearch
            options={[
              { value: '', label: `the unit with most wires${view.unit ? ` (${view.unit})` : ''}` },
              ...units.map((u) => ({ value: u.thing.id, label: u.thing.id })),
            ]}
            onChange={(unit: string) => set({ unit })}
          />
          <Field
            word="bought in excess"
            unit="%"
            value={100 * r.margin}
            onChange={(x) => set({ margin: x / 100 })}
          />
          <Field
            word="a piece at most so many times the wire"
            unit="×"
            value={r.mostly}
            onChange={(x) => set({ mostly: x })}
          />
          <Field word="vehicle" unit="V" value={r.volts} onChange={(x) => set({ volts: x })} />
          <Field
            word="an engine feed may lose"
            unit="%"
            value={100 * r.loss}
            onChange={(x) => set({ loss: x / 100 })}
          />
          <Field
            word="any other feed"
            unit="%"
            value={100 * r.rest}
            onChange={(x) => set({ rest: x / 100 })}
          />
          {minutes.map(([key, word]) => (
            <Field
              key={key}
              word={word}
              unit="min"
              value={r.rates[key]}
              onChange={(x) => set({ rates: { ...r.rates, [key]: x } })}
            />
          ))}
        </div>
      </div>
      <p>
        <Checkbox checked={r.free} onChange={(e) => set({ free: e.target.checked })}>
          circuit by circuit: no gates between measuring, cutting and joining
        </Checkbox>
      </p>
      <p className="quiet">
        What these begin with is common practice, no source; the losses, 3 % for what is critical and 10 % for
        the rest, there and back, are those of ABYC E-11 (from memory).
      </p>
      {learned.count > 0 && (
        <p>
          {learned.ready
            ? learned.why
            : `${learned.count} leftovers are logged; from 5 on they say something.`}{' '}
          {learned.ready && learned.less !== 0 && (
            <Button size="small" onClick={() => set({ end: Math.max(0, r.end - learned.less) })}>
              Take it
            </Button>
          )}
        </p>
      )}
    </Modal>
  );
}

function Field({
  word,
  value,
  unit,
  onChange,
}: {
  word: string;
  value: number;
  unit?: string;
  onChange: (x: number) => void;
}) {
  return (
    <>
      <span>{word}</span>
      <Quantity label={word} value={value} onChange={onChange} {...(unit ? { unit } : {})} />
    </>
  );
}
