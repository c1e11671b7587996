import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath, useSend } from './hooks';
import type {
  FunctionRequest,
  HoldsView,
  JoinView,
  OutRuleRequest,
  PartRequest,
  TrialView,
  WayRequest,
} from './types.gen';

export const useJoin = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'join'],
    queryFn: () => request<JoinView>('GET', `${jobPath(job)}/join`),
  });

export const useSetFunction = (job: string) =>
  useSend<Omit<FunctionRequest, 'id'>>(job, 'POST', '/join/function');

export const useSetRule = (job: string) => useSend<Omit<OutRuleRequest, 'id'>>(job, 'POST', '/join/rule');

/** What must let current through for a device to work in a condition. */
export const useHolds = (job: string, revision: number, device: string, position: string, sw: string[]) =>
  useQuery({
    queryKey: ['job', job, 'holds', revision, device, position, sw],
    queryFn: () => {
      const q = new URLSearchParams({ device, position });
      sw.forEach((x) => q.append('sw', x));
      return request<HoldsView>('GET', `${jobPath(job)}/join/holds?${q}`);
    },
    staleTime: Infinity,
    retry: false,
    placeholderData: (last) => last,
  });

/** A condition that is tried: the key, switches that are on, outputs held against what is usual. */
export interface Tried {
  position: string;
  sw: string[];
  on: string[];
  off: string[];
  /** Numbers that rules compare, by name, as they are typed. */
  is: Record<string, string>;
  /** What rules ask for and is no switch of the harness. */
  flags: string[];
}

export const useTrial = (job: string, revision: number, t: Tried, asked: boolean) =>
  useQuery({
    queryKey: ['job', job, 'trial', revision, t],
    queryFn: () => {
      const q = new URLSearchParams({ position: t.position });
      t.sw.forEach((x) => q.append('sw', x));
      t.on.forEach((x) => q.append('on', x));
      t.off.forEach((x) => q.append('off', x));
      t.flags.forEach((x) => q.append('flag', x));
      Object.entries(t.is).forEach(([name, v]) => v.trim() && q.append('is', `${name}=${v.trim()}`));
      return request<TrialView>('GET', `${jobPath(job)}/join/try?${q}`);
    },
    enabled: asked,
    staleTime: Infinity,
    retry: false,
    placeholderData: (last) => last,
  });

export const useTakeWay = (job: string) => useSend<Omit<WayRequest, 'id'>>(job, 'POST', '/join/way');

/** Brings a wire from an end of a function to another, or takes a part out again. */
export const useAddWire = (job: string) => useSend<Omit<PartRequest, 'id'>>(job, 'POST', '/join/part');
