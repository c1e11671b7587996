import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { newChangeID, request } from './client';
import { jobPath, useSend, useUpload } from './hooks';
import type {
  StickersView,
  CompareStatesView,
  FrontView,
  BookPageView,
  BookWhere,
  DeliverRequest,
  HandoverView,
  LeftRequest,
  LoanRequest,
  BoughtRequest,
  CostsView,
  Done,
  MoneyView,
  PricesView,
  SheetsView,
  SpentRequest,
  StandView,
  TermsRequest,
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

/** The page of the book on which a wire is drawn. */
export const useBookWhere = (job: string, wire: string) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'where', wire],
    queryFn: () =>
      request<BookWhere>('GET', `${jobPath(job)}/handover/where?wire=${encodeURIComponent(wire)}`),
    enabled: wire !== '',
    retry: false,
  });

export const useLeave = (job: string) => useSend<Omit<LeftRequest, 'id'>>(job, 'POST', '/handover/left');
export const useLend = (job: string) => useSend<Omit<LoanRequest, 'id'>>(job, 'POST', '/handover/loan');
export const useDeliver = (job: string) =>
  useSend<Omit<DeliverRequest, 'id'>>(job, 'POST', '/handover/deliver');

/** What a job is compared with: a state of it that was kept, or another job. */
export interface Other {
  was?: string;
  job?: string;
}

/** What differs between a state that was kept, or another job, and the job as it is. */
export const useCompared = (job: string, other: Other) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'compare', other],
    queryFn: () =>
      request<CompareStatesView>(
        'GET',
        `${jobPath(job)}/handover/compare?${new URLSearchParams({ ...other }).toString()}`,
      ),
  });

/** How time, parts and cost stand today. */
export const useMoney = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'money'],
    queryFn: () => request<MoneyView>('GET', `${jobPath(job)}/handover/money`),
  });

/** What this way costs beside those that are compared: each is planned whole, so it is asked for. */
export const useCosts = (job: string, asked: boolean) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'costs'],
    queryFn: () => request<CostsView>('GET', `${jobPath(job)}/handover/costs`),
    enabled: asked,
  });

export const useSpend = (job: string) => useSend<Omit<SpentRequest, 'id'>>(job, 'POST', '/handover/spent');
export const useBuy = (job: string) => useSend<Omit<BoughtRequest, 'id'>>(job, 'POST', '/handover/bought');
/** What a supplier's list would change in the order list; nothing is kept. */
export const previewPrices = (job: string, form: FormData) =>
  request<PricesView>('POST', `${jobPath(job)}/handover/prices/preview`, form);
export const useTakePrices = (job: string) =>
  useUpload(job, (form: FormData) => {
    form.set('id', newChangeID());
    return request<Done>('POST', `${jobPath(job)}/handover/prices`, form);
  });
export const useTerms = (job: string) => useSend<Omit<TermsRequest, 'id'>>(job, 'POST', '/handover/terms');

/** A job in one line, for the list of jobs. */
export const useStand = (job: string, changed: number) =>
  useQuery({
    queryKey: ['job', job, 'stand', changed],
    queryFn: () => request<StandView>('GET', `${jobPath(job)}/stand`),
    staleTime: 60_000,
  });

/** Puts a job away, or back among those that are worked at. */
export function useArchive() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (v: { job: string; seen: number; archived: boolean }) =>
      request<Done>('POST', `${jobPath(v.job)}/archive`, {
        id: newChangeID(),
        seen: v.seen,
        archived: v.archived,
      }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}

/** Makes a job of another, as the start of the next. */
export function useCopyJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (v: { job: string; title: string }) =>
      request<Done>('POST', `${jobPath(v.job)}/copy`, { id: newChangeID(), title: v.title }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}

/** The sheets for others, as they are printed. */
export const useSheets = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'sheets'],
    queryFn: () => request<SheetsView>('GET', `${jobPath(job)}/handover/sheets`),
  });

/** How many labels a filter gives. */
export const useLabels = (job: string, filter: string) =>
  useQuery({
    queryKey: ['job', job, 'handover', 'labels', filter],
    queryFn: () => request<StickersView>('GET', `${jobPath(job)}/handover/labels?${filter}`),
    placeholderData: (last) => last,
  });
