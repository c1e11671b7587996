import { useState } from 'react';
import { explain } from '../../api/client';
import { useBuy } from '../../api/handover';
import { notice } from '../../frame/notice';
import { numberOf } from '../../frame/number';
import { useRecords, useUnsent } from '../../outbox/useOutbox';
import { stageName } from '../../work/words';
import type { Bought, MoneyView, OrderLine } from '../../api/types.gen';

type Amount = 'there' | 'ordered' | 'days' | 'price';

/** One list of what all stages want: what is there, what is ordered, what it costs, and what is late. */
export function OrderList({ job, view }: { job: string; view: MoneyView }) {
  const buy = useBuy(job);
  const [only, filter] = useState('all');
  const busy = useUnsent(job).letters.length > 0;
  const put = useRecords<Bought>(
    view.revision,
    (bought, seen) => buy.mutateAsync({ ...seen, bought, says: `order list: ${bought.key}` }),
    (e) => notice.warning(explain(e)),
  );
  const keep = (line: OrderLine, change: Partial<Bought>) => {
    put(line.key, { ...line.said, key: line.key }, (was) => ({ ...was, ...change }));
    return true;
  };
  const rows = view.lines.filter(
    (l) => only === 'all' || (only === 'order' ? l.order > 0 : only === 'late' ? !!l.late : !l.said.price),
  );
  return (
    <>
      <p className="orderfilters">
        {(
          [
            ['all', `all ${view.lines.length}`],
            ['order', `to order ${view.lines.filter((l) => l.order > 0).length}`],
            ['late', `late ${view.lines.filter((l) => l.late).length}`],
            ['price', `without a price ${view.lines.filter((l) => !l.said.price).length}`],
          ] as const
        ).map(([id, word]) => (
          <button
            key={id}
            className={`plain${only === id ? ' on' : ''}`}
            aria-pressed={only === id}
            onClick={() => filter(id)}
          >
            {word}
          </button>
        ))}
      </p>
      <table className="table orders" aria-label="order list" data-testid="orders">
        <thead>
          <tr>
            <th>what</th>
            <th>for</th>
            <th className="right">need</th>
            <th className="right">spare</th>
            <th>there</th>
            <th>ordered</th>
            <th>on</th>
            <th>lead, days</th>
            <th className="right">to order</th>
            <th>supplier</th>
            <th>price</th>
            <th className="right">cost</th>
            <th>state</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((l) => (
            <Row key={l.key} line={l} busy={busy} onKeep={(change) => keep(l, change)} />
          ))}
        </tbody>
      </table>
    </>
  );
}

interface RowProps {
  line: OrderLine;
  busy: boolean;
  onKeep: (change: Partial<Bought>) => boolean;
}

function Row({ line, busy, onKeep }: RowProps) {
  const unit = line.unit ? ` ${line.unit}` : '';
  const amount = (field: Amount, width: number) => (
    <td>
      <Cell
        label={`${field} of ${line.what}`}
        width={width}
        busy={busy}
        value={line.said[field] ? String(line.said[field]) : ''}
        onKeep={(text) => {
          const n = numberOf(text) ?? 0;
          return n >= 0 && onKeep({ [field]: field === 'days' ? Math.round(n) : n });
        }}
      />
    </td>
  );
  return (
    <tr>
      <td>{line.what}</td>
      <td
        className="quiet"
        title={`${line.stages.map((x) => stageName(x)).join(', ')}: ${line.for.join(', ')}`}
      >
        {line.idle
          ? 'nothing asks for it any more'
          : line.for.length > 2
            ? `${line.for.length} places`
            : line.for.join(', ')}
      </td>
      <td className="mono right oneline">
        {line.need}
        {unit}
        {line.used > 0 && <div className="quiet">{line.used} in</div>}
      </td>
      <td className="mono right oneline">{line.spare ? `+${line.spare}` : ''}</td>
      {amount('there', 52)}
      {amount('ordered', 52)}
      <td>
        <Cell
          label={`ordered on, ${line.what}`}
          width={84}
          busy={busy}
          value={line.said.on ?? ''}
          onKeep={(on) => onKeep({ on })}
        />
      </td>
      {amount('days', 40)}
      <td className="mono right oneline">
        {line.order > 0 ? (
          <strong>
            {line.order}
            {unit}
          </strong>
        ) : (
          '✓'
        )}
      </td>
      <td>
        <Cell
          label={`supplier of ${line.what}`}
          width={110}
          busy={busy}
          value={line.said.supplier ?? ''}
          onKeep={(supplier) => onKeep({ supplier })}
        />
      </td>
      {amount('price', 56)}
      <td className="mono right">{line.cost > 0 ? line.cost.toFixed(2) : ''}</td>
      <td>{state(line)}</td>
    </tr>
  );
}

function state(l: OrderLine) {
  if (l.late) {
    return <span className="warned">▲ {l.late}</span>;
  }
  if (l.wait > 0) {
    return `in ${l.wait} days`;
  }
  return l.known ? '✓ there' : <span className="quiet">lead time?</span>;
}

/** What stands in a field that was typed into: what stood there before, and, once it was left, what was stored then. */
interface Typed {
  text: string;
  was: string;
  left?: string;
  wrong?: boolean;
}

/**
 * A field of a line: what is typed holds when it is left or Enter is pressed, and stays in sight until it is stored, whatever
 * replies come meanwhile. What it cannot be stays too, marked, and Escape takes it back.
 */
function Cell({
  label,
  value,
  width,
  busy,
  onKeep,
}: {
  label: string;
  value: string;
  width: number;
  /** Changes are on their way: what is stored is not yet what was done. */
  busy: boolean;
  /** Takes what was typed; false where it can be no such thing. */
  onKeep: (text: string) => boolean;
}) {
  const [draft, write] = useState<Typed | undefined>();
  const stored = draft?.left !== undefined && !draft.wrong && draft.left !== value && !busy;
  const typed = stored ? undefined : draft;
  const was = typed?.left === undefined ? (typed?.was ?? value) : typed.text;
  const leave = () => {
    const text = typed?.text.trim();
    if (typed && text !== undefined && typed.left === undefined) {
      write(text === was ? undefined : { text, was, left: value, wrong: !onKeep(text) });
    }
  };
  return (
    <input
      className="cell"
      aria-label={label}
      aria-invalid={typed?.wrong}
      title={typed?.wrong ? 'That is no number: it is not kept.' : undefined}
      style={{ width }}
      value={typed?.text ?? value}
      onChange={(e) => write({ text: e.target.value, was })}
      onBlur={leave}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.currentTarget.blur();
        } else if (e.key === 'Escape') {
          write(undefined);
        }
      }}
    />
  );
}
