import { Button, Modal, Radio } from 'antd';
import { useState } from 'react';
import { NumberField } from '../../frame/NumberField';
import { explain } from '../../api/client';
import { useBench } from '../../api/thin';
import type { Bench } from '../../api/types.gen';

interface Props {
  job: string;
  bench: Bench;
  revision: number;
  onClose: () => void;
}

const rateWord: [keyof Bench['rates'], string][] = [
  ['check', 'a look, a tie'],
  ['seal', 'cut and seal an end'],
  ['splice', 'take a splice apart'],
  ['join', 'make a joint'],
  ['extract', 'extract a terminal'],
  ['out', 'let a wire fall out'],
  ['takeOff', 'take a connector off'],
];

/** How this job is worked: the school for dead ends, what may be in hand, the length of a stub, and how long things take. */
export function BenchDialog({ job, bench, revision, onClose }: Props) {
  const [draft, set] = useState(bench);
  const keep = useBench(job);
  return (
    <Modal
      open
      title="How we work"
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button
            type="primary"
            onClick={() =>
              keep.mutate({ bench: draft, seen: revision, subject: 'bench' }, { onSuccess: onClose })
            }
          >
            Keep
          </Button>
        </>
      }
    >
      <div className="stack">
        <Radio.Group
          value={draft.school}
          onChange={(e) => set({ ...draft, school: e.target.value as Bench['school'] })}
          options={[
            { value: 'extract', label: 'extract the terminals of dead wires' },
            { value: 'cut', label: 'cut and seal at the connector' },
          ]}
        />
        <Amount
          label="terminals in hand at once, labelled (0: each waits in a free cavity)"
          value={draft.hand ?? 1}
          onChange={(hand) => set({ ...draft, hand: Math.min(9, Math.round(hand)) })}
        />
        <Amount
          label="stub at a splice, mm"
          value={draft.stub}
          onChange={(stub) => set({ ...draft, stub })}
        />
        <Amount
          label="worth keeping from, mm"
          value={draft.usable}
          onChange={(usable) => set({ ...draft, usable })}
        />
        <Amount
          label="worked so far, minutes (0: not logged)"
          value={draft.worked ?? 0}
          onChange={(worked) => set({ ...draft, worked })}
        />
        <h3>Minutes for each</h3>
        {rateWord.map(([key, word]) => (
          <Amount
            key={key}
            label={word}
            most={1000}
            value={draft.rates[key]}
            onChange={(v) => set({ ...draft, rates: { ...draft.rates, [key]: v } })}
          />
        ))}
      </div>
      {keep.error && (
        <div className="problem" role="alert">
          {explain(keep.error)}
        </div>
      )}
    </Modal>
  );
}

interface AmountProps {
  label: string;
  value: number;
  most?: number;
  onChange: (v: number) => void;
}

function Amount({ label, value, most = 10_000, onChange }: AmountProps) {
  return (
    <div className="bar" style={{ justifyContent: 'space-between' }}>
      {label}
      <NumberField
        label={label}
        width={90}
        min={0}
        max={most}
        value={value}
        onChange={(v) => onChange(v ?? 0)}
      />
    </div>
  );
}
