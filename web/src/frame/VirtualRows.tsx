import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { drawsAll, mostDrawn } from './copyRows';

interface Props<T> {
  rows: readonly T[];
  keyOf: (row: T) => string | number;
  /** Draws one row; index counts from 0. */
  draw: (row: T, index: number) => ReactNode;
  /** How high a row is before it is measured, in px. */
  estimate: number;
  label: string;
  className: string;
  /** Drawn above the rows, inside the scrolled box. */
  head?: ReactNode;
  /** The row that must be in sight, −1 for none. */
  at?: number;
  activeID?: string;
  testID?: string;
}

/** A long list of rows of which only those in sight are in the page, with the roles and counts of a grid all the same. */
export function VirtualRows<T>(p: Props<T>) {
  const { rows, keyOf, at = -1 } = p;
  const box = useRef<HTMLDivElement>(null);
  const [all, drawAll] = useState(false); // for the moment in which it is copied
  useEffect(() => (box.current ? drawsAll(box.current, (x) => flushSync(() => drawAll(x))) : undefined), []);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => p.estimate,
    getItemKey: (i) => {
      const row = rows[i];
      return row === undefined ? i : keyOf(row);
    },
    overscan: 14,
    scrollPaddingStart: 40,
    scrollPaddingEnd: 80,
  });
  useEffect(() => {
    if (at >= 0) {
      virtual.scrollToIndex(at, { align: 'auto' });
    }
  }, [at, virtual]);
  return (
    <div
      ref={box}
      className={p.className}
      role="grid"
      aria-label={p.label}
      aria-rowcount={rows.length + (p.head ? 1 : 0)}
      aria-activedescendant={p.activeID}
      tabIndex={0}
      data-testid={p.testID}
    >
      {p.head}
      <div
        role="presentation"
        style={{ height: all ? 'auto' : virtual.getTotalSize(), position: 'relative' }}
      >
        {all &&
          rows.slice(0, mostDrawn).map((row, i) => (
            <div key={`copied ${keyOf(row)}`} role="rowgroup">
              {p.draw(row, i)}
            </div>
          ))}
        {(all ? [] : virtual.getVirtualItems()).map((item) => {
          const row = rows[item.index];
          return (
            row !== undefined && (
              <div
                key={item.key}
                ref={virtual.measureElement}
                data-index={item.index}
                role="rowgroup"
                style={{ position: 'absolute', left: 0, right: 0, transform: `translateY(${item.start}px)` }}
              >
                {p.draw(row, item.index)}
              </div>
            )
          );
        })}
      </div>
    </div>
  );
}
