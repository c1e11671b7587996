import { useMutation, useQuery } from '@tanstack/react-query';
import { newChangeID, request } from './client';
import { jobPath, send, useSend, useUpload, type Keyed } from './hooks';
import type {
  Before,
  CellEdit,
  Done,
  GatherView,
  Identity,
  Looked,
  Measurement,
  PhotoMeta,
  SheetLine,
  SheetPreview,
  SheetView,
  Trace,
} from './types.gen';

export type ListKind = SheetLine['kind'];

const path = (job: string, rest: string) => `${jobPath(job)}/gather${rest}`;

export const useGather = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'facts'],
    queryFn: () => request<GatherView>('GET', path(job, '')),
  });

export const useList = (job: string, kind: ListKind) =>
  useQuery({
    queryKey: ['job', job, 'list', kind],
    queryFn: () => request<SheetView>('GET', path(job, `/lists/${kind}`)),
  });

type Seen = { seen: number };

export const useIdentity = (job: string) =>
  useSend<Seen & { identity: Identity }>(job, 'PUT', '/gather/identity');
export const useItems = (job: string) =>
  useSend<Seen & { items: Record<string, boolean> }>(job, 'PUT', '/gather/items');
export const useBefore = (job: string) => useSend<Seen & { before: Before }>(job, 'PUT', '/gather/before');
export const useLooked = (job: string) =>
  useMutation({
    networkMode: 'always',
    mutationFn: ({ connector, ...v }: Keyed<Seen & { connector: string; looked: Looked }>) =>
      send(job, 'PUT', `/gather/looked/${encodeURIComponent(connector)}`, v),
  });
/** Where cells of a list are put, below the job. */
export const listCells = (kind: ListKind) => `/gather/lists/${kind}/cells`;
export const useEditList = (job: string, kind: ListKind) =>
  useSend<Seen & { edits: CellEdit[]; gone?: number[] }>(job, 'POST', listCells(kind));
export const useImportList = (job: string, kind: ListKind) =>
  useUpload(job, (form: FormData) => {
    form.set('id', newChangeID());
    return request<Done>('PUT', path(job, `/lists/${kind}`), form);
  });
export const previewList = (job: string, kind: ListKind, form: FormData) =>
  request<SheetPreview>('POST', path(job, `/lists/${kind}/preview`), form);
/** A fact without what is filled in when it is kept: its id, who and when. */
export type NewFact<T extends { id: string }> = Omit<T, 'id' | 'who' | 'when'>;

export const useReading = (job: string) =>
  useMutation({
    networkMode: 'always',
    mutationFn: ({ reading, ...v }: Keyed<Seen & { reading: NewFact<Measurement> }>) =>
      send(job, 'POST', '/gather/readings', { ...v, reading: { ...reading, id: '' } }),
  });
export const useTrace = (job: string) =>
  useMutation({
    networkMode: 'always',
    mutationFn: ({ trace, ...v }: Keyed<Seen & { trace: NewFact<Trace> }>) =>
      send(job, 'POST', '/gather/traces', { ...v, trace: { ...trace, id: '' } }),
  });
export const useDrop = (job: string, what: 'readings' | 'traces' | 'photos') =>
  useMutation({
    networkMode: 'always',
    mutationFn: ({ fact, ...v }: Keyed<Seen & { fact: string }>) =>
      send(job, 'POST', `/gather/${what}/${encodeURIComponent(fact)}/drop`, v),
  });
export const useEarlier = (job: string) => useSend<Seen & { job: string }>(job, 'POST', '/gather/earlier');
export const usePhoto = (job: string) =>
  useUpload(job, (v: { file: File; meta: Omit<PhotoMeta, 'id'> }) => {
    const form = new FormData();
    form.set('file', v.file);
    form.set('meta', JSON.stringify({ ...v.meta, id: newChangeID() }));
    return request<Done>('POST', path(job, '/photos'), form);
  });
