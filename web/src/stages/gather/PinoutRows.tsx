import { Input } from 'antd';
import { useMemo, useState, type ReactNode } from 'react';
import type { Row, TableView } from '../../api/types.gen';
import { VirtualRows } from '../../frame/VirtualRows';
import { refName } from '../../harness/cavity';
import { colourName } from '../../harness/insulation';
import { WireSwatch } from '../../harness/WireSwatch';

type Column = TableView['reading']['columns'][number];

interface Props {
  rows: Row[];
  /** Whether the table has a column for the connector: without one a cavity is written with it. */
  named?: boolean;
  /** Puts a misprinted cell right; the table as it was brought is kept. */
  onCorrect?: (line: number, column: Column, text: string) => void;
  /** Strikes a line out; it stays in the table as it was brought. */
  onStrike?: (line: number) => void;
}

/** The rows as they were read. A cell is put right by clicking on it. */
export function PinoutRows({ rows, named = true, onCorrect, onStrike }: Props) {
  const [editing, edit] = useState<{ line: number; column: Column } | undefined>();
  const shared = useMemo(() => {
    const seen = new Set<number>();
    return new Set(rows.filter((r) => seen.has(r.line) || !seen.add(r.line)).map((r) => r.line));
  }, [rows]);
  const cell = (row: Row, column: Column, text: string, shown: ReactNode = text) => {
    if (editing?.line === row.line && editing.column === column) {
      const keep = (value: string) => {
        edit(undefined);
        if (value !== text) {
          onCorrect?.(row.line, column, value);
        }
      };
      return (
        <span role="gridcell">
          <Input
            size="small"
            autoFocus
            defaultValue={text}
            aria-label={`${column} of line ${row.line}`}
            onBlur={(e) => keep(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter') {
                keep(e.currentTarget.value);
              }
              if (e.key === 'Escape') {
                edit(undefined);
              }
            }}
          />
        </span>
      );
    }
    if (!onCorrect) {
      return <span role="gridcell">{shown}</span>;
    }
    return (
      <span role="gridcell" style={{ padding: 0 }}>
        <button
          className="cell"
          style={{ width: '100%', padding: '2px 7px' }}
          title="put it right"
          onClick={() => edit({ line: row.line, column })}
        >
          {shown || '\u00a0'}
        </button>
      </span>
    );
  };
  return (
    <VirtualRows
      rows={rows}
      keyOf={(row) => `${row.line} ${refName(row.ref)}`}
      estimate={33}
      label="rows"
      className="pinoutrows"
      head={head}
      draw={(row, index) => (
        <div className={`pinoutrow${row.empty ? ' emptyrow' : ''}`} role="row" aria-rowindex={index + 2}>
          <span role="gridcell" className="mono quiet">
            {row.line}
          </span>
          {shared.has(row.line) ? (
            <strong role="gridcell" className="mono" title={`one of several cavities on line ${row.line}`}>
              {refName(row.ref)}
            </strong>
          ) : (
            cell(
              row,
              'cavity',
              named ? row.ref.cavity : refName(row.ref),
              <strong className="mono">{refName(row.ref)}</strong>,
            )
          )}
          {cell(
            row,
            'colour',
            row.colour.written,
            <span
              style={{ display: 'flex', alignItems: 'center', gap: 6 }}
              title={`written ${row.colour.written}`}
            >
              {row.colour.written !== '' && <WireSwatch colour={row.colour} bare="right" />}
              <span className="mono">
                {colourName(row.colour)}
                {row.colour.written !== colourName(row.colour) && (
                  <div className="quiet">{row.colour.written}</div>
                )}
              </span>
            </span>,
          )}
          {cell(row, 'circuit', row.circuit ?? '')}
          {cell(row, 'function', row.function ?? '')}
          <span role="gridcell" className="quiet">
            {row.empty ? 'empty cavity' : (row.signal.text ?? 'not read')}
          </span>
          {cell(row, 'size', row.sizeText ?? '')}
          {cell(row, 'farEnd', row.farEnd ?? '')}
          {onStrike && (
            <span role="gridcell" style={{ padding: 0 }}>
              <button
                className="cell strike"
                title="strike the line out"
                aria-label={`strike out line ${row.line}`}
                onClick={() => onStrike(row.line)}
              >
                ✕
              </button>
            </span>
          )}
        </div>
      )}
    />
  );
}

const head = (
  <div className="pinoutrow headrow" role="row" aria-rowindex={1}>
    {['line', 'cavity', 'colour', 'circuit', 'function', 'read as', 'size', 'goes to'].map((h) => (
      <span key={h} role="columnheader">
        {h}
      </span>
    ))}
  </div>
);
