import type { ReactNode } from 'react';

interface KeyProps {
  positions: readonly { name: string }[];
  at: string;
  onTurn: (position: string) => void;
  /** How a position is written, where not by its name. */
  word?: (name: string) => ReactNode;
  children?: ReactNode;
}

/** The positions of the key, one of which is chosen. */
export function KeyTabs({ positions, at, onTurn, word, children }: KeyProps) {
  return (
    <div className="bar feedkeys" role="group" aria-label="position of the key">
      {positions.map((p) => (
        <button
          key={p.name}
          className={`plain keytab${p.name === at ? ' on' : ''}`}
          aria-pressed={p.name === at}
          onClick={() => onTurn(p.name)}
        >
          {word ? word(p.name) : p.name}
        </button>
      ))}
      {children}
    </div>
  );
}

interface SwitchProps {
  label: string;
  switches: readonly string[];
  on: readonly string[];
  onFlip: (on: string[]) => void;
}

/** Switches of their own, each on or off. */
export function SwitchTabs({ label, switches, on, onFlip }: SwitchProps) {
  if (switches.length === 0) {
    return null;
  }
  const flip = (x: string) => onFlip(on.includes(x) ? on.filter((y) => y !== x) : [...on, x]);
  return (
    <div className="bar feedkeys" role="group" aria-label={label}>
      <span className="quiet">on:</span>
      {switches.map((x) => (
        <button
          key={x}
          className={`plain keytab${on.includes(x) ? ' on' : ''}`}
          aria-pressed={on.includes(x)}
          onClick={() => flip(x)}
        >
          {x}
        </button>
      ))}
    </div>
  );
}
