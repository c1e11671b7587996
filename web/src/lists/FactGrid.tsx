import './lists.css';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import type { CellEdit, Field, SheetRow } from '../api/types.gen';
import { VirtualRows } from '../frame/VirtualRows';
import { indexOfLine } from './typed';

interface Props {
  label: string;
  fields: Field[];
  rows: SheetRow[];
  /** The line at which a row is added. */
  next: number;
  onEdit: (edits: CellEdit[]) => void;
  onStrike: (line: number) => void;
}

const widths: Record<string, string> = {
  function: 'minmax(150px, 1fr)',
  note: 'minmax(110px, 0.7fr)',
  legs: 'minmax(150px, 1fr)',
  device: 'minmax(120px, 0.8fr)',
  joined: '120px',
  in: 'minmax(74px, 0.4fr)',
  out: 'minmax(74px, 0.4fr)',
  plus: 'minmax(74px, 0.4fr)',
  minus: 'minmax(74px, 0.4fr)',
  closed: 'minmax(74px, 0.4fr)',
  source: 'minmax(110px, 0.6fr)',
  switch: 'minmax(110px, 0.6fr)',
  relay: 'minmax(90px, 0.5fr)',
  cable: 'minmax(110px, 0.6fr)',
  load: 'minmax(110px, 0.6fr)',
  fromCavity: '54px',
  toCavity: '54px',
  size: '46px',
  branch: '112px',
  parent: '140px',
  connector: '110px',
  splice: '96px',
  mate: '110px',
};

/** A list that is edited in place, cell by cell from the keyboard, or by pasting a block from a spreadsheet. */
export function FactGrid({ label, fields, rows, next, onEdit, onStrike }: Props) {
  const [at, setAt] = useState({ line: 0, col: 0 }); // a line by its number: replies change which row it is
  const [draft, showDraft] = useState<string | undefined>();
  const typed = useRef<string | undefined>(undefined); // at once: a cell that is left by a key is blurred too, and is kept once
  const setDraft = (text: string | undefined) => {
    typed.current = text;
    showDraft(text);
  };
  const columns = fields.map((f) => widths[f.name] ?? '74px').join(' ');
  const all = [...rows, { line: next, cells: {} as Record<string, string> }];
  const row = indexOfLine(all, at.line);
  const col = Math.min(at.col, fields.length - 1);
  const here = all[row];
  const field = fields[col];
  const move = (dr: number, dc: number) => {
    const from = here?.line ?? next;
    setAt({
      line: row + dr < all.length ? (all[Math.max(0, row + dr)]?.line ?? next) : from + dr,
      col: Math.max(0, Math.min(fields.length - 1, col + dc)),
    });
  };
  const commit = (dr: number, dc: number) => {
    const text = typed.current;
    if (text === undefined) {
      return;
    }
    setDraft(undefined);
    const changed = here && field && text !== (here.cells[field.name] ?? '');
    if (changed) {
      onEdit([{ line: here.line, field: field.name, text }]);
    }
    move(here?.line === next && !changed ? 0 : dr, dc); // below the last line there is one as soon as that has something in it
  };
  const keyed = (e: KeyboardEvent) => {
    if (!here || !field) {
      return;
    }
    const moves: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = moves[e.key];
    if (draft !== undefined) {
      if (e.key === 'Enter') {
        commit(1, 0);
      } else if (e.key === 'Tab') {
        commit(0, e.shiftKey ? -1 : 1);
      } else if (e.key === 'Escape') {
        setDraft(undefined);
      } else {
        return;
      }
    } else if (step) {
      move(row === all.length - 1 ? Math.min(0, step[0]) : step[0], step[1]);
    } else if (e.key === 'Enter' || e.key === 'F2') {
      setDraft(here.cells[field.name] ?? '');
    } else if (e.key === 'Delete' && e.ctrlKey) {
      onStrike(here.line);
    } else if (e.key === 'Delete' || e.key === 'Backspace') {
      onEdit([{ line: here.line, field: field.name, text: '' }]);
    } else if (e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey) {
      setDraft(e.key);
    } else {
      return;
    }
    e.preventDefault();
    e.stopPropagation();
    if (draft !== undefined || step) {
      (e.currentTarget as HTMLElement).querySelector<HTMLElement>('[role=grid]')?.focus();
    }
  };
  const pasted = (e: ClipboardEvent) => {
    const text = e.clipboardData.getData('text/plain');
    if (draft !== undefined || !text || !here) {
      return;
    }
    e.preventDefault();
    const edits: CellEdit[] = [];
    const lines = text.replace(/\r/g, '').replace(/\n$/, '').split('\n');
    lines.forEach((line, i) => {
      const target = all[row + i]?.line ?? next + (row + i - (all.length - 1));
      line.split('\t').forEach((value, k) => {
        const f = fields[col + k];
        if (f) {
          edits.push({ line: target, field: f.name, text: value.trim() });
        }
      });
    });
    onEdit(edits);
  };
  return (
    <div className="factgrid" onKeyDown={keyed} onPaste={pasted}>
      <VirtualRows
        rows={all}
        keyOf={(r) => r.line}
        estimate={30}
        label={label}
        className="wirelist"
        at={row}
        activeID={`cell-${row}-${col}`}
        testID="factgrid"
        head={
          <div
            className="factrow headrow"
            role="row"
            aria-rowindex={1}
            style={{ gridTemplateColumns: columns }}
          >
            {fields.map((f) => (
              <span key={f.name} role="columnheader">
                {f.title}
              </span>
            ))}
          </div>
        }
        draw={(r, i) => (
          <div className="factrow" role="row" aria-rowindex={i + 2} style={{ gridTemplateColumns: columns }}>
            {fields.map((f, k) => {
              const on = i === row && k === col;
              return (
                <span
                  key={f.name}
                  id={`cell-${i}-${k}`}
                  role="gridcell"
                  aria-selected={on}
                  className={on ? 'on' : ''}
                  title={r.cells[f.name]}
                  onMouseDown={() => {
                    if (draft !== undefined) {
                      commit(0, 0);
                    }
                    setAt({ line: r.line, col: k });
                  }}
                  onDoubleClick={() => setDraft(r.cells[f.name] ?? '')}
                >
                  {on && draft !== undefined ? (
                    <input
                      autoFocus
                      aria-label={`${f.title} of line ${r.line}`}
                      value={draft}
                      onChange={(e) => setDraft(e.target.value)}
                      onBlur={() => commit(0, 0)}
                    />
                  ) : (
                    (r.cells[f.name] ??
                    (i === rows.length && k === 0 ? <span className="quiet">add…</span> : ''))
                  )}
                </span>
              );
            })}
          </div>
        )}
      />
    </div>
  );
}
