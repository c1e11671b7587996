import { useQuery } from '@tanstack/react-query';
import { newChangeID, request } from './client';
import { jobPath, useChange } from './hooks';
import type {
  BenchView,
  CheckRequest,
  CheckView,
  Done,
  ExchangeRequest,
  FacePreview,
  FacesView,
  FaceRequest,
  LibraryView,
  LinkView,
  OtherwiseRequest,
  ReportRequest,
  WishRequest,
} from './types.gen';

/** A change of the job by Pin: the id is filled in. */
function useSend<V extends object>(job: string, method: 'POST' | 'PUT', path: string) {
  return useChange(job, (v: V) =>
    request<Done>(method, `${jobPath(job)}/pin/${path}`, { ...v, id: newChangeID() }),
  );
}

export const useOtherwise = (job: string) => useSend<Omit<OtherwiseRequest, 'id'>>(job, 'POST', 'otherwise');
export const useReport = (job: string) => useSend<Omit<ReportRequest, 'id'>>(job, 'POST', 'reports');
export const useWish = (job: string) => useSend<Omit<WishRequest, 'id'>>(job, 'POST', 'order');
export const useExchange = (job: string) => useSend<Omit<ExchangeRequest, 'id'>>(job, 'POST', 'exchange');
export const useHave = (job: string) =>
  useSend<{ have: Record<string, boolean>; seen: number }>(job, 'PUT', 'have');
export const useSecondCheck = (job: string) => useSend<Omit<CheckRequest, 'id'>>(job, 'POST', 'check');

export const useSettle = (job: string) =>
  useChange(job, (v: { report: string; settled: string; seen: number }) =>
    request<Done>('POST', `${jobPath(job)}/pin/reports/${encodeURIComponent(v.report)}/settle`, {
      id: newChangeID(),
      seen: v.seen,
      settled: v.settled,
    }),
  );
export const useFace = (job: string) =>
  useChange(job, (v: Omit<FaceRequest, 'id'> & { connector: string }) => {
    const { connector, ...face } = v;
    return request<Done>('PUT', `${jobPath(job)}/pin/faces/${encodeURIComponent(connector)}`, {
      ...face,
      id: newChangeID(),
    });
  });
export const useOpenFaces = (job: string) =>
  useChange(job, (file: File) =>
    request<Done>('POST', `${jobPath(job)}/pin/faces?id=${newChangeID()}`, file as Blob),
  );

export const useCheckView = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'check'],
    queryFn: () => request<CheckView>('GET', `${jobPath(job)}/pin/check`),
  });
export const useBenchView = (job: string, stage: string) =>
  useQuery({
    queryKey: ['job', job, 'bench', stage],
    queryFn: () => request<BenchView>('GET', `${jobPath(job)}/bench?stage=${stage}`),
  });
export const useLink = (job: string, stage: string) =>
  useQuery({
    queryKey: ['link', job, stage],
    queryFn: () => request<LinkView>('GET', `${jobPath(job)}/bench/link?stage=${stage}`),
  });
export const useLibrary = () =>
  useQuery({
    queryKey: ['faces'],
    queryFn: () => request<LibraryView>('GET', '/faces'),
    staleTime: Infinity,
  });

export const useFaces = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'faces'],
    queryFn: () => request<FacesView>('GET', `${jobPath(job)}/pin/faces`),
  });

/** What words say of a face, before it is kept. */
export const useFacePreview = (words: string) =>
  useQuery({
    queryKey: ['face', words],
    queryFn: () => request<FacePreview>('POST', '/faces/preview', { id: '', seen: 0, words }),
    enabled: words.trim() !== '',
    retry: false,
    staleTime: Infinity,
  });
