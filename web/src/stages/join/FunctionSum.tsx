import { Button, Input } from 'antd';
import { useState } from 'react';
import { explain } from '../../api/client';
import { useSetFunction } from '../../api/join';
import type { Chart, Item, JoinView, Sum } from '../../api/types.gen';
import { notice } from '../../frame/notice';
import { useKeyed } from '../../outbox/useOutbox';
import { WayRow } from './WayRow';

/** The sum behind a function: what it works with, its working, a picture of it, and the ways to make it work. */
export function FunctionSum({ job, view, item }: { job: string; view: JoinView; item: Item }) {
  const set = useSetFunction(job);
  const [typed, type] = useState<Record<string, string>>({});
  const keyed = useKeyed(view.revision);
  const sum = item.sum;
  if (!sum) {
    return null;
  }
  const asks = item.asks ?? [];
  const facts = { ...Object.fromEntries(asks.map((a) => [a.name, a.value])), ...typed };
  const keep = (more: Record<string, string>) =>
    keyed(
      item.id,
      (seen) =>
        set
          .mutateAsync({
            ...seen,
            function: item.id,
            choice: item.choice ?? '',
            facts: { ...facts, ...more },
            ...(item.reason ? { reason: item.reason } : {}),
          })
          .then((done) => {
            type({});
            return done;
          }),
      (e) => notice.warning(explain(e)),
    );
  return (
    <div className="sum" data-testid="sum">
      <h2>
        <span aria-hidden="true">{sum.works ? '✓' : sum.short ? '?' : '✕'}</span> {sum.says}
      </h2>
      {sum.error && <div className="problem">{sum.error}</div>}
      {(sum.ways ?? []).length > 0 && (
        <>
          <h3>Ways to make it work</h3>
          {sum.ways?.map((w, i) => (
            <WayRow key={w.text} {...{ job, view, item }} way={w} index={i} onTaken={() => type({})} />
          ))}
        </>
      )}
      <div className="sumgrid">
        {asks.length > 0 && (
          <form
            className="sumfacts"
            onSubmit={(e) => {
              e.preventDefault();
              keep({});
            }}
          >
            {asks.map((a) => (
              <label key={a.name} className="sumfact">
                <span>{a.what}</span>
                <Input
                  size="small"
                  aria-label={a.what}
                  placeholder={a.usual ?? ''}
                  suffix={a.unit ?? ''}
                  value={typed[a.name] ?? a.value}
                  onChange={(e) => type({ ...typed, [a.name]: e.target.value })}
                />
              </label>
            ))}
            <Button size="small" htmlType="submit" disabled={Object.keys(typed).length === 0}>
              Keep these
            </Button>
          </form>
        )}
        <div>
          {sum.chart && <SumChart chart={sum.chart} />}
          <Working lines={sum.lines} />
        </div>
      </div>
    </div>
  );
}

/** The working of a sum, line by line, with its source. */
function Working({ lines }: { lines: Sum['lines'] }) {
  return (
    <ul className="working">
      {lines.map((l) => (
        <li key={l.what}>
          {l.what} <span className="mono">{l.value}</span>
          {l.source && <div className="quiet">{l.source}</div>}
        </li>
      ))}
    </ul>
  );
}

const wide = 300;
const tall = 170;
const edge = 34;

/** What is shown against what is true, with the band in which it may lie. */
function SumChart({ chart }: { chart: Chart }) {
  const xs = chart.points.map((p) => p.true);
  const ys = chart.points.flatMap((p) => [p.shown, p.least, p.most]);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const x = (v: number) => edge + ((v - x0) / (x1 - x0 || 1)) * (wide - edge - 8);
  const y = (v: number) => tall - edge + 8 - ((v - y0) / (y1 - y0 || 1)) * (tall - edge - 6);
  const line = (of: (p: Chart['points'][number]) => number) =>
    chart.points.map((p, i) => `${i ? 'L' : 'M'}${x(p.true).toFixed(1)} ${y(of(p)).toFixed(1)}`).join('');
  const band = `${line((p) => p.most)}${[...chart.points]
    .reverse()
    .map((p) => `L${x(p.true).toFixed(1)} ${y(p.least).toFixed(1)}`)
    .join('')}Z`;
  const short = (v: number) => Number(v.toPrecision(3)).toString();
  return (
    <svg
      width={wide}
      height={tall}
      className="sumchart"
      role="img"
      aria-label={`${chart.up} against ${chart.across}`}
    >
      <path d={band} className="may" />
      <path d={line((p) => p.shown)} className="shown" />
      <path d={`M${edge} 4V${tall - edge + 8}H${wide - 4}`} className="axis" />
      <text x={edge} y={tall - 12}>
        {short(x0)}
      </text>
      <text x={wide - 8} y={tall - 12} textAnchor="end">
        {short(x1)}
      </text>
      <text x={(wide + edge) / 2} y={tall - 2} textAnchor="middle">
        {chart.across}
      </text>
      <text x={edge - 4} y={12} textAnchor="end">
        {short(y1)}
      </text>
      <text x={edge - 4} y={tall - edge + 8} textAnchor="end">
        {short(y0)}
      </text>
      <text x={edge + 6} y={14}>
        {chart.up}
      </text>
    </svg>
  );
}
