import { useMemo } from 'react';
import useSWR, { mutate } from 'swr';
import type { Footage } from './footage';
import { livePrints, liveShots, useLive } from './live';
import type { Look, Preparation, Problem } from '@tin-ghost/core';

export interface Medium {
  id: string;
  name: string;
  bytes: number;
  state: 'waiting' | 'working' | 'ready' | 'failed';
  progress: number;
  error: string | null;
  footage: Footage | null;
  proxyWidth: number | null;
  proxyHeight: number | null;
  hasSound: boolean;
}

export interface Shot {
  id: string;
  reelId: string;
  name: string;
  look: Look;
  preparation: Preparation;
  revision: number;
  touchedAt: string;
  medium: Medium;
}

export interface ReelSummary {
  id: string;
  name: string;
  touchedAt: string;
  shots: { id: string; name: string; medium: Medium }[];
}

export interface Reel extends Omit<ReelSummary, 'shots'> {
  shots: Shot[];
}

export interface Print {
  id: string;
  shotId: string | null;
  mediaId: string;
  name: string;
  look: Look;
  settings: { format: 'mp4' | 'webm'; width: number; height: number; from: number; to: number; sound: boolean };
  state: 'waiting' | 'striking' | 'done' | 'failed' | 'stopped';
  done: number;
  total: number;
  perSecond: number;
  secondsLeft: number;
  error: string | null;
  bytes: number | null;
  createdAt: string;
}

/** A still or a clip of the real thing. */
export interface Reference {
  id: string;
  reelId: string | null;
  name: string;
  shipped: boolean;
  medium: Medium;
}

/** A table of colours that the server keeps. */
export interface StoredTable {
  id: string;
  name: string;
}

export interface StoredLook {
  id: string;
  look: Look;
  shipped: boolean;
}

/** An answer of the server that is no success, or no answer at all (status 0). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly problems: readonly Problem[] = [],
  ) {
    super(message);
  }
}

/**
 * Calls the server with a body of JSON, or of plain text as it stands.
 * @throws ApiError with what the server says, or with status 0 where it does not answer
 */
export async function api<T>(path: string, init: { method?: string; body?: unknown; text?: string; keepalive?: boolean } = {}): Promise<T> {
  const body = init.text ?? (init.body === undefined ? undefined : JSON.stringify(init.body));
  const response = await fetch(`/api${path}`, {
    method: init.method ?? 'GET',
    keepalive: init.keepalive,
    headers: body === undefined ? undefined : { 'content-type': init.text === undefined ? 'application/json' : 'text/plain' },
    body,
  }).catch(() => {
    throw new ApiError(0, 'Tin Ghost’s server does not answer. It may have been ended; start it again with npm start.');
  });
  if (response.status === 204) return undefined as T;
  const answer = (await response.json().catch(() => ({}))) as T & { error?: { message: string; problems?: Problem[] } };
  if (!response.ok) throw new ApiError(response.status, answer.error?.message ?? `the server answered ${response.status}`, answer.error?.problems);
  return answer;
}

const get = <T>(path: string): Promise<T> => api<T>(path);

/** All reels, with how far their footage has come at this moment. */
export function useReels() {
  const { data, error } = useSWR<ReelSummary[], ApiError>('/reels', get);
  const live = useLive((s) => s.media);
  return { data: useMemo(() => data?.map((reel) => ({ ...reel, shots: liveShots(reel.shots, live) })), [data, live]), error };
}

/** One reel, with how far its footage has come at this moment. */
export function useReel(id: string) {
  const { data, error } = useSWR<Reel, ApiError>(`/reels/${id}`, get);
  const live = useLive((s) => s.media);
  return { data: useMemo(() => data && { ...data, shots: liveShots(data.shots, live) }, [data, live]), error };
}

/** All prints, with how far they are at this moment. */
export function usePrints() {
  const { data, error } = useSWR<Print[], ApiError>('/prints', get);
  const live = useLive((s) => s.prints);
  return { data: useMemo(() => data && livePrints(data, live), [data, live]), error };
}

export const useLooks = () => useSWR<StoredLook[], ApiError>('/looks', get);

export const useTables = () => useSWR<StoredTable[], ApiError>('/tables', get);

/** References of a reel and those that ship; without a reel, all there are. */
export function useReferences(reel?: string) {
  const { data, error } = useSWR<Reference[], ApiError>(reel ? `/references?reel=${reel}` : '/references', get);
  const live = useLive((s) => s.media);
  return { data: useMemo(() => data && liveShots(data, live), [data, live]), error };
}

/** Sends a .cube file to be kept. Throws ApiError with the line and the reason where it is none. */
export async function sendTable(file: File): Promise<StoredTable> {
  const kept = await api<StoredTable>(`/tables?name=${encodeURIComponent(file.name)}`, { method: 'POST', text: await file.text() });
  await mutate('/tables');
  return kept;
}

/** Fetches anew whatever begins with this path. */
export const refresh = (path: string): Promise<unknown> => mutate((key) => typeof key === 'string' && key.startsWith(path));
