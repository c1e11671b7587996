import { Input, Select, type InputRef } from 'antd';
import { useMemo, useRef, useState } from 'react';
import type { End, ThinView } from '../../api/types.gen';
import { VirtualRows } from '../../frame/VirtualRows';
import { refName } from '../../harness/cavity';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';
import { useCursor } from '../../keys/useCursor';
import { useKey } from '../../keys/useKey';
import { ChoiceGlyph, choiceWord } from './ChoiceGlyph';
import type { Selection } from './selection';

interface Props {
  view: ThinView;
  selected: Selection | undefined;
  onSelect: (s: Selection) => void;
}

type Filter = 'all' | 'keep' | 'goes' | '' | 'contested';

/** Where a wire ends, as people say it. */
export function endName(e: End): string {
  if (e.at?.connector) {
    return refName(e.at);
  }
  if (e.splice) {
    return `splice ${e.splice}`;
  }
  return e.taped ? 'taped off' : 'not seen';
}

/** Every wire with what becomes of it and by which decision. */
export function WireRows({ view, selected, onSelect }: Props) {
  const [filter, setFilter] = useState<Filter>('all');
  const [text, setText] = useState('');
  const find = useRef<InputRef>(null);
  const rows = useMemo(() => {
    const wanted = text.trim().toLowerCase();
    return view.wires
      .map((wire, i) => ({ wire, verdict: view.verdicts[i] }))
      .filter(({ wire, verdict }) => {
        if (
          !verdict ||
          (filter === 'contested' ? !verdict.contested : filter !== 'all' && verdict.choice !== filter)
        ) {
          return false;
        }
        const all = [
          wire.id,
          wire.function,
          wire.circuit,
          colourName(wire.colour),
          verdict.system,
          ...wire.ends.map(endName),
        ];
        return all.join(' ').toLowerCase().includes(wanted);
      });
  }, [view, filter, text]);
  const at = rows.findIndex((r) => selected?.on === 'wire' && r.wire.id === selected.id);
  const go = (to: number) => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, to))];
    if (row) {
      onSelect({ on: 'wire', id: row.wire.id });
    }
  };
  useCursor(at, rows.length, go);
  useKey('/', () => find.current?.focus());
  return (
    <>
      <div className="bar wirefilter">
        <Select<Filter>
          aria-label="which wires"
          size="small"
          style={{ width: 150 }}
          value={filter}
          onChange={setFilter}
          options={[
            { value: 'all', label: 'all wires' },
            { value: 'keep', label: 'kept' },
            { value: 'goes', label: 'going' },
            { value: '', label: 'undecided' },
            { value: 'contested', label: 'contested' },
          ]}
        />
        <Input
          ref={find}
          size="small"
          style={{ width: 220 }}
          placeholder="/ find"
          aria-label="find"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => (e.key === 'Escape' || e.key === 'Enter') && e.currentTarget.blur()}
        />
        <span className="quiet">
          {rows.length} of {view.wires.length}
        </span>
      </div>
      <VirtualRows
        rows={rows}
        keyOf={(r) => r.wire.id}
        estimate={33}
        label="wires"
        className="wirerows"
        head={head}
        at={at}
        testID="wires"
        draw={({ wire: w, verdict: v }, i) => (
          <div
            className={`wirerow${i === at ? ' selected' : ''}`}
            role="row"
            aria-rowindex={i + 2}
            aria-selected={i === at}
            onClick={() => onSelect({ on: 'wire', id: w.id })}
          >
            <span role="gridcell" className="mono">
              {w.id}
            </span>
            <span role="gridcell" className="wirecolour">
              <WireSwatch colour={w.colour} bare="right" />{' '}
              <span className="mono colourword">{colourName(w.colour)}</span>
            </span>
            <span role="gridcell" className="mono">
              {endName(w.ends[0])}
            </span>
            <span role="gridcell" className="mono">
              {endName(w.ends[1])}
            </span>
            <span role="gridcell">{w.function || <span className="quiet">nobody knows what for</span>}</span>
            <span role="gridcell" className="wireverdict">
              <ChoiceGlyph choice={v?.choice ?? ''} contested={v?.contested} />
              <span className={v?.exception ? 'own' : 'quiet'}>
                {v?.exception ? `${choiceWord[v.choice]} itself` : (v?.by ?? (v?.choice ? 'follows' : ''))}
              </span>
            </span>
          </div>
        )}
      />
    </>
  );
}

const head = (
  <div className="wirerow headrow" role="row" aria-rowindex={1}>
    {['wire', 'colour', 'from', 'to', 'function', 'what becomes of it'].map((h) => (
      <span key={h} role="columnheader">
        {h}
      </span>
    ))}
  </div>
);
