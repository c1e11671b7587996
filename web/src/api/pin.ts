import { useMutation, useQuery } from '@tanstack/react-query';
import { newChangeID, request } from './client';
import { jobPath, send, useSend, useUpload, type Keyed } from './hooks';
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

export const useOtherwise = (job: string) =>
  useSend<Omit<OtherwiseRequest, 'id'>>(job, 'POST', '/pin/otherwise');
export const useReport = (job: string) => useSend<Omit<ReportRequest, 'id'>>(job, 'POST', '/pin/reports');
export const useWish = (job: string) => useSend<Omit<WishRequest, 'id'>>(job, 'POST', '/pin/order');
export const useExchange = (job: string) =>
  useSend<Omit<ExchangeRequest, 'id'>>(job, 'POST', '/pin/exchange');
export const useHave = (job: string) =>
  useSend<{ have: Record<string, boolean>; seen: number }>(job, 'PUT', '/pin/have');
export const useSecondCheck = (job: string) => useSend<Omit<CheckRequest, 'id'>>(job, 'POST', '/pin/check');

export const useSettle = (job: string) =>
  useMutation({
    networkMode: 'always',
    mutationFn: ({ report, ...v }: Keyed<{ report: string; settled: string; seen: number }>) =>
      send(job, 'POST', `/pin/reports/${encodeURIComponent(report)}/settle`, v),
  });
export const useFace = (job: string) =>
  useMutation({
    networkMode: 'always',
    mutationFn: ({ connector, ...face }: Keyed<Omit<FaceRequest, 'id'> & { connector: string }>) =>
      send(job, 'PUT', `/pin/faces/${encodeURIComponent(connector)}`, face),
  });
export const useOpenFaces = (job: string) =>
  useUpload(job, (file: File) =>
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
