import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { newChangeID, request } from './client';
import { jobPath, useSend, type Keyed } from './hooks';
import type {
  Benched,
  LiveRequest,
  NoteRequest,
  ProgramRequest,
  RigRequest,
  RigSays,
  StandinRequest,
  TrainEnd,
  TrainEndRequest,
  TrainRequest,
  TrainView,
  UnitRequest,
  UnitSays,
  DiagnosisView,
  GateRequest,
  MendRequest,
  MeterRequest,
  ProveView,
  ReadingProvedRequest,
  Shown,
} from './types.gen';

/** Whether this page is that of the simulated vehicle: its address says so, and every other page is that of the real one. */
export const useSimulated = () => useSearchParams()[0].get('simulated') === '1';

const world = (simulated: boolean) => (simulated ? '?simulated=1' : '');

export function useProve(job: string) {
  const simulated = useSimulated();
  return useQuery({
    queryKey: ['job', job, 'prove', simulated],
    queryFn: () => request<ProveView>('GET', `${jobPath(job)}/prove${world(simulated)}`),
  });
}

export function useDiagnosis(job: string, revision: number) {
  const simulated = useSimulated();
  return useQuery({
    queryKey: ['job', job, 'diagnosis', revision, simulated],
    queryFn: () => request<DiagnosisView>('GET', `${jobPath(job)}/prove/diagnosis${world(simulated)}`),
    staleTime: simulated ? 0 : Infinity, // what is read at the simulated vehicle makes no revision
    placeholderData: (last) => last,
  });
}

/** A change that is the simulated vehicle's own where this page is its page. */
function useWorldly<V extends object>(job: string, path: string) {
  const simulated = useSimulated();
  const { mutate, ...rest } = useSend<V & { simulated?: boolean }>(job, 'POST', path);
  const send = (v: Keyed<V>, options?: Parameters<typeof mutate>[1]) =>
    mutate({ ...v, ...(simulated ? { simulated } : {}) }, options);
  return { ...rest, mutate: send };
}

export const useSetReading = (job: string) =>
  useWorldly<Omit<ReadingProvedRequest, 'id' | 'simulated'>>(job, '/prove/reading');

/** Asks a meter at an address for what it shows: nothing is kept by that. */
export function useAskMeter(job: string) {
  const simulated = useSimulated();
  return useMutation({
    mutationFn: (r: MeterRequest) =>
      request<Shown>('POST', `${jobPath(job)}/prove/meter`, { ...r, ...(simulated ? { simulated } : {}) }),
  });
}

export const usePassGate = (job: string) =>
  useWorldly<Omit<GateRequest, 'id' | 'simulated'>>(job, '/prove/gate');

export const useMend = (job: string) =>
  useWorldly<Omit<MendRequest, 'id' | 'simulated'>>(job, '/prove/mended');

/** Starts a simulated vehicle of the job on the server's machine, or stops it: nothing of the job is changed by that. */
export function useStandin(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (r: StandinRequest) => request<Benched>('POST', `${jobPath(job)}/prove/standin`, r),
    onSuccess: () => client.invalidateQueries({ queryKey: ['job', job, 'prove'] }),
  });
}

/** Asks a control unit: nothing is kept by that. */
export const useAskUnit = (job: string) =>
  useMutation({
    mutationFn: (r: UnitRequest) => request<UnitSays>('POST', `${jobPath(job)}/prove/unit`, r),
  });

export const useAskRig = (job: string) =>
  useMutation({
    mutationFn: (r: RigRequest) => request<RigSays>('POST', `${jobPath(job)}/prove/rig`, r),
  });

export const useSetLive = (job: string) => useSend<Omit<LiveRequest, 'id'>>(job, 'PUT', '/prove/live');
export const useNote = (job: string) => useSend<Omit<NoteRequest, 'id'>>(job, 'POST', '/prove/note');
export const useSetProgram = (job: string) =>
  useSend<Omit<ProgramRequest, 'id'>>(job, 'PUT', '/prove/program');

/** A round of the trainer: the same level and seed hide the same. */
export const useRound = (job: string, level: number, seed: number) =>
  useQuery({
    queryKey: ['round', job, level, seed],
    queryFn: () => request<TrainView>('GET', `${jobPath(job)}/prove/train?level=${level}&seed=${seed}`),
    staleTime: Infinity,
    retry: false,
    enabled: seed > 0,
  });

export const useRoundRead = (job: string) =>
  useMutation({
    mutationFn: (r: TrainRequest) => request<Shown>('POST', `${jobPath(job)}/prove/train/read`, r),
  });

export const useCauses = (job: string, words: string) =>
  useQuery({
    queryKey: ['causes', job, words],
    queryFn: () =>
      request<string[]>('GET', `${jobPath(job)}/prove/train/causes?q=${encodeURIComponent(words)}`),
    placeholderData: (last) => last,
  });

export function useRoundEnd(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (r: Omit<TrainEndRequest, 'id'>) =>
      request<TrainEnd>('POST', `${jobPath(job)}/prove/train/end`, { ...r, id: newChangeID() }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['job', job] }),
  });
}
