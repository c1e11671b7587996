import { Button, Input, Modal, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import { finiteOf } from '../frame/number';
import type { OwnStep } from '../api/types.gen';
import { onEnter } from '../keys/onEnter';
import { FocusAt } from '../keys/FocusAt';

interface Props {
  step: OwnStep;
  /** The step that it stands beside, in its own words. */
  beside: string;
  onKeep: (s: OwnStep) => void;
  onClose: () => void;
}

const shown = (x: number | undefined) => (x === undefined ? '' : String(x));

/** A step of one's own between the others, with a measurement and its limit where there is one. */
export function OwnDialog({ step, beside, onKeep, onClose }: Props) {
  const [text, setText] = useState(step.text);
  const [what, setWhat] = useState(step.what ?? '');
  const [unit, setUnit] = useState(step.unit ?? 'mm');
  const [least, setLeast] = useState(shown(step.least));
  const [most, setMost] = useState(shown(step.most));
  const [saw, setSaw] = useState(shown(step.saw));
  const input = useRef<InputRef>(null);
  const numbers = [least, most, saw];
  const isNone = (t: string) => t.trim() !== '' && finiteOf(t) === undefined;
  const wrong = numbers.some(isNone)
    ? 'A limit, and what was measured, are numbers.'
    : !what.trim() && numbers.some((t) => t.trim())
      ? 'Say what is measured.'
      : undefined;
  const keep = () => {
    if (!text.trim() || wrong) {
      return;
    }
    const measures = what.trim()
      ? { what: what.trim(), unit, least: finiteOf(least), most: finiteOf(most), saw: finiteOf(saw) }
      : {};
    onKeep({
      id: step.id,
      text: text.trim(),
      ...(step.before ? { before: step.before } : {}),
      ...(step.after ? { after: step.after } : {}),
      ...(Object.fromEntries(
        Object.entries(measures).filter(([, v]) => v !== undefined),
      ) as Partial<OwnStep>),
    });
  };
  // The word stays in front of what is typed in: 15 alone says nothing.
  const field = (label: string, value: string, set: (t: string) => void, width: number) => (
    <Input
      size="small"
      style={{ width }}
      aria-label={label}
      prefix={<span className="quiet">{label}</span>}
      value={value}
      onChange={(e) => set(e.target.value)}
      onPressEnter={onEnter(keep)}
      {...(numbers.includes(value) && isNone(value) ? { status: 'error', 'aria-invalid': true } : {})}
    />
  );
  return (
    <Modal
      open
      title="A step of our own"
      width={560}
      onCancel={onClose}
      footer={
        <Button type="primary" disabled={!text.trim() || !!wrong} onClick={keep}>
          Keep it
        </Button>
      }
    >
      {beside && <p className="quiet">{beside}</p>}
      <Input
        ref={input}
        aria-label="what is done"
        placeholder="trim off, gearbox lowered, hoist and a second person …"
        value={text}
        maxLength={300}
        onChange={(e) => setText(e.target.value)}
        onPressEnter={onEnter(keep)}
      />
      <p className="quiet">What is measured there, if anything, with its limit:</p>
      <div className="bar" style={{ gap: 6, flexWrap: 'wrap' }}>
        {field('what is measured', what, setWhat, 300)}
        {field('unit', unit, setUnit, 90)}
        {field('at least', least, setLeast, 130)}
        {field('at most', most, setMost, 130)}
        {field('measured', saw, setSaw, 130)}
      </div>
      {wrong && <p role="alert">{wrong}</p>}
      <FocusAt field={input} />
    </Modal>
  );
}
