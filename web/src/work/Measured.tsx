import { Button, Input } from 'antd';
import { useState } from 'react';
import { finiteOf } from '../frame/number';
import { onEnter } from '../keys/onEnter';

interface Props {
  wire: string;
  /** For gloves, at the bench: a field to hit, and a button beside it. */
  large?: boolean;
  onMeasured: (mm: number) => void;
}

/** A length typed in at its step: the plan follows. */
export function Measured({ wire, large, onMeasured }: Props) {
  const [text, setText] = useState('');
  const mm = finiteOf(text) ?? 0;
  const ok = mm > 0 && mm <= 40000;
  const keep = () => ok && onMeasured(mm);
  return (
    <div className="bar" style={{ gap: 8 }}>
      <Input
        size={large ? 'large' : 'small'}
        style={{ width: large ? 220 : 130 }}
        aria-label={`measured length of ${wire}`}
        placeholder="measured"
        inputMode="decimal"
        suffix="mm"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onPressEnter={onEnter(keep)}
      />
      {large ? (
        <Button size="large" disabled={!ok} onClick={keep}>
          That long
        </Button>
      ) : (
        <span className="quiet">type it in, and the plan follows</span>
      )}
    </div>
  );
}
