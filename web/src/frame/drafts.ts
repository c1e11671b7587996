/*
 * What is typed into a field and not kept yet survives a reload, a link, the way back and sleep: it is written down for this
 * window from the first letter on, and put back when the field is there again and holds what it held before.
 */

type Field = HTMLInputElement | HTMLTextAreaElement;

/** What was typed, and what stood in the field before. */
interface Draft {
  text: string;
  before: string;
}

const prefix = 'draxel-draft ';
const look = 400; // ms between looks at what became of what is typed
const settling = 3000; // ms that a field may take to get what it holds

/** What a field held before it was typed into, the draft of it, where there is one, and one that waits for what it held. */
interface Known {
  name: string;
  before: string;
  since: number;
  draft?: Draft;
  waits?: Draft;
}

const fields = new Map<Field, Known>();

/** The page that a field belongs to. What is sought in it is no part of it. */
function pageName() {
  const asked = new URLSearchParams(location.search);
  asked.delete('find');
  return `${location.pathname}?${asked}`;
}

/**
 * What a field is called, or nothing where what is typed into it is not to be kept: what is sought, a passcode, a choice, a
 * cell of a list, which is kept when it is left.
 */
function nameOf(e: Field): string | undefined {
  const label = e.getAttribute('aria-label') ?? (e.id || e.placeholder);
  const sought = /^\/? ?find/.test(label) || e.type === 'search' || e.placeholder.startsWith('find');
  const text = e instanceof HTMLTextAreaElement || ['text', 'number', ''].includes(e.type);
  const other = e.getAttribute('role') === 'combobox' || e.closest('[role=grid]') !== null;
  return text && label && !sought && !other ? label : undefined;
}

const isField = (e: unknown): e is Field => e instanceof HTMLInputElement || e instanceof HTMLTextAreaElement;

function read(name: string): Draft | undefined {
  try {
    return JSON.parse(sessionStorage.getItem(prefix + name) ?? 'null') as Draft | undefined;
  } catch {
    return undefined; // what cannot be read is none
  }
}

function write(name: string, d: Draft | undefined) {
  try {
    if (d) {
      sessionStorage.setItem(prefix + name, JSON.stringify(d));
    } else {
      sessionStorage.removeItem(prefix + name);
    }
  } catch {
    // a window without storage forgets it
  }
}

/** Puts text into a field as if it had been typed, so that whoever draws it knows. */
function type(e: Field, text: string) {
  const kind = e instanceof HTMLInputElement ? HTMLInputElement.prototype : HTMLTextAreaElement.prototype;
  Object.getOwnPropertyDescriptor(kind, 'value')?.set?.call(e, text);
  e.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Meets fields that are new on the page: what was typed into them before is put back. */
function meet() {
  const page = pageName();
  const times = new Map<string, number>();
  document
    .querySelectorAll<Field>('main input, main textarea, [role=dialog] input, [role=dialog] textarea')
    .forEach((e) => {
      const label = nameOf(e);
      if (!label) {
        return;
      }
      const nth = times.get(label) ?? 0;
      times.set(label, nth + 1);
      if (fields.has(e)) {
        return;
      }
      const name = `${page} ${label} ${nth}`;
      const draft = read(name);
      fields.set(e, { name, before: e.value, since: Date.now(), ...(draft ? { waits: draft } : {}) });
      setTimeout(() => putBack(e)); // each by itself: whoever draws it knows of one before the next
    });
}

/** Puts a draft back into its field as soon as that holds what it held before it was typed into. */
function putBack(e: Field) {
  const f = fields.get(e);
  const draft = f?.waits;
  if (!f || !draft) {
    return;
  }
  if (draft.before === e.value && draft.text !== e.value) {
    fields.set(e, { name: f.name, before: e.value, since: f.since, draft });
    type(e, draft.text);
  } else if (Date.now() - f.since > settling || draft.text === e.value) {
    fields.set(e, { name: f.name, before: e.value, since: f.since });
    write(f.name, undefined); // it has been kept, or is another's by now
  }
}

/** Looks what became of what was typed: a field that its page has changed, or taken away, has been kept or given up. */
function settle() {
  const page = pageName();
  fields.forEach((f, e) => {
    if (!e.isConnected) {
      if (f.draft && f.name.startsWith(`${page} `)) {
        write(f.name, undefined); // the page is the same, and the field is gone: a dialog that was closed
      }
      fields.delete(e);
    } else if (f.draft && e.value !== f.draft.text) {
      write(f.name, undefined);
      fields.set(e, { name: f.name, before: e.value, since: f.since });
    } else {
      putBack(e);
    }
  });
}

function typed(event: Event) {
  const e = event.target;
  const f = isField(e) ? fields.get(e) : undefined;
  if (!f || !isField(e)) {
    return;
  }
  const draft = e.value === f.before ? undefined : { text: e.value, before: f.before };
  fields.set(e, { name: f.name, before: f.before, since: f.since, ...(draft ? { draft } : {}) });
  write(f.name, draft);
}

/** A field that is entered holds what its page has put into it since it was first seen. */
function enter(event: Event) {
  const e = event.target;
  const f = isField(e) ? fields.get(e) : undefined;
  if (f && isField(e) && !f.draft) {
    fields.set(e, { ...f, before: e.value });
  }
}

/** Keeps what is typed in this window, whatever page it is typed into. */
export function keepDrafts() {
  let asked = false;
  const soon = () => {
    if (!asked) {
      asked = true;
      requestAnimationFrame(() => {
        asked = false;
        meet();
      });
    }
  };
  new MutationObserver(soon).observe(document.body, { childList: true, subtree: true });
  document.addEventListener('input', typed, true);
  document.addEventListener('focusin', enter, true);
  setInterval(settle, look);
  // A field that keeps what it holds when it is left keeps it also when the page is.
  window.addEventListener('pagehide', () => (document.activeElement as HTMLElement | null)?.blur(), true);
}
