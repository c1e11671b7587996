import { Button, Modal, Select } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useOtherwise } from '../../api/pin';
import type { PinView, Ref } from '../../api/types.gen';
import { refKey, refName } from '../../harness/cavity';

interface Props {
  job: string;
  view: PinView;
  at: Ref | undefined;
  onClose: () => void;
}

/** Records a move that the plan did not say: which terminal, and where it is now. */
export function OtherwiseDialog({ job, view, at, onClose }: Props) {
  const full = view.wires.filter((w) => !w.plugged);
  const taken = new Set(full.map((w) => refKey(w.at)));
  const cavities = view.housings.flatMap((h) => h.cavities.map((cavity) => ({ connector: h.id, cavity })));
  const [from, setFrom] = useState(at && taken.has(refKey(at)) ? refKey(at) : undefined);
  const [to, setTo] = useState<string | undefined>();
  const send = useOtherwise(job);
  const hand = from?.startsWith('hand ') ? from.slice(5) : undefined;
  const target = cavities.find((c) => refKey(c) === to);
  const source = full.find((w) => refKey(w.at) === from)?.at;
  const keep = () =>
    send.mutate(
      {
        seen: view.revision,
        ...(hand !== undefined ? { label: hand } : source ? { at: source } : {}),
        ...(target ? { to: target } : {}),
        ...(to === 'off' ? { off: true } : {}),
      },
      { onSuccess: onClose },
    );
  return (
    <Modal
      open
      title="Done otherwise than planned"
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="primary" disabled={!from || !to} onClick={keep}>
            That is what was done
          </Button>
        </>
      }
    >
      <div className="stack">
        <label>
          The terminal
          <Select
            style={{ width: '100%' }}
            aria-label="the terminal"
            showSearch={{ optionFilterProp: 'label' }}
            value={from}
            onChange={setFrom}
            options={[
              ...view.hand.map((h) => ({ value: `hand ${h}`, label: `in hand, labelled ${h}` })),
              ...full.map((w) => ({
                value: refKey(w.at),
                label: `in ${refName(w.at)} · ${w.row?.function ?? ''}`,
              })),
            ]}
          />
        </label>
        <label>
          is now
          <Select
            style={{ width: '100%' }}
            aria-label="where it is now"
            showSearch={{ optionFilterProp: 'label' }}
            value={to}
            onChange={setTo}
            options={[
              ...(hand === undefined ? [{ value: 'hand', label: 'in hand, labelled' }] : []),
              { value: 'off', label: 'out and sealed off' },
              ...cavities
                .filter((c) => !taken.has(refKey(c)))
                .map((c) => ({ value: refKey(c), label: `in ${refName(c)}` })),
            ]}
          />
        </label>
      </div>
      {send.error && (
        <div className="problem" role="alert">
          {explain(send.error)}
        </div>
      )}
      <p className="quiet">The plan goes on from what is really in the connector.</p>
    </Modal>
  );
}
