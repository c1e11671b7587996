import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath, useSend } from './hooks';
import type { DiagnosisView, GateRequest, MendRequest, ProveView, ReadingProvedRequest } from './types.gen';

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

export const usePassGate = (job: string) => useSend<Omit<GateRequest, 'id'>>(job, 'POST', '/prove/gate');

export const useMend = (job: string) => useSend<Omit<MendRequest, 'id'>>(job, 'POST', '/prove/mended');
