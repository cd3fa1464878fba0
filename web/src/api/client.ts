import { useMemo } from 'react';
import { create } from 'zustand';
import useSWR, { mutate, preload } from 'swr';
import { livePrints, liveShots, useLive } from './live';
import type { Problem } from '@tin-ghost/core';
import type { Bin, ErrorAnswer, ErrorCode, Machine, Print, Reel, ReelSummary, Reference, Session, StoredFont, StoredLook, StoredPlate, StoredTable } from '@tin-ghost/contract';
import { texts } from '../messages/api';

/** A refusal of the server, or no answer at all (`no-answer`), or one that is none of its own (`unknown`). */
export class ApiError extends Error {
  constructor(
    readonly code: ErrorCode | 'no-answer' | 'unknown',
    message: string,
    readonly problems: readonly Problem[] = [],
  ) {
    super(message);
  }
}

/** Whether the server wants its password. */
export const useLocked = create<{ locked: boolean }>()(() => ({ locked: false }));

/**
 * Calls the server with a body of JSON, or of plain text as it stands.
 * @throws ApiError with what the server says, or with `no-answer` where it does not answer
 */
export async function api<T>(path: string, init: { method?: string; body?: unknown; text?: string; bytes?: Blob; keepalive?: boolean } = {}): Promise<T> {
  const body = init.bytes ?? init.text ?? (init.body === undefined ? undefined : JSON.stringify(init.body));
  const type = init.bytes ? 'application/octet-stream' : init.text === undefined ? 'application/json' : 'text/plain';
  const response = await fetch(`/api${path}`, {
    method: init.method ?? 'GET',
    keepalive: init.keepalive,
    headers: body === undefined ? undefined : { 'content-type': type },
    body,
  }).catch(() => {
    throw new ApiError('no-answer', texts.tinGhostsServerDoesNot);
  });
  if (response.status === 204) return undefined as T;
  const answer = (await response.json().catch(() => ({}))) as T & Partial<ErrorAnswer>;
  if (answer.error?.code === 'password-needed' && path !== '/session') useLocked.setState({ locked: true });
  if (!response.ok) throw new ApiError(answer.error?.code ?? 'unknown', answer.error?.message ?? texts.serverAnsweredStatus(response.status), answer.error?.problems);
  return answer;
}

const get = <T>(path: string): Promise<T> => api<T>(path);

/** All reels, with how far their footage has come at this moment. */
export function useReels() {
  const { data, error } = useSWR<ReelSummary[], ApiError>('/reels', get);
  const live = useLive((s) => s.media);
  return { data: useMemo(() => data?.map((reel) => ({ ...reel, shots: liveShots(reel.shots, live) })), [data, live]), error };
}

/** Asks for what a screen shows before the screen is loaded. */
export const askAhead = (path: string): void => void Promise.resolve(preload(path, get)).catch(() => undefined);

/** One reel, with how far its footage has come at this moment. */
export function useReel(id: string) {
  const { data, error } = useSWR<Reel, ApiError>(`/reels/${id}`, get);
  const live = useLive((s) => s.media);
  return { data: useMemo(() => data && { ...data, shots: liveShots(data.shots, live) }, [data, live]), error };
}

/** Whether the server is behind a password; undefined until that is known. */
export const useServerSession = (): Session | undefined => useSWR<Session, ApiError>('/session', get, { revalidateOnFocus: false }).data;

/** All prints, with how far they are at this moment. */
export function usePrints() {
  const { data, error } = useSWR<Print[], ApiError>('/prints', get);
  const live = useLive((s) => s.prints);
  return { data: useMemo(() => data && livePrints(data, live), [data, live]), error };
}

/** Who takes work, and what each does: asked for anew while it is looked at. */
export const useMachines = () => useSWR<Machine[], ApiError>('/machines', get, { refreshInterval: 1500 });

export const useLooks = () => useSWR<StoredLook[], ApiError>('/looks', get);

/** Plates, with how far those that are being imported have come. */
export function usePlates() {
  const { data, error } = useSWR<StoredPlate[], ApiError>('/plates', get);
  const live = useLive((s) => s.media);
  return { data: useMemo(() => data && liveShots(data, live), [data, live]), error };
}

/** What was deleted and can be put back. */
export const useBin = () => useSWR<Bin, ApiError>('/bin', get);

export const useFonts = () => useSWR<StoredFont[], ApiError>('/fonts', get);

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

/** Sends a font file to be kept. Throws ApiError with the reason where it cannot be read. */
export async function sendFont(file: File): Promise<StoredFont> {
  const kept = await api<StoredFont>(`/fonts?name=${encodeURIComponent(file.name)}`, { method: 'POST', bytes: file });
  await mutate('/fonts');
  return kept;
}

/** Fetches anew whatever begins with this path. */
export const refresh = (path: string): Promise<unknown> => mutate((key) => typeof key === 'string' && key.startsWith(path));
