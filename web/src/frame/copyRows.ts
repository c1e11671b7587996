import { notice } from './notice';

/*
 * Copying a list: rows and columns as they are seen, as text with tabs and as a table, so that they can be put into a
 * spreadsheet. What is selected with the mouse is copied by whole rows; where nothing is, the whole list.
 */

/** What draws all rows of a list for a moment, of which otherwise only those in sight are drawn. */
const whole = new Map<Element, (all: boolean) => void>();

/** Says how a list draws all of its rows; gives what forgets it. */
export function drawsAll(list: Element, draw: (all: boolean) => void): () => void {
  whole.set(list, draw);
  return () => whole.delete(list);
}

/** Most rows that are put on paper or copied by drawing them: a list that is longer has a file of its own. */
export const mostDrawn = 20_000;

/** Has every list drawn as a whole while the page is being printed. */
export function printWhole() {
  addEventListener('beforeprint', () => whole.forEach((draw) => draw(true)));
  addEventListener('afterprint', () => whole.forEach((draw) => draw(false)));
}

const lists = '[role=grid], table';
const shown = (e: Element) => e.checkVisibility();

/** The list that is meant: the one with the focus or the selection in it, or the only one of the page. */
function meantList(selected: Selection | null): Element | undefined {
  const marked = selected && !selected.isCollapsed ? selected.anchorNode : undefined;
  const near = (marked instanceof Element ? marked : marked?.parentElement) ?? document.activeElement;
  const list = near?.closest(lists);
  if (list) {
    return list;
  }
  const all = [...document.querySelectorAll(`main :is(${lists})`)].filter(shown);
  return marked || all.length !== 1 ? undefined : all[0];
}

const words = (e: Element) => (e as HTMLElement).innerText.replace(/\s+/g, ' ').trim();

/** The cells of a row, as they are seen. */
function cellsOf(row: Element): string[] {
  if (row instanceof HTMLTableRowElement) {
    return [...row.cells].map(words);
  }
  const cells = [...row.querySelectorAll('[role=columnheader], [role=gridcell], [role=rowheader]')];
  return (cells.length > 0 ? cells : [...row.children]).map(words);
}

/** The rows of a list, by cells. */
export function rowsOf(list: Element, selected: Selection | null): string[][] {
  const marked = selected && !selected.isCollapsed;
  const draw = marked ? undefined : whole.get(list);
  draw?.(true);
  const rows = [...list.querySelectorAll('[role=row], tr')]
    .filter((r) => !marked || selected.containsNode(r, true))
    .map(cellsOf)
    .filter((cells) => cells.some((c) => c !== '' && c !== 'add…'));
  draw?.(false);
  const head = list.querySelector('[role=columnheader], th')?.closest('[role=row], tr');
  const columns = head ? cellsOf(head).length : Infinity; // what stands behind the last is there to be pressed
  return rows.map((cells) => cells.slice(0, columns));
}

/** Rows as text with tabs, in which no cell begins another row or column. */
export const asText = (rows: readonly string[][]) => rows.map((r) => r.join('\t')).join('\n');

/** Rows as a table. */
export function asTable(rows: readonly string[][]): string {
  const table = document.createElement('table');
  for (const r of rows) {
    const row = table.insertRow();
    r.forEach((text) => (row.insertCell().textContent = text));
  }
  return table.outerHTML;
}

function copied(e: ClipboardEvent) {
  const field = document.activeElement;
  if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) {
    return; // what is selected in a field is the field's
  }
  const selected = getSelection();
  const list = meantList(selected);
  const rows = list ? rowsOf(list, selected) : [];
  if (!e.clipboardData || rows.length === 0 || (rows.length === 1 && selected && !selected.isCollapsed)) {
    return; // a few words of one row are copied as they are
  }
  e.preventDefault();
  e.clipboardData.setData('text/plain', asText(rows));
  e.clipboardData.setData('text/html', asTable(rows));
  notice.success(`${rows.length} lines copied`);
}

/** Copies lists by their rows and columns on every page. */
export function copyRows() {
  document.addEventListener('copy', copied);
}
