import { create } from 'zustand';
import useSWR, { mutate, preload } from 'swr';
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

export const useReels = () => useSWR<ReelSummary[], ApiError>('/reels', get);

/** Asks for what a screen shows before the screen is loaded. */
export const askAhead = (path: string): void => void Promise.resolve(preload(path, get)).catch(() => undefined);

export const useReel = (id: string) => useSWR<Reel, ApiError>(`/reels/${id}`, get);

/** Whether the server is behind a password; undefined until that is known. */
export const useServerSession = (): Session | undefined => useSWR<Session, ApiError>('/session', get, { revalidateOnFocus: false }).data;

export const usePrints = () => useSWR<Print[], ApiError>('/prints', get);

/** Who takes work, and what each does: asked for anew while it is looked at. */
export const useMachines = () => useSWR<Machine[], ApiError>('/machines', get, { refreshInterval: 1500 });

export const useLooks = () => useSWR<StoredLook[], ApiError>('/looks', get);

export const usePlates = () => useSWR<StoredPlate[], ApiError>('/plates', get);

/** What was deleted and can be put back. */
export const useBin = () => useSWR<Bin, ApiError>('/bin', get);

export const useFonts = () => useSWR<StoredFont[], ApiError>('/fonts', get);

export const useTables = () => useSWR<StoredTable[], ApiError>('/tables', get);

/** References of a reel and those that ship; without a reel, all there are. */
export const useReferences = (reel?: string) => useSWR<Reference[], ApiError>(reel ? `/references?reel=${reel}` : '/references', get);

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
