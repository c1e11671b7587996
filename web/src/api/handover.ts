import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath, useSend } from './hooks';
import type {
  StickersView,
  CompareStatesView,
  FrontView,
  BookPageView,
  DeliverRequest,
  HandoverView,
  LeftRequest,
  LoanRequest,
} from './types.gen';

export const useFront = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'front'],
    queryFn: () => request<FrontView>('GET', `${jobPath(job)}/front`),
  });

export const useHandover = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'handover'],
    queryFn: () => request<HandoverView>('GET', `${jobPath(job)}/handover`),
  });

/** A page of the book as it is drawn; the numbers are those of the print. */
export const useBookPage = (job: string, page: number | undefined) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'page', page],
    queryFn: () => request<BookPageView>('GET', `${jobPath(job)}/handover/page/${page ?? 0}`),
    enabled: page !== undefined,
    placeholderData: (last) => last,
  });

export const useLeave = (job: string) => useSend<Omit<LeftRequest, 'id'>>(job, 'POST', '/handover/left');
export const useLend = (job: string) => useSend<Omit<LoanRequest, 'id'>>(job, 'POST', '/handover/loan');
export const useDeliver = (job: string) =>
  useSend<Omit<DeliverRequest, 'id'>>(job, 'POST', '/handover/deliver');

/** What differs between a state that was kept and the job as it is. */
export const useCompared = (job: string, was: string) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'compare', was],
    queryFn: () =>
      request<CompareStatesView>('GET', `${jobPath(job)}/handover/compare?was=${encodeURIComponent(was)}`),
  });

/** How many labels a filter gives. */
export const useLabels = (job: string, filter: string) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'labels', filter],
    queryFn: () => request<StickersView>('GET', `${jobPath(job)}/handover/labels?${filter}`),
    placeholderData: (last) => last,
  });
