import { hand, newChangeID, ProblemError, request, whoIsWorking } from '../api/client';
import type { Done, LettersRequest } from '../api/types.gen';
import { keep, nextOrder, read } from './kept';

/** A change of a job on its way to the server. Its id makes it one change, however often it is sent. */
export interface Letter {
  id: string;
  method: 'POST' | 'PUT';
  /** Below the job: "/match/decide". */
  path: string;
  body: object;
  /** What it is about: a change of the same thing that was made here a moment ago has been seen. */
  subject?: string;
  /** Which bench made it, and what it does to which step: what that bench shows until it has arrived. */
  chain?: string;
  step?: string;
  /** What was typed or done, for the list of what was not taken: a thing of hands is kept there whenever it is refused. */
  says?: string;
  /** When it was written, ms, and which window wrote it. */
  at: number;
  window: string;
  /** Its place in the order, counted by all windows of this browser: clocks are set back. Letters of old have none. */
  order?: number;
  /** The hand that wrote it; letters of old have none. */
  hand?: string;
}

/** A change that was refused, with the reason: it is kept until it is sent again or thrown away. */
export interface Fallen {
  letter: Letter;
  why: string;
}

/** A change that the server will not make, and how many that rest on it were dropped with it. */
export class Refused extends ProblemError {
  constructor(
    error: ProblemError,
    readonly letter: Letter,
    readonly heldUp: number,
    /** It is the one that was refused, not one of those that it held up. */
    readonly first: boolean,
  ) {
    super(error.problem);
  }
}

/** The last change that was made here of a thing: its id, and the revision that it made. */
interface Made {
  id: string;
  revision: number;
}

interface Waiting {
  done: (d: Done) => void;
  refused: (e: Refused) => void;
}

/** What has not been answered, whether nobody answers, and the latest revision that a change of this browser made. */
interface Unsent {
  letters: readonly Letter[];
  fallen: readonly Fallen[];
  cut: boolean;
  /** Some of it is in this page alone: the browser had no room to keep it. */
  loose: boolean;
  revision: number;
}

const retry = 2000; // ms between tries while nobody answers
const orphaned = 3000; // ms after which another window's letter is taken on: it may be closed
const mostFaults = 4; // answers that are faults, after which a letter is given up
const mostFallen = 200; // refused changes that are kept, the latest
const atOnce = 1500; // ms in which a person who is told of a refusal still knows which key it was
const mostAtOnce = 60_000; // bytes that a page which is closed may still send

const windowID = (() => {
  const kept = sessionStorage.getItem('draxel-window');
  const id = kept ?? newChangeID();
  sessionStorage.setItem('draxel-window', id);
  return id;
})();

/** Whether the answer is no. A server that is out of order, full or stopping, that asks for the passcode, that did not hear all of it or has too much to do, has not answered yet. */
const refuses = ({ problem }: ProblemError) =>
  problem.status >= 400 && problem.status < 500 && ![401, 408, 429].includes(problem.status);

/** What a letter is about, as the server tells things apart; empty where it is about nothing of its own. */
const about = (l: Letter) => (l.subject ? `${l.path} ${l.subject}` : '');

/** The step that a letter is about, whatever it does to it. */
const stepOf = (l: Letter) => (l.step ?? '').replace(/^(back|report) /, '');

/**
 * Whether a letter rests on an earlier one: taking a tick back rests on the tick. Everything else is judged by the server
 * as things are: what was made on what is not there is refused by itself.
 */
const restsOn = (later: Letter, earlier: Letter) =>
  !!later.chain && later.chain === earlier.chain && !!later.step && stepOf(later) === stepOf(earlier);

/** Whether a change that arrived stands in the place of a refused one. What was typed is nobody's to throw away but the person's. */
const replaces = (arrived: Letter, fallen: Letter) =>
  restsOn(arrived, fallen) || (!fallen.says && about(fallen) !== '' && about(fallen) === about(arrived));

const inOrder = (a: Letter, b: Letter) =>
  (a.order ?? 0) - (b.order ?? 0) || a.at - b.at || a.window.localeCompare(b.window);

/**
 * The changes of one job that this browser has not brought to the server yet: sent in order, one after the other, each
 * once by its id, and kept over a reload, a restart and a dead network until the server has answered.
 */
