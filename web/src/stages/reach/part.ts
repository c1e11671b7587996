import type { ReachView } from '../../api/types.gen';

/** What every part is given. */
export interface PartProps {
  job: string;
  view: ReachView;
  onError: (e: unknown) => void;
}

/** Changes the map, or the rules, as a whole. */
export type Changer<T> = (change: (doc: T) => T) => void;
