import type { Candidate, Line, MatchView, Ref, Row, Want } from '../../api/types.gen';
import { colourName } from '../../harness/insulation';
import { refKey, refName, sameRef } from '../../harness/cavity';

/** A line of the spread: a From row with its verdict, or a To row that nothing fills. */
export interface SpreadRow {
  /** "from A14" or "to B13": what the address names it by. */
  key: string;
  side: 'from' | 'to';
  from?: Row;
  line?: Line;
  want?: Want;
  /** Open From rows that may yet fill the To cavity. */
  maybe?: string[];
  /** The To row where the wire goes, or that wants one. */
  to?: Row;
  system: string;
  device: string;
}

/** A heading between rows when they are grouped by device. */
export interface Heading {
  key: string;
  heading: string;
}

export const isHeading = (r: SpreadRow | Heading): r is Heading => 'heading' in r;

export interface Filter {
  open: boolean;
  system: string;
  connector: string;
  text: string;
  group: boolean;
}

export const isOpen = (r: SpreadRow) => (r.line ? !r.line.decided : r.want?.verdict === 'needs-wire');

/** Whether the row ends in a To cavity. */
export const feeds = (l: Line) =>
  ['stays', 'moves', 'moves-connector', 'meets', 'plugged'].includes(l.verdict);

export function spreadRows(view: MatchView): SpreadRow[] {
  const from = new Map(view.from.rows.map((r) => [refKey(r.ref), r]));
  const to = new Map(view.to.rows.map((r) => [refKey(r.ref), r]));
  const rows: SpreadRow[] = view.lines.map((line) => {
    const row = from.get(refKey(line.from));
    return {
      key: `from ${refName(line.from)}`,
      side: 'from',
      from: row,
      line,
      to: line.to && to.get(refKey(line.to)),
      system: row?.signal.system ?? '',
      device: row?.signal.name ?? 'not read',
    };
  });
  for (const want of view.wants) {
    const row = to.get(refKey(want.to));
    const maybe = view.lines.filter(
      (l) => l.verdict === 'undecided' && l.candidates?.some((c) => refKey(c.to) === refKey(want.to)),
    );
    rows.push({
      maybe: maybe.map((l) => refName(l.from)),
      key: `to ${refName(want.to)}`,
      side: 'to',
      want,
      to: row,
      system: row?.signal.system ?? '',
      device: row?.signal.name ?? 'not read',
    });
  }
  return rows;
}

const words = (r: Row | undefined) =>
  r
    ? `${refName(r.ref)} ${r.circuit ?? ''} ${r.function ?? ''} ${colourName(r.colour)} ${r.colour.written} ${r.signal.name ?? ''}`
    : '';

export function filterRows(rows: SpreadRow[], f: Filter): SpreadRow[] {
  const wanted = f.text.toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter((r) => {
    if (f.open && !isOpen(r)) {
      return false;
    }
    if (f.system && r.system !== f.system) {
      return false;
    }
    if (
      f.connector &&
      `from ${r.from?.ref.connector}` !== f.connector &&
      `to ${r.to?.ref.connector}` !== f.connector
    ) {
      return false;
    }
    const text = `${words(r.from)} ${words(r.to)}`.toLowerCase();
    return wanted.every((w) => text.includes(w));
  });
}

export function groupRows(rows: SpreadRow[]): (SpreadRow | Heading)[] {
  const by = (r: SpreadRow) => `${r.system || 'not read'} · ${r.device}`;
  const sorted = rows.map((r, i) => ({ r, i })).sort((a, b) => by(a.r).localeCompare(by(b.r)) || a.i - b.i);
  const out: (SpreadRow | Heading)[] = [];
  let last = '';
  for (const { r } of sorted) {
    const heading = by(r);
    if (heading !== last) {
      out.push({ key: `heading ${heading}`, heading });
      last = heading;
    }
    out.push(r);
  }
  return out;
}

/** The candidates of an open row, the offered or named one first. */
export function candidatesOf(r: SpreadRow): Candidate[] {
  if (!r.line || r.line.decided) {
    return [];
  }
  const { line } = r;
  const all = line.candidates ?? [];
  // What an earlier job says comes first, whatever the evidence here.
  return line.verify && line.to
    ? [{ to: line.to, p: line.p }, ...all.filter((c) => !sameRef(c.to, line.to))]
    : all;
}

/** How likely a candidate is: that of the pair that is offered counts what is exchangeable with it. */
export const sureOf = (line: Line, candidate: Candidate) =>
  line.to && sameRef(line.to, candidate.to) ? Math.max(line.p, candidate.p) : candidate.p;

/** The row's key after this one that is still open, round the end to the beginning; the row itself when it is the last. */
export function nextOpen(rows: SpreadRow[], key: string): string {
  const at = rows.findIndex((r) => r.key === key);
  const around = [...rows.slice(at + 1), ...rows.slice(0, Math.max(at, 0))];
  return (around.find((r) => isOpen(r)) ?? rows[at])?.key ?? key;
}

export const toRow = (view: MatchView, ref: Ref | undefined) =>
  ref && view.to.rows.find((r) => refKey(r.ref) === refKey(ref));

export const percent = (p: number) => {
  const n = Math.round(100 * p);
  return n === 100 && p < 0.9995 ? '99' : String(n);
};