export class Outbox {
  private letters: Letter[] = [];
  private readonly waiting = new Map<string, Waiting>();
  private readonly listeners = new Set<() => void>();
  private own: Record<string, Made>;
  private sending = false;
  private faults = 0;
  private readonly loose = new Set<string>(); // letters that the browser had no room for
  private fallen: Fallen[];
  private snapshot: Unsent = { letters: [], fallen: [], cut: false, loose: false, revision: 0 };
  /** The latest revision that a change of this browser made. */
  revision = 0;
  /** Called when everything has been answered, and now and then on the way: what is shown is to be read anew. */
  onAnswered: () => void = () => undefined;
  /** Called with a refusal that nobody in this page waits for: its letter was written before the page was loaded. */
  onRefused: (e: Refused) => void = () => undefined;

  constructor(readonly job: string) {
    this.own = (read(this.ownKey) as Record<string, Made> | null | undefined) ?? {};
    this.fallen = (read(this.fallenKey) as Fallen[] | null | undefined) ?? [];
    this.show();
    this.adopt(true);
    setInterval(() => {
      this.adopt(false);
      void this.send();
    }, retry);
    window.addEventListener('online', () => void this.send());
    window.addEventListener('pagehide', () => this.hurry());
    void this.send();
  }

  private get prefix() {
    return `draxel-letter ${this.job} `;
  }

  private get ownKey() {
    return `draxel-made ${this.job}`;
  }

  private get fallenKey() {
    return `draxel-fallen ${this.job}`;
  }

  subscribe = (call: () => void) => {
    this.listeners.add(call);
    return () => this.listeners.delete(call);
  };

  get = () => this.snapshot;

  private show(cut = this.snapshot.cut) {
    const loose = this.letters.some((l) => this.loose.has(l.id));
    this.snapshot = { letters: this.letters, fallen: this.fallen, cut, loose, revision: this.revision };
    this.listeners.forEach((call) => call());
  }

  /** Takes on what this window wrote before it was loaded anew, and what was left by windows that are gone. */
  private adopt(mine: boolean) {
    const known = new Set(this.letters.map((l) => l.id));
    const found: Letter[] = [];
    for (let i = 0; i < localStorage.length; i++) {
      const key = localStorage.key(i) ?? '';
      const letter = key.startsWith(this.prefix) ? (read(key) as Letter | null | undefined) : undefined;
      if (
        letter &&
        !known.has(letter.id) &&
        ((mine && letter.window === windowID) || letter.at < Date.now() - orphaned)
      ) {
        found.push(letter);
      }
    }
    if (found.length > 0) {
      this.letters = [...this.letters, ...found].sort(inOrder);
      this.show();
    }
  }

  /** Puts a change into the outbox. It is settled when the server has answered it. */
  post(l: Pick<Letter, 'method' | 'path' | 'body' | 'subject' | 'chain' | 'step' | 'says'>): Promise<Done> {
    const letter: Letter = {
      ...l,
      id: newChangeID(),
      at: Date.now(),
      window: windowID,
      order: nextOrder(),
      hand,
    };
    if (!keep(this.prefix + letter.id, letter)) {
      this.loose.add(letter.id);
    }
    this.letters = [...this.letters, letter];
    this.show();
    return new Promise((done, refused) => {
      this.waiting.set(letter.id, { done, refused });
      void this.send();
    });
  }

  /** Takes the last letter back if it has not been sent yet, and may be. */
  takeBack(may: (l: Letter) => boolean = () => true): Letter | undefined {
    const last = this.letters.at(-1);
    if (!last || !may(last) || (this.sending && this.letters.length === 1)) {
      return undefined;
    }
    this.drop([last]);
    this.waiting.delete(last.id);
    this.show();
    return last;
  }

  private drop(gone: readonly Letter[]) {
    const ids = new Set(gone.map((l) => l.id));
    ids.forEach((id) => localStorage.removeItem(this.prefix + id));
    this.letters = this.letters.filter((l) => !ids.has(l.id));
  }

  /** The change that a letter goes on from: the one before it here of the same thing, where that is later than what was shown. */
  private uponOf(l: Letter): string | undefined {
    const seen = (l.body as { seen?: number }).seen;
    const own = this.own[about(l)];
    return seen !== undefined && own && own.revision > seen ? own.id : undefined;
  }

  private async send() {
    if (this.sending) {
      return;
    }
    this.sending = true;
    let told = Date.now();
    for (let head = this.letters[0]; head; head = this.letters[0]) {
      try {
        const done = await request<Done>(
          head.method,
          `/jobs/${encodeURIComponent(this.job)}${head.path}`,
          { ...head.body, id: head.id },
          { lasts: true, hand: head.hand, upon: this.uponOf(head) },
        );
        this.arrived(head, done);
      } catch (e) {
        if (!(e instanceof ProblemError) || !this.answeredNo(head, e)) {
          this.show(true);
          break;
        }
      }
      if (this.letters.length > 0 && Date.now() - told > 400) {
        told = Date.now();
        this.onAnswered();
      }
    }
    this.sending = false;
    if (this.letters.length === 0) {
      this.onAnswered();
    }
  }

