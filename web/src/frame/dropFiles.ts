import { notice } from './notice';

/*
 * A file that is let go anywhere over a page is brought as if it had been chosen there. A page that takes none says so: the
 * browser would open the file, and leave the page.
 */

/** Whether a file has one of the endings that a field takes: ".csv,.xlsx", "image/*". */
export function takes(accept: string, file: Pick<File, 'name' | 'type'>): boolean {
  return accept
    .toLowerCase()
    .split(',')
    .map((a) => a.trim())
    .some(
      (a) =>
        a === '' ||
        (a.startsWith('.') && file.name.toLowerCase().endsWith(a)) ||
        (a.endsWith('/*') ? file.type.startsWith(a.slice(0, -1)) : file.type === a),
    );
}

/** The fields for files that can be reached: those of what lies over the page, or of the page. */
function open(): HTMLInputElement[] {
  const over = [...document.querySelectorAll('[role=dialog]')].filter((d) => d.checkVisibility());
  const where = over.length > 0 ? over : [...document.querySelectorAll('main, header')];
  return where.flatMap((w) => [...w.querySelectorAll<HTMLInputElement>('input[type=file]')]);
}

/** The field that is meant: the nearest around the place that takes the file. */
function meant(file: File, at: EventTarget | null): HTMLInputElement | undefined {
  const all = open().filter((f) => takes(f.accept, file));
  for (let e = at instanceof Element ? at : null; e; e = e.parentElement) {
    const within = all.filter((f) => e.contains(f));
    if (within.length > 0) {
      return within[0];
    }
  }
  return all[0];
}

const ofFiles = (e: DragEvent) => e.dataTransfer?.types.includes('Files');

function over(e: DragEvent) {
  if (!e.defaultPrevented && ofFiles(e)) {
    e.preventDefault();
    document.documentElement.classList.toggle('dropping', open().length > 0);
  }
}

function leave(e: DragEvent) {
  if (!e.relatedTarget) {
    document.documentElement.classList.remove('dropping');
  }
}

function drop(e: DragEvent) {
  document.documentElement.classList.remove('dropping');
  const file = e.dataTransfer?.files[0];
  if (e.defaultPrevented || !file) {
    return; // it was taken where it fell
  }
  e.preventDefault();
  const field = meant(file, e.target);
  if (!field) {
    const wanted = open().map((f) => f.ariaLabel ?? 'file');
    notice.warning(
      wanted.length > 0
        ? `This page takes: ${wanted.join(', ')}. “${file.name}” is none.`
        : 'No file is brought on this page.',
    );
    return;
  }
  const one = new DataTransfer();
  one.items.add(file);
  field.files = one.files;
  field.dispatchEvent(new Event('change', { bubbles: true }));
}

/** Takes files that are let go over any page. */
export function dropFiles() {
  document.addEventListener('dragover', over);
  document.addEventListener('dragleave', leave);
  document.addEventListener('drop', drop);
}
