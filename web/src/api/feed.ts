import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath } from './hooks';
import type { FeedView, Outcome } from './types.gen';

export const useFeed = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'feed'],
    queryFn: () => request<FeedView>('GET', `${jobPath(job)}/feed`),
  });

/** One change of the network that is only asked about. */
export interface Fault {
  do: 'open' | 'worse' | 'short' | 'stuck' | 'dead' | 'force';
  element?: string;
  a?: string;
  b?: string;
  ohms?: string;
  on?: string;
}

export const useWhatIf = (job: string, revision: number, position: string, fault: Fault | undefined) =>
  useQuery({
    queryKey: ['job', job, 'whatif', revision, position, fault],
    queryFn: () =>
      request<Outcome>(
        'GET',
        `${jobPath(job)}/feed/ask?${new URLSearchParams({ position, ...(fault as unknown as Record<string, string>) })}`,
      ),
    enabled: !!fault,
    staleTime: Infinity,
    retry: false,
  });

export const feedFile = (job: string, kind: 'spice' | 'dot', position: string) =>
  `/api${jobPath(job)}/feed/${kind}?position=${position}`;
