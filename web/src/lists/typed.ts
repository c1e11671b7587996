import type { CellEdit, Remark, SheetRow } from '../api/types.gen';

/** What hands did to a list: cells that were typed, lines that were struck out. */
export interface Typed {
  edits: CellEdit[];
  gone?: number[];
}

/** The lines of a list as they were read, those that were not taken in their places among them: what was typed stays in sight. */
export function linesOf(rows: readonly SheetRow[], rejected: readonly Remark[], fields: readonly string[]) {
  const refused = rejected.map((r): SheetRow => {
    const cells: Record<string, string> = {};
    fields.forEach((field, i) => {
      const text = r.cells?.[i];
      if (text) {
        cells[field] = text;
      }
    });
    return { line: r.line, cells };
  });
  return [...rows, ...refused].sort((a, b) => a.line - b.line);
}

/**
 * Lays what was typed and is not in the list as it was read over it, in the order in which it was typed: no reply and no
 * want of one takes it out of sight. Next is the line at which a row is added.
 */
export function withTyped(rows: readonly SheetRow[], next: number, typed: readonly Typed[]) {
  const lines = new Map(rows.map((r) => [r.line, r]));
  for (const { edits, gone } of typed) {
    for (const e of edits) {
      const row = lines.get(e.line) ?? { line: e.line, cells: {} };
      lines.set(e.line, { line: e.line, cells: { ...row.cells, [e.field]: e.text } });
      next = Math.max(next, e.line + 1);
    }
    gone?.forEach((line) => lines.delete(line));
  }
  return { rows: [...lines.values()].sort((a, b) => a.line - b.line), next };
}

/** Where the line with this number stands; where it is gone, where the line after it does. */
export function indexOfLine(rows: readonly SheetRow[], line: number) {
  const at = rows.findIndex((r) => r.line >= line);
  return at < 0 ? rows.length - 1 : at;
}
