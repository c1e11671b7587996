import { useRef, type TouchEvent } from 'react';

const least = 90; // px that a finger travels before it is a swipe
const straight = 2; // how much farther sideways than up or down

/** A swipe to the left goes on, one to the right goes back, as the pages of a book do. */
export function useSwipe(onward: () => void, back: () => void) {
  const start = useRef<{ x: number; y: number } | undefined>(undefined);
  return {
    onTouchStart: (e: TouchEvent) => {
      const here = e.currentTarget.contains(e.target as Node); // and not in a dialog that lies over it
      const t = here && e.touches.length === 1 ? e.touches[0] : undefined;
      start.current = t && { x: t.clientX, y: t.clientY };
    },
    onTouchEnd: (e: TouchEvent) => {
      const t = e.changedTouches[0];
      if (!t || !start.current) {
        return;
      }
      const dx = t.clientX - start.current.x;
      const dy = t.clientY - start.current.y;
      start.current = undefined;
      if (Math.abs(dx) < least || Math.abs(dx) < straight * Math.abs(dy)) {
        return;
      }
      if (dx < 0) {
        onward();
      } else {
        back();
      }
    },
  };
}
