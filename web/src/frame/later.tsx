import { useEffect, useRef, useState, type ComponentType } from 'react';

const loads: (() => Promise<unknown>)[] = [];

/** How long, in ms, before what could not be fetched is asked for again, as long as somebody wants it. */
const again = 1500;

/** How long, in ms, a page that has been drawn has for its data, before what comes later is fetched. */
export const moment = 400;

/**
 * A part of the frame that is not needed to draw it: a dialog. It is fetched when the frame has been drawn, so that it
 * is there before a hand asks for it, and not before. Where it cannot be fetched the page stays as it is, with all that
 * is typed in it, and the part comes as soon as the server answers. What stands in the page from the start and is seen
 * only when there is something to say waits (patience, in ms) until it is drawn.
 */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  patience = 0,
): ComponentType<P> {
  let Part: ComponentType<P> | undefined;
  const fetched = async () => {
    Part ??= await load();
  };
  loads.push(fetched);
  return function Later(props: P) {
    const [, drawn] = useState(0);
    const here = useRef(Part !== undefined); // when it was first drawn: it may come before what follows is run
    useEffect(() => {
      let waiting: ReturnType<typeof setTimeout> | undefined;
      let gone = false;
      const ask = () => {
        fetched().then(
          () => gone || drawn((n) => n + 1),
          () => {
            if (!gone) {
              waiting = setTimeout(ask, again);
            }
          },
        );
      };
      if (here.current) {
        return;
      }
      if (patience > 0) {
        waiting = setTimeout(ask, patience);
      } else {
        ask();
      }
      return () => {
        gone = true;
        clearTimeout(waiting);
      };
    }, []);
    return Part ? <Part {...props} /> : null;
  };
}

/** Fetches what comes later, once the page that calls it has been drawn and has had a moment for its data. */
export function useLater() {
  useEffect(() => {
    const waiting = setTimeout(() => loads.forEach((load) => void load().catch(() => undefined)), moment);
    return () => clearTimeout(waiting);
  }, []);
}
