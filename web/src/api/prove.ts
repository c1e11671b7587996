import { useMutation, useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath, useSend } from './hooks';
import type {
  DiagnosisView,
  GateRequest,
  MendRequest,
  MeterRequest,
  ProveView,
  ReadingProvedRequest,
  Shown,
} from './types.gen';

export const useProve = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'prove'],
    queryFn: () => request<ProveView>('GET', `${jobPath(job)}/prove`),
  });

export const useDiagnosis = (job: string, revision: number) =>
  useQuery({
    queryKey: ['job', job, 'diagnosis', revision],
    queryFn: () => request<DiagnosisView>('GET', `${jobPath(job)}/prove/diagnosis`),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });

export const useSetReading = (job: string) =>
  useSend<Omit<ReadingProvedRequest, 'id'>>(job, 'POST', '/prove/reading');

/** Asks a meter at an address for what it shows: nothing is kept by that. */
export const useAskMeter = (job: string) =>
  useMutation({
    mutationFn: (r: MeterRequest) => request<Shown>('POST', `${jobPath(job)}/prove/meter`, r),
  });

export const usePassGate = (job: string) => useSend<Omit<GateRequest, 'id'>>(job, 'POST', '/prove/gate');

export const useMend = (job: string) => useSend<Omit<MendRequest, 'id'>>(job, 'POST', '/prove/mended');
