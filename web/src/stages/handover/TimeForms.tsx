import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import { NumberField } from '../../frame/NumberField';
import { explain, whoIsWorking } from '../../api/client';
import { useSpend, useTerms } from '../../api/handover';
import type { MoneyView, Terms } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { stageName } from '../../work/words';
import { hours } from './hours';

interface Props {
  job: string;
  view: MoneyView;
}

/** Notes time that no watch has measured, and shows who worked how long. */
export function TimeForm({ job, view }: Props) {
  const spend = useSpend(job);
  const [stage, choose] = useState('thin');
  const [time, take] = useState<number | undefined>();
  const [day, on] = useState(view.today);
  const [who, name] = useState(whoIsWorking());
  const [text, say] = useState('');
  const fail = (e: unknown) => notice.warning(explain(e));
  return (
    <>
      <p className="people">
        {view.hours.people.map((p) => (
          <span key={p.who}>
            {p.who} <span className="mono">{hours(p.minutes) || '0 h'}</span>
            {p.steps > 0 && <span className="quiet"> {p.steps} steps</span>}
          </span>
        ))}
      </p>
      <form
        className="bar"
        aria-label="note time"
        onSubmit={(e) => {
          e.preventDefault();
          if (time === undefined) {
            return;
          }
          spend.mutate(
            { seen: view.revision, spent: { id: '', stage, minutes: Math.round(time * 60), day, who, text } },
            {
              onSuccess: () => {
                take(undefined);
                say('');
              },
              onError: fail,
            },
          );
        }}
      >
        <NumberField
          label="hours"
          placeholder="hours"
          width={76}
          min={0}
          max={168}
          value={time}
          onChange={take}
        />
        <Select
          size="small"
          aria-label="stage"
          style={{ width: 98 }}
          virtual={false}
          value={stage}
          onChange={choose}
          options={view.stages.map((value) => ({ value, label: stageName(value) }))}
        />
        <Input
          size="small"
          aria-label="day"
          style={{ width: 96 }}
          value={day}
          onChange={(e) => on(e.target.value)}
        />
        <Input
          size="small"
          aria-label="whose time"
          placeholder="who"
          style={{ width: 80 }}
          value={who}
          onChange={(e) => name(e.target.value)}
        />
        <Input
          size="small"
          aria-label="what was done"
          placeholder="what was done"
          style={{ width: 104 }}
          value={text}
          onChange={(e) => say(e.target.value)}
        />
        <Button size="small" htmlType="submit" disabled={!time} loading={spend.isPending}>
          Note it
        </Button>
      </form>
      {view.spent.length > 0 && (
        <ul className="notedtime">
          {view.spent.map((x) => (
            <li key={x.id}>
              <span className="mono">{x.day}</span> {hours(x.minutes)} {stageName(x.stage)}, {x.who}
              {x.text && <span className="quiet"> {x.text}</span>}{' '}
              <button
                className="plain"
                onClick={() => spend.mutate({ seen: view.revision, spent: x, gone: true }, { onError: fail })}
              >
                take back
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** What hours and prices are reckoned with: nothing is assumed. */
export function TermsForm({ job, view }: Props) {
  const terms = useTerms(job);
  const [draft, write] = useState<Terms>(view.terms);
  const changed = JSON.stringify(draft) !== JSON.stringify(view.terms);
  const number = (
    field: 'perHour' | 'tax' | 'hoursADay' | 'daysAWeek' | 'hands',
    label: string,
    most: number,
  ) => (
    <span>
      {label}{' '}
      <NumberField
        label={label}
        width={66}
        min={0}
        max={most}
        value={draft[field]}
        onChange={(v) => write({ ...draft, [field]: v ?? 0 })}
      />
    </span>
  );
  return (
    <form
      className="bar reckonedwith"
      aria-label="what it is reckoned with"
      onSubmit={(e) => {
        e.preventDefault();
        terms.mutate(
          { seen: view.revision, subject: 'terms', terms: draft },
          { onError: (x) => notice.warning(explain(x)) },
        );
      }}
    >
      <label>
        currency{' '}
        <Input
          size="small"
          aria-label="currency"
          style={{ width: 76 }}
          value={draft.currency ?? ''}
          onChange={(e) => write({ ...draft, currency: e.target.value })}
        />
      </label>
      {number('perHour', 'an hour', 1_000_000)}
      {number('tax', 'tax, %', 100)}
      {number('hoursADay', 'hours a day', 24)}
      {number('daysAWeek', 'days a week', 7)}
      {number('hands', 'pairs of hands', 8)}
      <Button size="small" htmlType="submit" disabled={!changed} loading={terms.isPending}>
        Reckon with that
      </Button>
    </form>
  );
}
