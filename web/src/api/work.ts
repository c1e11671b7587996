import { useQuery } from '@tanstack/react-query';
import { newChangeID, request } from './client';
import { jobPath, useChange } from './hooks';
import type { Answer, Done, OwnStep, TickRequest, WorkListView } from './types.gen';

/** The one list of what is to be done, the steps of all stages in one order. */
export const useWorkList = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'work list'],
    queryFn: () => request<WorkListView>('GET', `${jobPath(job)}/work`),
  });

/** Ticks steps of any stage, or takes ticks back. */
export const useTick = (job: string) =>
  useChange(job, (v: Omit<TickRequest, 'id'>) =>
    request<Done>('POST', `${jobPath(job)}/work/tick`, { ...v, id: newChangeID() }),
  );

export const useOwnStep = (job: string) =>
  useChange(job, (v: { step: OwnStep; seen: number }) =>
    request<Done>('POST', `${jobPath(job)}/work/own`, { ...v, id: newChangeID() }),
  );

export const useAnswer = (job: string) =>
  useChange(job, (v: { answer: Answer; seen: number }) =>
    request<Done>('POST', `${jobPath(job)}/findings/answer`, { ...v, id: newChangeID() }),
  );
