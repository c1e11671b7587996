import { useQuery } from '@tanstack/react-query';
import { newChangeID, request } from './client';
import { jobPath, useChange } from './hooks';
import type {
  Before,
  CellEdit,
  Done,
  GatherView,
  Identity,
  Looked,
  Measurement,
  PhotoMeta,
  SheetPreview,
  SheetView,
  Trace,
} from './types.gen';

export type ListKind = 'wires' | 'splices' | 'connectors' | 'devices' | 'branches';

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

const put = (job: string, rest: string, v: object) =>
  request<Done>('PUT', path(job, rest), { ...v, id: newChangeID() });
const post = (job: string, rest: string, v: object) =>
  request<Done>('POST', path(job, rest), { ...v, id: newChangeID() });

export const useIdentity = (job: string) =>
  useChange(job, (v: Seen & { identity: Identity }) => put(job, '/identity', v));
export const useItems = (job: string) =>
  useChange(job, (v: Seen & { items: Record<string, boolean> }) => put(job, '/items', v));
export const useBefore = (job: string) =>
  useChange(job, (v: Seen & { before: Before }) => put(job, '/before', v));
export const useLooked = (job: string) =>
  useChange(job, (v: Seen & { connector: string; looked: Looked }) =>
    put(job, `/looked/${encodeURIComponent(v.connector)}`, { seen: v.seen, looked: v.looked }),
  );
export const useEditList = (job: string, kind: ListKind) =>
  useChange(job, (v: Seen & { edits: CellEdit[]; gone?: number[] }) => post(job, `/lists/${kind}/cells`, v));
export const useImportList = (job: string, kind: ListKind) =>
  useChange(job, (form: FormData) => {
    form.set('id', newChangeID());
    return request<Done>('PUT', path(job, `/lists/${kind}`), form);
  });
export const previewList = (job: string, kind: ListKind, form: FormData) =>
  request<SheetPreview>('POST', path(job, `/lists/${kind}/preview`), form);
/** A fact without what is filled in when it is kept: its id, who and when. */
export type NewFact<T extends { id: string }> = Omit<T, 'id' | 'who' | 'when'>;

export const useReading = (job: string) =>
  useChange(job, (v: Seen & { reading: NewFact<Measurement> }) =>
    post(job, '/readings', { seen: v.seen, reading: { ...v.reading, id: '' } }),
  );
export const useTrace = (job: string) =>
  useChange(job, (v: Seen & { trace: NewFact<Trace> }) =>
    post(job, '/traces', { seen: v.seen, trace: { ...v.trace, id: '' } }),
  );
export const useDrop = (job: string, what: 'readings' | 'traces' | 'photos') =>
  useChange(job, (v: Seen & { fact: string }) =>
    post(job, `/${what}/${encodeURIComponent(v.fact)}/drop`, { seen: v.seen }),
  );
export const useEarlier = (job: string) =>
  useChange(job, (v: Seen & { job: string }) => post(job, '/earlier', v));
export const usePhoto = (job: string) =>
  useChange(job, (v: { file: File; meta: Omit<PhotoMeta, 'id'> }) => {
    const form = new FormData();
    form.set('file', v.file);
    form.set('meta', JSON.stringify({ ...v.meta, id: newChangeID() }));
    return request<Done>('POST', path(job, '/photos'), form);
  });
