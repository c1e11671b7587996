import { Checkbox, Select } from 'antd';
import { useState } from 'react';
import { NumberField } from '../../frame/NumberField';
import { fileAddress } from '../../api/hooks';
import { useLabels } from '../../api/handover';

const kinds = [
  ['wire', 'wires, both ends'],
  ['joint', 'joints'],
  ['cavity', 'cavities'],
  ['connector', 'plugs'],
  ['fuse', 'fuses'],
  ['ground', 'grounds'],
] as const;

/** Sheets and rolls as they are sold, mm; each number can be changed. */
const stocks: Record<string, Stock> = {
  '3 × 8 on A4, 70 × 36 mm': { columns: 3, rows: 8, wide: 70, high: 36, left: 0, top: 4.5 },
  '5 × 13 on A4, 38.1 × 21.2 mm': { columns: 5, rows: 13, wide: 38.1, high: 21.2, left: 4.7, top: 10.7 },
  '7 × 27 on A4, 25.4 × 10 mm': { columns: 7, rows: 27, wide: 25.4, high: 10, left: 9, top: 13.5 },
  'roll of 12 mm, 50 mm long': { columns: 1, rows: 1, wide: 50, high: 12, left: 0, top: 0, roll: true },
  'roll of 9 mm, 40 mm long': { columns: 1, rows: 1, wide: 40, high: 9, left: 0, top: 0, roll: true },
};

interface Stock {
  columns: number;
  rows: number;
  wide: number;
  high: number;
  left: number;
  top: number;
  roll?: boolean;
}

const numbers: [keyof Omit<Stock, 'roll'>, string][] = [
  ['columns', 'columns'],
  ['rows', 'rows'],
  ['wide', 'mm wide'],
  ['high', 'mm high'],
  ['left', 'mm from the left'],
  ['top', 'mm from the top'],
];

/** Labels: of what, of which plug, on which paper. */
export function Labels({ job }: { job: string }) {
  const [chosen, choose] = useState<string[]>(['wire']);
  const [plug, setPlug] = useState('');
  const [stock, put] = useState<Stock>({ columns: 3, rows: 8, wide: 70, high: 36, left: 0, top: 4.5 });
  const [codes, setCodes] = useState(true);
  const filter = new URLSearchParams({ kinds: chosen.join(','), ...(plug ? { plug } : {}) });
  const labels = useLabels(job, filter.toString());
  const print = new URLSearchParams(filter);
  numbers.forEach(([k]) => print.set(k, String(stock[k])));
  if (stock.roll) {
    print.set('roll', '1');
  }
  if (codes) {
    print.set('codes', '1');
  }
  return (
    <>
      <div className="bar">
        <Checkbox.Group
          options={kinds.map(([value, label]) => ({ value, label }))}
          value={chosen}
          onChange={(all) => choose(all.map(String))}
        />
        <Select
          size="small"
          allowClear
          aria-label="of one plug"
          placeholder="of every plug"
          style={{ width: 140 }}
          showSearch
          virtual={false}
          value={plug || undefined}
          onChange={(p?: string) => setPlug(p ?? '')}
          options={(labels.data?.plugs ?? []).map((p) => ({ value: p, label: p }))}
        />
      </div>
      <div className="bar">
        <Select
          size="small"
          aria-label="paper"
          style={{ width: 240 }}
          virtual={false}
          placeholder="paper"
          onChange={(name: string) => {
            const s = stocks[name];
            if (s) {
              put(s);
            }
          }}
          options={Object.keys(stocks).map((name) => ({ value: name, label: name }))}
        />
        {numbers
          .filter(([k]) => !stock.roll || k === 'wide' || k === 'high')
          .map(([k, word]) => (
            <span key={k} className="quiet">
              <NumberField
                label={word}
                width={64}
                min={0}
                value={stock[k]}
                onChange={(x) => x !== undefined && put({ ...stock, [k]: x })}
              />{' '}
              {word}
            </span>
          ))}
        <Checkbox checked={codes} onChange={(e) => setCodes(e.target.checked)}>
          QR to the wire
        </Checkbox>
      </div>
      <p data-testid="labels">
        <strong className="mono">{labels.data?.all ?? '…'}</strong> labels{' '}
        <a href={fileAddress(job, `handover/labels.pdf?${print.toString()}`)}>PDF</a>{' '}
        <a href={fileAddress(job, `handover/labels.csv?${filter.toString()}`)}>CSV</a>{' '}
        <span className="quiet">
          {(labels.data?.first ?? [])
            .slice(0, 4)
            .map((s) => s.text)
            .join(' · ')}
        </span>
      </p>
    </>
  );
}
