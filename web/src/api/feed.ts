import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath, useSend } from './hooks';
import type {
  BlockRequest,
  CircuitRequest,
  FeedCompareView,
  FeedLive,
  FeedOptionRequest,
  FeedLines,
  FeedTree,
  FeedView,
  FeedWires,
  Outcome,
  ProposeBlockRequest,
  RatedRequest,
  UsualRequest,
  UsualView,
} from './types.gen';

export const useProposeBlock = (job: string) =>
  useSend<Omit<ProposeBlockRequest, 'id'>>(job, 'POST', '/feed/propose');
export const useBlock = (job: string) => useSend<Omit<BlockRequest, 'id'>>(job, 'PUT', '/feed/block');
export const useCircuit = (job: string) => useSend<Omit<CircuitRequest, 'id'>>(job, 'POST', '/feed/circuit');
export const useRated = (job: string) => useSend<Omit<RatedRequest, 'id'>>(job, 'POST', '/feed/rated');
export const useKeepWay = (job: string) => useSend<Omit<FeedOptionRequest, 'id'>>(job, 'POST', '/feed/way');
export const useTakeWay = (job: string) => useSend<Omit<FeedOptionRequest, 'id'>>(job, 'POST', '/feed/take');
export const useWays = (job: string, revision: number, asked: boolean) =>
  useQuery({
    queryKey: ['job', job, 'feedways', revision],
    queryFn: () => request<FeedCompareView>('GET', `${jobPath(job)}/feed/compare`),
    enabled: asked,
    staleTime: Infinity,
  });

export const useTakeUsual = (job: string) => useSend<Omit<UsualRequest, 'id'>>(job, 'POST', '/feed/usual');
/** What a vehicle usually has, for the lists in which nothing is said. */
export const useUsual = (job: string, revision: number) =>
  useQuery({
    queryKey: ['job', job, 'usual', revision],
    queryFn: () => request<UsualView>('GET', `${jobPath(job)}/feed/usual`),
    staleTime: Infinity,
  });

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

/** Every wire, cable and device in a condition. */
export const useFeedTable = (job: string, revision: number, position: string, on: string[]) =>
  useQuery({
    queryKey: ['job', job, 'feedtable', revision, position, on],
    queryFn: () => request<FeedLines>('GET', `${jobPath(job)}/feed/table?${conditionOf(position, on)}`),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });

export const feedTableFile = (job: string, position: string, on: string[]) =>
  `/api${jobPath(job)}/feed/table?as=csv&${conditionOf(position, on)}`;

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

export const useWireLive = (job: string, revision: number, of: Record<string, string>) =>
  useQuery({
    queryKey: ['job', job, 'wirelive', revision, of],
    queryFn: () => request<FeedWires>('GET', `${jobPath(job)}/feed/wire?${new URLSearchParams(of)}`),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });

/** Where the wires run that are live in a position of the key; nothing is asked where that is none. */
export const useLiveLimbs = (job: string, revision: number, position: string) =>
  useQuery({
    queryKey: ['job', job, 'livelimbs', revision, position],
    queryFn: () => request<FeedLive>('GET', `${jobPath(job)}/feed/live?position=${position}`),
    enabled: position !== '',
    staleTime: Infinity,
    retry: false,
  });

export const lidFile = (job: string) => `/api${jobPath(job)}/feed/lid.pdf`;

export const feedFile = (job: string, kind: 'spice' | 'dot', position: string) =>
  `/api${jobPath(job)}/feed/${kind}?position=${position}`;
