import { useQuery } from '@tanstack/react-query';
import { request } from './client';
import { jobPath, useSend } from './hooks';
import type {
  ChooseRequest,
  CompareView,
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

export const useMapChange = (job: string) =>
  useSend<{ map: RouteMap; seen: number; renamed?: Record<string, string> }>(job, 'PUT', '/reach/map');
export const useRulesChange = (job: string) =>
  useSend<{ rules: Rules; seen: number }>(job, 'PUT', '/reach/rules');
export const usePlace = (job: string) => useSend<Omit<PlacesRequest, 'id'>>(job, 'POST', '/reach/places');
export const useSpan = (job: string) => useSend<Omit<SpanRequest, 'id'>>(job, 'POST', '/reach/span');
export const useLength = (job: string) => useSend<Omit<LengthRequest, 'id'>>(job, 'POST', '/reach/length');
export const useOption = (job: string) => useSend<Omit<OptionRequest, 'id'>>(job, 'POST', '/reach/option');
export const useChoose = (job: string) => useSend<Omit<ChooseRequest, 'id'>>(job, 'POST', '/reach/choose');
export const useLeftover = (job: string) =>
  useSend<Omit<LeftoverRequest, 'id'>>(job, 'POST', '/reach/leftover');
export const useDisconnect = (job: string) =>
  useSend<Omit<PartingRequest, 'id'>>(job, 'POST', '/reach/disconnect');
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
