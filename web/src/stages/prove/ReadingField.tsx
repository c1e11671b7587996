import { Button, Input, type InputRef } from 'antd';
import { useRef, useState } from 'react';
import { explain } from '../../api/client';
import { useAskMeter, useSetReading } from '../../api/prove';
import { notice } from '../../frame/notice';
import { useMeter } from './useMeter';
import { bare, typed, type Measure } from './words';

interface Props {
  job: string;
  revision: number;
  measure: Measure;
  focus?: boolean;
  onKept?: () => void;
}

/** Where the meter's value is typed in: a number with a comma or a point, OL where there is nothing between the two. */
export function ReadingField({ job, revision, measure, focus, onKept }: Props) {
  const set = useSetReading(job);
  const ask = useAskMeter(job);
  const [meter] = useMeter();
  const [text, write] = useState('');
  const field = useRef<InputRef>(null);
  const keep = (value: number, over: boolean) =>
    set.mutate(
      {
        seen: revision,
        reading: { ...bare(measure), value, ...(over ? { over } : {}) },
      },
      {
        onSuccess: () => {
          write('');
          onKept?.();
        },
        onError: (e) => notice.warning(explain(e)),
      },
    );
  if (measure.kind === 'works') {
    return (
      <div className="bar">
        <Button onClick={() => keep(1, false)}>It works</Button>
        <Button onClick={() => keep(0, false)}>It does not</Button>
      </div>
    );
  }
  const value = typed(text);
  return (
    <form
      className="bar readingfield"
      onSubmit={(e) => {
        e.preventDefault();
        if (value) {
          keep(value.value, value.over);
        }
      }}
    >
      <Input
        ref={field}
        autoFocus={focus}
        aria-label="what the meter shows"
        placeholder={measure.kind === 'ohms' ? '0,3 · 12k · OL' : '12,4'}
        suffix={measure.kind === 'ohms' ? 'Ω' : 'V'}
        value={text}
        status={text.trim() && !value ? 'error' : ''}
        onChange={(e) => {
          write(e.target.value);
        }}
        style={{ width: 150 }}
      />
      <Button htmlType="submit" type="primary" disabled={!value} loading={set.isPending}>
        Keep
      </Button>
      {meter && (
        <Button
          loading={ask.isPending}
          onClick={() =>
            ask.mutate(
              { address: meter, measure: bare(measure) },
              {
                onSuccess: (x) => {
                  write(x.over ? 'OL' : String(Number(x.value.toPrecision(4))));
                  field.current?.focus();
                },
                onError: (e) => notice.warning(explain(e)),
              },
            )
          }
        >
          Read the meter
        </Button>
      )}
      {measure.kind === 'ohms' && (
        <Button onClick={() => keep(0, true)} disabled={set.isPending}>
          OL
        </Button>
      )}
    </form>
  );
}
