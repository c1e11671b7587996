import { useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { request } from './client';
import { jobPath, send, useSend, type Keyed } from './hooks';
import type {
  Bench,
  CircuitView,
  CutView,
  ThinChange,
  ThinDecision,
  ThinRest,
  ThinView,
  WorkView,
} from './types.gen';

const thinKey = (job: string) => ['job', job, 'thin'];

/**
 * The harness. What becomes of wires is shown at once; what follows from the whole plan, counts and proof, comes when it has
 * been worked out. The wires themselves, which are large and change with the facts alone, are kept from before.
 */
export function useThin(job: string) {
  const client = useQueryClient();
  const begun = useQuery({
    queryKey: thinKey(job),
    queryFn: async () => {
      const before = client.getQueryData<ThinView>(thinKey(job));
      const view = await request<ThinView>(
        'GET',
        `${jobPath(job)}/thin?begun=1&facts=${before?.facts ?? ''}`,
      );
      return view.kept && before ? { ...view, wires: before.wires } : view;
    },
  });
  const rest = useQuery({
    queryKey: ['job', job, 'thin rest'],
    queryFn: () => request<ThinRest>('GET', `${jobPath(job)}/thin/rest`),
  });
  const data = useMemo(
    () => begun.data && (rest.data ? { ...begun.data, ...rest.data, begun: false } : begun.data),
    [begun.data, rest.data],
  );
  return { ...begun, data };
}

export const useWork = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'work'],
    queryFn: () => request<WorkView>('GET', `${jobPath(job)}/thin/work`),
  });

/** What dies if this is cut; asked as soon as it is selected. */
export const useCut = (job: string, on: string, id: string, revision: number) =>
  useQuery({
    queryKey: ['job', job, 'cut', on, id, revision],
    queryFn: () => request<CutView>('GET', `${jobPath(job)}/thin/cut?${new URLSearchParams({ on, id })}`),
    enabled: ['wire', 'connector', 'module', 'splice'].includes(on) && id !== '',
    retry: false,
  });

export const useCircuit = (job: string, wire: string | undefined, revision: number) =>
  useQuery({
    queryKey: ['job', job, 'circuit', wire, revision],
    queryFn: () =>
      request<CircuitView>(
        'GET',
        `${jobPath(job)}/thin/circuit?${new URLSearchParams({ wire: wire ?? '' })}`,
      ),
    enabled: !!wire,
    retry: false,
  });

/** Puts what a decision changed into what is shown, before anything is read anew. */
function patch(client: QueryClient, job: string, change: ThinChange) {
  client.setQueryData<ThinView>(thinKey(job), (old) => {
    if (!old) {
      return old;
    }
    const systems = new Map(change.systems.map((s) => [s.system, s]));
    const joints = new Map(change.joints.map((j) => [j.kind + j.id, j]));
    const limbs = new Map(change.limbs.map((l) => [l.id, l]));
    const spots = new Map(change.spots.map((s) => [s.kind + s.id, s]));
    return {
      ...old,
      revision: change.revision,
      verdicts: old.verdicts.map((v, i) => change.verdicts[String(i)] ?? v),
      systems: old.systems.map((s) => systems.get(s.system) ?? s),
      joints: [
        ...old.joints.map((j) => joints.get(j.kind + j.id) ?? j),
        ...change.joints.filter((j) => !old.joints.some((o) => o.kind + o.id === j.kind + j.id)),
      ],
      drawing: {
        ...old.drawing,
        branches: old.drawing.branches.map((b) => limbs.get(b.id) ?? b),
        spots: old.drawing.spots.map((x) => spots.get(x.kind + x.id) ?? x),
      },
    };
  });
}

/** Sends a decision. Nothing is drawn anew for its being on the way, only for what it changes. */
export function useThinDecide(job: string) {
  const client = useQueryClient();
  return async (v: Keyed<{ decisions: ThinDecision[]; seen: number }>) => {
    const done = await send(job, 'POST', '/thin/decide', v);
    if ('verdicts' in done) {
      patch(client, job, done as ThinChange); // a change that came through before answers with less
    }
    return done;
  };
}

export const useBench = (job: string) => useSend<{ bench: Bench; seen: number }>(job, 'PUT', '/thin/bench');
