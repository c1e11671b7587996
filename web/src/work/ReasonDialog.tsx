import { Button, Input, Modal, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import { onEnter } from '../keys/onEnter';
import { FocusAt } from '../keys/FocusAt';

interface Props {
  title: string;
  why: string;
  onReason: (reason: string) => void;
  onClose: () => void;
}

/** Asks for the reason of something that must not happen by mistake. */
export function ReasonDialog({ title, why, onReason, onClose }: Props) {
  const [text, setText] = useState('');
  const input = useRef<InputRef>(null);
  const keep = () => {
    if (text.trim()) {
      onReason(text.trim());
    }
  };
  return (
    <Modal
      open
      title={title}
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="primary" disabled={!text.trim()} onClick={keep}>
            That is why
          </Button>
        </>
      }
    >
      <p>{why}</p>
      <Input
        ref={input}
        aria-label="the reason"
        value={text}
        maxLength={300}
        onChange={(e) => setText(e.target.value)}
        onPressEnter={onEnter(keep)}
      />
      <FocusAt field={input} />
    </Modal>
  );
}
