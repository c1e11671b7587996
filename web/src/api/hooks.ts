import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { outboxOf, type Refused } from '../outbox/outbox';
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
  UndoRequest,
  FoundView,
} from './types.gen';
import { watchJob } from './watch';

export type Side = 'from' | 'to';
/** A pinout of a job: that of a side, or a further one by its key, x1 to x99. */
export type TableKey = Side | `x${number}`;
/** What a person may leave out: ids and the revision seen are filled in. */
export type Decide = Omit<DecideRequest, 'id' | 'seen'>;

export const jobPath = (job: string) => `/jobs/${encodeURIComponent(job)}`;

export const useJobs = () =>
  useQuery({ queryKey: ['jobs'], queryFn: () => request<JobList>('GET', '/jobs') });
export const useKinds = () =>
  useQuery({ queryKey: ['kinds'], queryFn: () => request<KindList>('GET', '/kinds'), staleTime: Infinity });
export const useJob = (job: string) =>
  useQuery({ queryKey: ['job', job, 'head'], queryFn: () => request<JobView>('GET', jobPath(job)) });
/** What is known of a job before its whole plan has been worked out. */
export const useJobBegun = (job: string) =>
  useQuery({
    queryKey: ['begun', job],
    queryFn: () => request<JobView>('GET', `${jobPath(job)}?begun=1`),
  });
export const useTable = (job: string, side: TableKey, there: boolean) =>
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
/** The changes of a job, newest first, page by page. */
export const useJournal = (job: string) =>
  useInfiniteQuery({
    queryKey: ['job', job, 'journal'],
    queryFn: ({ pageParam }) =>
      request<JournalView>('GET', `${jobPath(job)}/journal${pageParam > 0 ? `?before=${pageParam}` : ''}`),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.more ? last.entries.at(-1)?.seq : undefined),
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

/** A change as it is made: what it is about is for the outbox and not for the server. */
export type Keyed<V> = V & { subject?: string; says?: string };

/** Brings a change to a job by its outbox. */
export function send<V extends object>(
  job: string,
  method: 'POST' | 'PUT',
  path: string,
  v: Keyed<V>,
): Promise<Done> {
  const { subject, says, ...body } = v;
  return outboxOf(job).post({
    method,
    path,
    body,
    ...(subject ? { subject } : {}),
    ...(says ? { says } : {}),
  });
}

/** A change of a job, kept until the server has it. Whatever is shown of the job is read anew when it has. */
export const useSend = <V extends object>(job: string, method: 'POST' | 'PUT', path: string) =>
  useMutation({ networkMode: 'always', mutationFn: (v: Keyed<V>) => send(job, method, path, v) });

/** A change with a file in it: it is sent at once or not at all. */
export function useUpload<V>(job: string, upload: (v: V) => Promise<Done>) {
  const client = useQueryClient();
  return useMutation({
    networkMode: 'always',
    mutationFn: upload,
    onSettled: () => client.invalidateQueries({ queryKey: ['job', job] }),
  });
}

/** Sends a decision. Nothing is drawn anew for its being on the way, only for what it changes. */
export const decideMatch = (job: string, v: Keyed<Decide & { seen: number }>) =>
  send(job, 'POST', '/match/decide', v);
export const useAcceptAbove = (job: string) =>
  useSend<{ above: number; seen: number }>(job, 'POST', '/match/accept');
export const useMeet = (job: string) => useSend<Omit<MeetRequest, 'id'>>(job, 'PUT', '/match/meetings');
export const useUndo = (job: string) => useSend<Omit<UndoRequest, 'id'>>(job, 'POST', '/undo');
export const useRedo = (job: string) => useSend<Omit<UndoRequest, 'id'>>(job, 'POST', '/redo');
export const useCorrect = (job: string, side: TableKey) =>
  useSend<Pick<TableView, 'meta' | 'options'> & { seen: number }>(job, 'PUT', `/gather/${side}/options`);
export const useDropTable = (job: string, key: TableKey) =>
  useSend<{ seen: number }>(job, 'POST', `/gather/${key}/drop`);
export const useImport = (job: string, side: TableKey) =>
  useUpload(job, (form: FormData) => {
    form.set('id', newChangeID());
    return request<Done>('PUT', `${jobPath(job)}/gather/${side}`, form);
  });
export const useDescribe = (job: string) => useSend<Omit<JobRequest, 'id'>>(job, 'PUT', '');

export const preview = (job: string, side: TableKey, form: FormData) =>
  request<TableView>('POST', `${jobPath(job)}/gather/${side}/preview`, form);

export function useCreateJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (v: Omit<JobRequest, 'id'> | File) =>
      v instanceof File
        ? request<Done>('POST', `/jobs/file?id=${newChangeID()}`, v)
        : request<Done>('POST', '/jobs', { ...v, id: newChangeID() }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}

/** What some words find in a job; what was found stays in sight until more is. */
export const useFound = (job: string, words: string) =>
  useQuery({
    queryKey: ['job', job, 'find', words],
    queryFn: () => request<FoundView>('GET', `${jobPath(job)}/find?words=${encodeURIComponent(words)}`),
    enabled: words.trim() !== '',
    placeholderData: keepPreviousData,
  });

/** Puts the demonstration on the list, or takes it off. */
export function useDemo() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (on: boolean) => request<Done>(on ? 'POST' : 'DELETE', '/demo'),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}

export const useDeleted = () =>
  useQuery({ queryKey: ['jobs', 'deleted'], queryFn: () => request<JobList>('GET', '/deleted') });

export function useRestoreJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (job: string) => request<Done>('POST', `/deleted/${encodeURIComponent(job)}`),
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

/**
 * Reads the job anew when it has been changed: here, once all that was written has been answered, or in another window, or
 * by somebody else. A revision that was made here is not read twice.
 */
export function useLiveJob(job: string, onRefused: (e: Refused) => void) {
  const client = useQueryClient();
  const refused = useRef(onRefused);
  useEffect(() => {
    refused.current = onRefused;
  });
  useEffect(() => {
    const box = outboxOf(job);
    const anew = () => void client.invalidateQueries({ queryKey: ['job', job] });
    box.onAnswered = anew;
    box.onRefused = (e) => refused.current(e);
    const leave = watchJob(job, (revision) => {
      const shown = client.getQueryData<JobView>(['job', job, 'head']);
      const latest = Math.max(shown?.revision ?? Infinity, box.revision);
      if (revision > latest && box.get().letters.length === 0) {
        anew();
      }
    });
    return () => {
      leave();
      box.onAnswered = () => undefined;
    };
  }, [client, job]);
}

export const fileAddress = (job: string, rest: string) => `/api${jobPath(job)}/${rest}`;
