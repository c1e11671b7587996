import { useEffect, useRef, useState } from 'react';

/** Seconds since the step came up; what shows it is drawn anew each second. */
export function useClock(step: string): () => number {
  const began = useRef({ step: '', at: 0 });
  const [now, tick] = useState(() => performance.now());
  useEffect(() => {
    began.current = { step, at: performance.now() };
    const timer = setInterval(() => tick(performance.now()), 1000);
    return () => clearInterval(timer);
  }, [step]);
  return () => Math.max(0, (Math.max(now, performance.now()) - began.current.at) / 1000);
}

/** Writes seconds as 0:42. */
export const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