  private arrived(l: Letter, done: Done) {
    this.faults = 0;
    this.revision = Math.max(this.revision, done.revision);
    if (l.subject) {
      const subject = about(l);
      const kept = Object.entries(this.own).slice(-199);
      this.own = { ...Object.fromEntries(kept), [subject]: { id: l.id, revision: done.revision } };
      keep(this.ownKey, this.own);
    }
    this.drop([l]);
    if (this.fallen.some((f) => replaces(l, f.letter))) {
      this.setFallen(this.fallen.filter((f) => !replaces(l, f.letter)));
    }
    this.show(false);
    this.waiting.get(l.id)?.done(done);
    this.waiting.delete(l.id);
  }

  private setFallen(fallen: Fallen[]) {
    this.fallen = fallen.slice(-mostFallen);
    keep(this.fallenKey, this.fallen);
  }

  /** Puts refused changes into the outbox again; what was typed goes over whatever stands there now: the person has been told. */
  sendAgain(some: readonly Fallen[]) {
    this.throwAway(some.map((f) => f.letter));
    for (const { letter } of some) {
      const { seen } = letter.body as { seen?: number };
      const over = letter.says && seen !== undefined;
      const body = { ...letter.body, ...(over ? { seen: Number.MAX_SAFE_INTEGER } : {}) };
      this.post({ ...letter, body }).catch((e: unknown) => {
        if (e instanceof Refused && e.first) {
          this.onRefused(e);
        }
      });
    }
  }

  /** Throws refused changes away. */
  throwAway(some: readonly Letter[]) {
    const ids = new Set(some.map((l) => l.id));
    this.setFallen(this.fallen.filter((f) => !ids.has(f.letter.id)));
    this.show();
  }

  /** Drops a letter that was refused, with what rests on it, and keeps them as fallen. It is false where there was no answer to go by. */
  private answeredNo(head: Letter, e: ProblemError): boolean {
    if (!refuses(e)) {
      this.faults += e.problem.code === 'fault' ? 1 : 0;
      if (this.faults < mostFaults) {
        return false;
      }
    }
    this.faults = 0;
    const gone = this.letters.filter((l) => l === head || restsOn(l, head));
    this.drop(gone);
    const told = this.waiting.has(head.id) && Date.now() - head.at < atOnce; // a key that is answered at once is no loss
    this.setFallen([
      ...this.fallen,
      ...gone.filter((l) => l.says || !told).map((letter) => ({ letter, why: e.message })),
    ]);
    this.show(false);
    for (const l of gone) {
      const refused = new Refused(e, l, gone.length - 1, l === head);
      const waiting = this.waiting.get(l.id);
      if (waiting) {
        waiting.refused(refused);
      } else if (l === head) {
        this.onRefused(refused);
      }
      this.waiting.delete(l.id);
    }
    return true;
  }

  /** The page goes: what is left is sent in one piece that outlives it. Whatever does not arrive is still kept. */
  private hurry() {
    const letters: LettersRequest['letters'] = [];
    const last: Record<string, string> = {};
    let size = 0;
    for (const l of this.letters) {
      const body = { ...l.body, id: l.id };
      const upon = last[about(l)] ?? this.uponOf(l);
      if (l.subject) {
        last[about(l)] = l.id;
      }
      size += JSON.stringify(body).length + l.path.length + 60;
      if (size > mostAtOnce) {
        break;
      }
      letters.push({ method: l.method, path: l.path, body, hand: l.hand ?? hand, ...(upon ? { upon } : {}) });
    }
    if (letters.length > 0) {
      void fetch(`/api/jobs/${encodeURIComponent(this.job)}/letters`, {
        method: 'POST',
        keepalive: true,
        headers: { 'Content-Type': 'application/json', 'Draxel-Who': encodeURIComponent(whoIsWorking()) },
        body: JSON.stringify({ letters }),
      }).catch(() => undefined);
    }
  }
}

const all = new Map<string, Outbox>();

/** The outbox of a job: one in a page, whichever stage or bench writes. */
export function outboxOf(job: string): Outbox {
  const box = all.get(job) ?? new Outbox(job);
  all.set(job, box);
  return box;
}
