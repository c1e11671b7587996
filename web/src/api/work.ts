import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath, useSend } from './hooks';
import type { Answer, OwnStep, TickRequest, WorkListView } from './types.gen';

/** The one list of what is to be done, the steps of all stages in one order. */
export const useWorkList = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'work list'],
    queryFn: () => request<WorkListView>('GET', `${jobPath(job)}/work`),
  });

/** Ticks steps of any stage, or takes ticks back. */
export const useTick = (job: string) => useSend<Omit<TickRequest, 'id'>>(job, 'POST', '/work/tick');
export const useOwnStep = (job: string) => useSend<{ step: OwnStep; seen: number }>(job, 'POST', '/work/own');
export const useAnswer = (job: string) =>
  useSend<{ answer: Answer; seen: number }>(job, 'POST', '/findings/answer');
