import { Input } from 'antd';
import { useState } from 'react';
import { typed } from './words';

interface Props {
  label: string;
  value: number;
  unit?: string;
  /** Said where nothing is typed. */
  empty?: string;
  onChange: (x: number) => void;
  testID?: string;
  width?: number;
}

/** A number with its unit, kept when the field is left or Enter is pressed. What is no number is put back. */
export function NumberField({ label, value, unit = 'mm', empty, onChange, testID, width = 118 }: Props) {
  const [draft, setDraft] = useState<string | undefined>();
  const shown = value === 0 && empty !== undefined ? '' : String(Number(value.toFixed(3)));
  const keep = () => {
    const x = draft === undefined ? undefined : draft.trim() === '' ? 0 : typed(draft);
    setDraft(undefined);
    if (x !== undefined && x !== value) {
      onChange(x);
    }
  };
  return (
    <Input
      size="small"
      aria-label={label}
      style={{ width }}
      value={draft ?? shown}
      placeholder={empty ?? ''}
      suffix={<span className="quiet">{unit}</span>}
      inputMode="decimal"
      data-testid={testID}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={keep}
      onPressEnter={(e) => e.currentTarget.blur()}
    />
  );
}
