import { useState, type ReactNode } from 'react';

/** What is drawn from its first opening on, so that a page that never opens it need not make it. */
export function Opened({ open, children }: { open: boolean; children: ReactNode }) {
  const [was, setWas] = useState(open);
  if (open && !was) {
    setWas(true);
  }
  return (was || open) && children;
}
