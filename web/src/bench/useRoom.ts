import { useCallback, useState } from 'react';

/** The room in px that an element has, as it changes. */
export function useRoom(): [
  (e: HTMLElement | null) => (() => void) | undefined,
  { width: number; height: number },
] {
  const [room, setRoom] = useState({ width: 560, height: 400 });
  const watch = useCallback((e: HTMLElement | null) => {
    if (!e) {
      return undefined;
    }
    const observer = new ResizeObserver(([entry]) => {
      if (entry) {
        const { width, height } = entry.contentRect;
        setRoom((old) =>
          Math.abs(old.width - width) + Math.abs(old.height - height) < 2 ? old : { width, height },
        );
      }
    });
    observer.observe(e);
    return () => observer.disconnect();
  }, []);
  return [watch, room];
}
