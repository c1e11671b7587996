import type { message, Modal } from 'antd';

/** What says a sentence in passing, and what asks before something is done. */
interface Voice {
  says: ReturnType<typeof message.useMessage>[0];
  asks: ReturnType<typeof Modal.useModal>[0];
}

let voice: Voice | undefined;
let unsaid: ((v: Voice) => void)[] = [];

function speak(what: (v: Voice) => void) {
  if (voice) {
    what(voice);
  } else {
    unsaid.push(what);
  }
}

/** The voice has come, or goes (undefined). What was to be said before it came is said now. */
export function hear(v: Voice | undefined) {
  voice = v;
  if (v) {
    const now = unsaid;
    unsaid = [];
    now.forEach((what) => what(v));
  }
}

/** A sentence at the top of the page that goes by itself after some seconds, said from anywhere. */
export const notice = {
  info: (text: string, seconds?: number) => speak((v) => void v.says.info(text, seconds)),
  success: (text: string, seconds?: number) => speak((v) => void v.says.success(text, seconds)),
  warning: (text: string, seconds?: number) => speak((v) => void v.says.warning(text, seconds)),
};

/** Asks before something is done that a hand may not have meant. */
export const askFirst = (question: Parameters<Voice['asks']['confirm']>[0]) =>
  speak((v) => void v.asks.confirm(question));
