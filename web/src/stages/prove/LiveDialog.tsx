import { Button, Input, Modal } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useSetLive } from '../../api/prove';
import type { ProveView } from '../../api/types.gen';
import { notice } from '../../frame/notice';

/** What the unit can be asked for, a line a value: from the unit's papers. */
export function LiveDialog({ job, view, onClose }: { job: string; view: ProveView; onClose: () => void }) {
  const set = useSetLive(job);
  const [text, write] = useState(() =>
    view.live
      .map((v) => [v.id, v.name, v.unit ?? '', v.scale, v.offset ?? 0, v.bytes, v.drives ?? ''].join(';'))
      .join('\n'),
  );
  const send = (body: { text: string; simulated?: boolean }) =>
    set.mutate(
      { seen: view.revision, ...body },
      { onSuccess: onClose, onError: (e) => notice.warning(explain(e), 8) },
    );
  return (
    <Modal
      open
      title="What the unit can be asked for"
      onCancel={onClose}
      width={720}
      footer={[
        <Button key="sim" onClick={() => send({ text: '', simulated: true })}>
          As the simulated unit has it
        </Button>,
        <Button key="no" onClick={onClose}>
          Cancel
        </Button>,
        <Button key="yes" type="primary" loading={set.isPending} onClick={() => send({ text })}>
          Keep
        </Button>,
      ]}
    >
      <p className="quiet">
        A line a value, from the unit’s papers: identifier; name; unit; scale; offset; bytes; the cavity of
        the output that it works. Value = number × scale + offset.
      </p>
      <Input.TextArea
        className="mono"
        aria-label="values, a line each"
        rows={14}
        value={text}
        placeholder={
          'A001;volts at the feed;V;0,01;0;2;\nF405;coolant;°C;1;-40;1;\nB003;injector 1;;1;0;1;B1'
        }
        onChange={(e) => write(e.target.value)}
      />
    </Modal>
  );
}
