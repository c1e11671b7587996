import { createContext, useContext, type ComponentType } from 'react';
import type { Finding, OpenCounts } from '../api/types.gen';
import type { KeyLine } from '../keys/keymap';

/** A finding as far as its place is concerned. */
export type Placed = Pick<Finding, 'stage' | 'side' | 'subject' | 'place'>;

/** A stage as the frame knows it: stages/<name>/index.ts says it, and nothing else names a stage. */
export interface Stage {
  /** The one word: in the address, the API, the core and the folder. */
  name: keyof OpenCounts;
  /** What its number in the rail counts. */
  counts: string;
  /** What keys do in it. */
  keys: readonly KeyLine[];
  page: () => Promise<ComponentType>;
  /** Where one of its findings is seen to: the address below the job. */
  place: (f: Placed) => string;
  /** Findings of no stage are seen to here: they are about rows. */
  rest?: true;
}

const table = createContext<readonly Stage[]>([]);
export const StagesProvider = table.Provider;
export const useStages = () => useContext(table);

/** An address with what is asked of it; what is not said is left out. */
export function address(path: string, asked: Record<string, string | undefined>): string {
  const said = Object.entries(asked).filter((e): e is [string, string] => !!e[1]);
  const query = said.map(([k, v]) => `${k}=${encodeURIComponent(v)}`).join('&');
  return query ? `${path}?${query}` : path;
}

/** Where a finding is seen to: the address below the job. */
export function usePlaces(): (f: Placed) => string {
  const stages = useStages();
  return (f) =>
    f.stage === 'work'
      ? address('work', f.place?.of === 'step' ? { step: f.subject, done: '1' } : { own: f.subject })
      : ((stages.find((s) => s.name === f.stage) ?? stages.find((s) => s.rest))?.place(f) ?? 'work');
}
