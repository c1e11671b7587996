import { Button, Input } from 'antd';
import { useState } from 'react';
import type { Options, TableView } from '../../api/types.gen';
import { corrected } from './corrected';

const fields = ['connector', 'cavity', 'colour', 'circuit', 'function'] as const;
type Field = (typeof fields)[number];

interface Props {
  view: TableView;
  onOptions: (o: Options) => void;
}

/** Adds a row below the table as it was brought. */
export function AddRow({ view, onOptions }: Props) {
  const [row, setRow] = useState<Partial<Record<Field, string>>>({});
  const { columns, next } = view.reading;
  const offered = fields.filter((f) => f === 'connector' || columns.includes(f)); // what the table has no column for is not asked
  const add = () => {
    if (!row.cavity) {
      return;
    }
    const cells = { ...row };
    if (!columns.includes('connector') && row.connector) {
      cells.cavity = `${row.connector}-${row.cavity}`;
    }
    onOptions(
      corrected(
        view.options,
        fields
          .filter((f) => cells[f] && columns.includes(f))
          .map((column) => ({ line: next, column, text: cells[column] ?? '' })),
      ),
    );
    setRow({ connector: row.connector });
  };
  return (
    <div className="bar" data-testid="addrow" style={{ gap: 6, flexWrap: 'nowrap', padding: '6px 0' }}>
      {offered.map((f) => (
        <Input
          key={f}
          size="small"
          className={f === 'function' ? 'grow' : undefined}
          style={f === 'function' ? undefined : { width: 96 }}
          aria-label={`${f} of a new row`}
          placeholder={f}
          value={row[f] ?? ''}
          onChange={(e) => setRow({ ...row, [f]: e.target.value })}
          onPressEnter={add}
        />
      ))}
      <Button size="small" disabled={!row.cavity} onClick={add}>
        Add the row
      </Button>
    </div>
  );
}
