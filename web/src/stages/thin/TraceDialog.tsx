import { Button, Input, Modal, Select } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useTrace } from '../../api/gather';
import type { Trace, Wire } from '../../api/types.gen';
import { endName } from './WireRows';

interface Props {
  job: string;
  revision: number;
  wire: Wire;
  onClose: () => void;
}

type Saw = Trace['saw'];

const sawWord: [Saw, string][] = [
  ['goes', 'goes to a cavity'],
  ['joins', 'joins others at a splice'],
  ['taped', 'ends taped off'],
  ['added', 'joins at a splice somebody added'],
  ['colour', 'has another colour'],
  ['named', 'is for something known now'],
];

/** Says what was seen when a wire was followed. It confirms or corrects the model; what was believed is kept. */
export function TraceDialog({ job, revision, wire, onClose }: Props) {
  const [saw, setSaw] = useState<Saw>('goes');
  const [connector, setConnector] = useState('');
  const [cavity, setCavity] = useState('');
  const [splice, setSplice] = useState('');
  const [others, setOthers] = useState('');
  const [text, setText] = useState('');
  const [by, setBy] = useState('');
  const trace = useTrace(job);
  const keep = () =>
    trace.mutate(
      {
        seen: revision,
        trace: {
          wire: wire.id,
          saw,
          ...(saw === 'goes' ? { to: { connector: connector.trim(), cavity: cavity.trim() } } : {}),
          ...(saw === 'joins' || saw === 'added'
            ? {
                splice: splice.trim(),
                with: others
                  .split(/[,;]/)
                  .map((s) => s.trim())
                  .filter(Boolean),
              }
            : {}),
          ...(saw === 'colour' || saw === 'named' ? { text: text.trim() } : {}),
          ...(saw === 'added' ? { by: by.trim() } : {}),
        },
      },
      { onSuccess: onClose },
    );
  return (
    <Modal
      open
      title={`Follow ${wire.id}`}
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="primary" loading={trace.isPending} onClick={keep}>
            That is what I saw
          </Button>
        </>
      }
    >
      <p className="quiet">
        Believed so far: from {endName(wire.ends[0])} to {endName(wire.ends[1])}.
      </p>
      <div className="stack">
        <div className="field">
          <label htmlFor="saw">The wire</label>
          <Select<Saw>
            id="saw"
            style={{ width: '100%' }}
            value={saw}
            onChange={setSaw}
            options={sawWord.map(([value, label]) => ({ value, label }))}
          />
        </div>
        {saw === 'goes' && (
          <div className="bar">
            <Field id="trace-connector" label="connector" value={connector} onChange={setConnector} />
            <Field id="trace-cavity" label="cavity" value={cavity} onChange={setCavity} />
          </div>
        )}
        {(saw === 'joins' || saw === 'added') && (
          <>
            <Field
              id="trace-splice"
              label="splice, empty for a new one"
              value={splice}
              onChange={setSplice}
            />
            <Field
              id="trace-with"
              label="what meets there: wires or cavities, with commas"
              value={others}
              onChange={setOthers}
            />
          </>
        )}
        {saw === 'added' && <Field id="trace-by" label="who added it" value={by} onChange={setBy} />}
        {saw === 'colour' && (
          <Field
            id="trace-text"
            label="its colour, as the tables write colours"
            value={text}
            onChange={setText}
          />
        )}
        {saw === 'named' && <Field id="trace-text" label="what it is for" value={text} onChange={setText} />}
      </div>
      {trace.error && (
        <div className="problem" role="alert" style={{ marginTop: 10 }}>
          {explain(trace.error)} Nothing was kept.
        </div>
      )}
    </Modal>
  );
}

function Field(p: { id: string; label: string; value: string; onChange: (v: string) => void }) {
  return (
    <div className="field grow">
      <label htmlFor={p.id}>{p.label}</label>
      <Input id={p.id} value={p.value} onChange={(e) => p.onChange(e.target.value)} />
    </div>
  );
}
