import { lazy, Suspense, useEffect, type ComponentType } from 'react';

const loads: (() => Promise<unknown>)[] = [];

/**
 * A part of the frame that is not needed to draw it: a dialog. It is fetched when the frame has been drawn, so that it
 * is there before a hand asks for it, and not before.
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  loads.push(load);
  const Part = lazy(async () => ({ default: await load() }));
  return function Later(props: P) {
    return (
      <Suspense fallback={null}>
        <Part {...props} />
      </Suspense>
    );
  };
}

/** Fetches what comes later, once the page that calls it has been drawn and has had a moment for its data. */
export function useLater() {
  useEffect(() => {
    const waiting = setTimeout(() => loads.forEach((load) => void load().catch(() => undefined)), 400);
    return () => clearTimeout(waiting);
  }, []);
}
