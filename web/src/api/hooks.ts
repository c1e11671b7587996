import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { newChangeID, request } from './client';
import type {
  DecideRequest,
  Done,
  EvidenceView,
  JobList,
  JobRequest,
  JobView,
  JournalView,
  KindList,
  MatchView,
  MeetRequest,
  PinView,
  Ref,
  TableView,
} from './types.gen';

export type Side = 'from' | 'to';
/** What a person may leave out: ids and the revision seen are filled in. */
export type Decide = Omit<DecideRequest, 'id' | 'seen'>;

export const jobPath = (job: string) => `/jobs/${encodeURIComponent(job)}`;

export const useJobs = () =>
  useQuery({ queryKey: ['jobs'], queryFn: () => request<JobList>('GET', '/jobs') });
export const useKinds = () =>
  useQuery({ queryKey: ['kinds'], queryFn: () => request<KindList>('GET', '/kinds'), staleTime: Infinity });
export const useJob = (job: string) =>
  useQuery({ queryKey: ['job', job, 'head'], queryFn: () => request<JobView>('GET', jobPath(job)) });
export const useTable = (job: string, side: Side, there: boolean) =>
  useQuery({
    queryKey: ['job', job, 'gather', side],
    queryFn: () => request<TableView>('GET', `${jobPath(job)}/gather/${side}`),
    enabled: there,
  });
export const useMatch = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'match'],
    queryFn: () => request<MatchView>('GET', `${jobPath(job)}/match`),
  });
export const usePin = (job: string) =>
  useQuery({ queryKey: ['job', job, 'pin'], queryFn: () => request<PinView>('GET', `${jobPath(job)}/pin`) });
export const useJournal = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'journal'],
    queryFn: () => request<JournalView>('GET', `${jobPath(job)}/journal`),
  });

export function useEvidence(job: string, revision: number, from?: Ref, to?: Ref) {
  return useQuery({
    queryKey: ['job', job, 'evidence', revision, from, to],
    queryFn: () => {
      const q = new URLSearchParams({
        fromConnector: from?.connector ?? '',
        fromCavity: from?.cavity ?? '',
        toConnector: to?.connector ?? '',
        toCavity: to?.cavity ?? '',
      });
      return request<EvidenceView>('GET', `${jobPath(job)}/match/evidence?${q}`);
    },
    enabled: !!from && !!to,
    staleTime: Infinity,
  });
}

/** A change of a job: whatever is shown of it is read anew afterwards, also when the change was refused. */
export function useChange<V>(job: string, send: (v: V) => Promise<Done>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSettled: () => {
      void client.invalidateQueries({ queryKey: ['job', job] }); // not waited for: the next change need not wait either
    },
  });
}

export const useDecide = (job: string) =>
  useChange(job, (v: Decide & { seen: number }) =>
    request<Done>('POST', `${jobPath(job)}/match/decide`, { ...v, id: newChangeID() }),
  );
export const useAcceptAbove = (job: string) =>
  useChange(job, (v: { above: number; seen: number }) =>
    request<Done>('POST', `${jobPath(job)}/match/accept`, { ...v, id: newChangeID() }),
  );
export const useMeet = (job: string) =>
  useChange(job, (v: Omit<MeetRequest, 'id'>) =>
    request<Done>('PUT', `${jobPath(job)}/match/meetings`, { ...v, id: newChangeID() }),
  );
export const useUndo = (job: string) =>
  useChange(job, () => request<Done>('POST', `${jobPath(job)}/undo`, { id: newChangeID() }));
export const useCorrect = (job: string, side: Side) =>
  useChange(job, (v: Pick<TableView, 'meta' | 'options'> & { seen: number }) =>
    request<Done>('PUT', `${jobPath(job)}/gather/${side}/options`, { ...v, id: newChangeID() }),
  );
export const useImport = (job: string, side: Side) =>
  useChange(job, (form: FormData) => {
    form.set('id', newChangeID());
    return request<Done>('PUT', `${jobPath(job)}/gather/${side}`, form);
  });
export const useDescribe = (job: string) =>
  useChange(job, (v: Omit<JobRequest, 'id'>) =>
    request<Done>('PUT', jobPath(job), { ...v, id: newChangeID() }),
  );

export const preview = (job: string, side: Side, form: FormData) =>
  request<TableView>('POST', `${jobPath(job)}/gather/${side}/preview`, form);

export function useCreateJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (v: Omit<JobRequest, 'id'> | File) =>
      v instanceof File
        ? request<Done>('POST', '/jobs/file', v)
        : request<Done>('POST', '/jobs', { ...v, id: newChangeID() }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}

export function useDeleteJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (job: string) => request<Done>('DELETE', jobPath(job)),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}

/** Reads the job anew when it has been changed elsewhere: in another window, or by somebody else. */
export function useLiveJob(job: string) {
  const client = useQueryClient();
  useEffect(() => {
    const events = new EventSource(`/api${jobPath(job)}/events`);
    events.addEventListener('revision', (e: MessageEvent<string>) => {
      const shown = client.getQueryData<JobView>(['job', job, 'head']);
      if (shown && Number(e.data) > shown.revision) {
        void client.invalidateQueries({ queryKey: ['job', job] });
      }
    });
    return () => events.close();
  }, [client, job]);
}

export const fileAddress = (job: string, rest: string) => `/api${jobPath(job)}/${rest}`;
