import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath } from './hooks';
import type { FeedTree, FeedView, Outcome } from './types.gen';

export const useFeed = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'feed'],
    queryFn: () => request<FeedView>('GET', `${jobPath(job)}/feed`),
  });

/** One change of the network that is only asked about. */
export interface Fault {
  do: 'open' | 'worse' | 'short' | 'stuck' | 'dead' | 'force' | 'weak';
  volts?: string;
  element?: string;
  a?: string;
  b?: string;
  ohms?: string;
  on?: string;
}

/** A position of the key with the switches of their own that are on. */
const conditionOf = (position: string, on: string[]) => {
  const q = new URLSearchParams({ position });
  on.forEach((x) => q.append('sw', x));
  return q;
};

/** The tree where other switches are on than as a rule. */
export const useFeedTree = (job: string, revision: number, position: string, on: string[], asked: boolean) =>
  useQuery({
    queryKey: ['job', job, 'feedtree', revision, position, on],
    queryFn: () => request<FeedTree>('GET', `${jobPath(job)}/feed/tree?${conditionOf(position, on)}`),
    enabled: asked,
    staleTime: Infinity,
    placeholderData: (last) => last,
  });

export function useWhatIf(job: string, revision: number, position: string, on: string[], fault?: Fault) {
  return useQuery({
    queryKey: ['job', job, 'whatif', revision, position, on, fault],
    queryFn: () => {
      const q = conditionOf(position, on);
      Object.entries(fault ?? {}).forEach(([k, v]) => q.set(k, String(v)));
      return request<Outcome>('GET', `${jobPath(job)}/feed/ask?${q}`);
    },
    enabled: !!fault,
    staleTime: Infinity,
    retry: false,
  });
}

export const feedFile = (job: string, kind: 'spice' | 'dot', position: string) =>
  `/api${jobPath(job)}/feed/${kind}?position=${position}`;
