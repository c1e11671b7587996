import { useEffect, useState, type ReactNode } from 'react';
import { onPasscodeWanted } from '../api/client';
import { later } from './later';

const Passcode = later(async () => (await import('./Passcode')).Passcode);

/** Shows the page, or asks a device that comes from the network for the passcode first. */
export function PassGate({ children }: { children: ReactNode }) {
  const [wanted, setWanted] = useState(false);
  useEffect(() => onPasscodeWanted(() => setWanted(true)), []);
  return (
    <>
      {wanted && <Passcode onIn={() => setWanted(false)} />}
      <div style={{ height: '100%', display: wanted ? 'none' : undefined }}>{children}</div>
    </>
  );
}
