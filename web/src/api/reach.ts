import { useQuery } from '@tanstack/react-query';
import { newChangeID, request } from './client';
import { jobPath, useChange } from './hooks';
import type {
  ChooseRequest,
  CompareView,
  Done,
  LeftoverRequest,
  LengthRequest,
  OptionRequest,
  PackView,
  PartingRequest,
  PlacesRequest,
  ReachView,
  RouteMap,
  Rules,
  SpanRequest,
  TemplateList,
} from './types.gen';

/** A change of the job by Reach: the id is filled in. */
function useSend<V extends object>(job: string, method: 'POST' | 'PUT', path: string) {
  return useChange(job, (v: V) =>
    request<Done>(method, `${jobPath(job)}/reach/${path}`, { ...v, id: newChangeID() }),
  );
}

export const useMapChange = (job: string) =>
  useSend<{ map: RouteMap; seen: number; renamed?: Record<string, string> }>(job, 'PUT', 'map');
export const useRulesChange = (job: string) => useSend<{ rules: Rules; seen: number }>(job, 'PUT', 'rules');
export const usePlace = (job: string) => useSend<Omit<PlacesRequest, 'id'>>(job, 'POST', 'places');
export const useSpan = (job: string) => useSend<Omit<SpanRequest, 'id'>>(job, 'POST', 'span');
export const useLength = (job: string) => useSend<Omit<LengthRequest, 'id'>>(job, 'POST', 'length');
export const useOption = (job: string) => useSend<Omit<OptionRequest, 'id'>>(job, 'POST', 'option');
export const useChoose = (job: string) => useSend<Omit<ChooseRequest, 'id'>>(job, 'POST', 'choose');
export const useLeftover = (job: string) => useSend<Omit<LeftoverRequest, 'id'>>(job, 'POST', 'leftover');
export const useDisconnect = (job: string) => useSend<Omit<PartingRequest, 'id'>>(job, 'POST', 'disconnect');
export const useReach = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'reach'],
    queryFn: () => request<ReachView>('GET', `${jobPath(job)}/reach`),
  });
export const useCompare = (job: string) =>
  useQuery({
    queryKey: ['job', job, 'compare'],
    queryFn: () => request<CompareView>('GET', `${jobPath(job)}/reach/compare`),
  });
export const usePack = (job: string, path: string | undefined, revision: number) =>
  useQuery({
    queryKey: ['job', job, 'pack', path, revision],
    queryFn: () =>
      request<PackView>('GET', `${jobPath(job)}/reach/pack?path=${encodeURIComponent(path ?? '')}`),
    enabled: path !== undefined,
  });
export const useTemplates = () =>
  useQuery({
    queryKey: ['maps'],
    queryFn: () => request<TemplateList>('GET', '/maps'),
    staleTime: Infinity,
  });
