import { Button, Input, Modal, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import { FocusAt } from '../keys/FocusAt';
import { onEnter } from '../keys/onEnter';

interface Props {
  open: boolean;
  name: string;
  onKeep: (name: string) => void;
  onClose: () => void;
}

/** Asks who is working. */
export function WhoDialog({ open, name, onKeep, onClose }: Props) {
  const [draft, setDraft] = useState(name);
  const input = useRef<InputRef>(null);
  const keep = () => onKeep(draft.trim());
  return (
    <Modal
      open={open}
      onCancel={onClose}
      afterOpenChange={(shown) => shown || setDraft(name)}
      title="Who is working?"
      width={380}
      footer={
        <Button type="primary" onClick={keep}>
          Keep
        </Button>
      }
    >
      <Input
        ref={input}
        aria-label="your name"
        value={draft}
        maxLength={60}
        onChange={(e) => setDraft(e.target.value)}
        onPressEnter={onEnter(keep)}
      />
      <p className="quiet">Decisions carry this name in the job’s history.</p>
      <FocusAt field={input} />
    </Modal>
  );
}
