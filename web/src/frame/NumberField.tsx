import { Input, type InputRef } from 'antd';
import { useState, type Ref } from 'react';
import { allowed, numberOf } from './number';

interface Props {
  label: string;
  value: number | undefined;
  /** Takes what was typed: a number that may be, or nothing where the field is empty. */
  onChange: (n: number | undefined) => void;
  min?: number;
  max?: number;
  width: number;
  placeholder?: string;
  unit?: string;
  testID?: string;
  id?: string;
  /** It is taken when the field is left, and not letter by letter. */
  whenLeft?: boolean;
  onEnter?: () => void;
  field?: Ref<InputRef>;
}

/**
 * A field for a number. What can be none, or may not be, is not taken and not put right either: it stays as it was typed,
 * marked, with what may stand there.
 */
export function NumberField({ field, label, value, onChange, min, max, whenLeft, onEnter, ...p }: Props) {
  const [text, write] = useState<string | undefined>();
  const shown = text ?? (value === undefined ? '' : String(value));
  const may = (n: number | undefined) =>
    n === undefined || (n >= (min ?? -Infinity) && n <= (max ?? Infinity));
  const n = numberOf(shown);
  const right = may(n);
  const [was, remember] = useState(value); // before it was typed into
  const typed = (input: HTMLInputElement) => {
    const wrong = may(numberOf(input.value)) ? '' : allowed(min, max);
    input.setCustomValidity(wrong); // its form is not sent
    write(input.value);
    const before = text === undefined ? value : was;
    remember(before);
    if (!whenLeft) {
      onChange(wrong ? before : numberOf(input.value)); // what was right on the way to it is not meant
    }
  };
  const leave = () => {
    if (text !== undefined && right) {
      write(undefined);
      if (whenLeft && n !== value) {
        onChange(n);
      }
    }
  };
  return (
    <span className="numberfield">
      <Input
        ref={field}
        size="small"
        inputMode="decimal"
        aria-label={label}
        aria-invalid={!right}
        style={{ width: p.width }}
        value={shown}
        onChange={(e) => typed(e.target)}
        onBlur={leave}
        onPressEnter={(e) => {
          if (whenLeft && right) {
            e.currentTarget.blur(); // it is kept so, and the next key is the page's
          } else {
            leave();
          }
          if (right) {
            onEnter?.();
          }
        }}
        {...(right ? {} : { status: 'error' })}
        {...(p.placeholder ? { placeholder: p.placeholder } : {})}
        {...(p.id ? { id: p.id } : {})}
        {...(p.unit ? { suffix: <span className="quiet">{p.unit}</span> } : {})}
        {...(p.testID ? { 'data-testid': p.testID } : {})}
      />
      {!right && <span role="alert">{allowed(min, max)}</span>}
    </span>
  );
}
