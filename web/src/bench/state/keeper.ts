import { dequal } from 'dequal';
import { broughtUp, type Look, type Preparation } from '@tin-ghost/core';
import type { Shot } from '@tin-ghost/contract';
import { api, ApiError, refresh } from '../../api/client';
import type { Versions } from './versions';

/** What is made of a shot: how it is prepared, its look, and its other versions. */
export interface Work {
  look: Look;
  preparation: Preparation;
  versions: Versions;
}

/** What is made of a shot, of something that holds it; what was stored before there were versions has none. */
export const workOf = ({ look, preparation, versions }: Omit<Work, 'versions'> & Partial<Work>): Work => ({ look, preparation, versions: versions ?? [] });

/** As `workOf`, of what was stored by this program or an older one. */
export const storedWork = (stored: Partial<Work>): Work =>
  workOf({
    look: broughtUp(stored.look) as Look,
    preparation: stored.preparation ?? {},
    versions: (stored.versions ?? []).map((look) => look && (broughtUp(look) as Look)),
  });

/** How a change stands: with the server, on its way, only in this browser, or against a change made elsewhere. */
export type Keeping = { state: 'kept'; at: Date | null } | { state: 'keeping' } | { state: 'held'; why: string } | { state: 'contested'; revision: number; work: Work };

const QUIET_MS = 350;
const RETRY_MS = 3000;
/** Changes whose answers never came that are remembered as one's own. */
const MOST_SENT = 5;
const draftKey = (shotId: string): string => `tin-ghost/draft/${shotId}`;

interface Draft extends Work {
  revision: number;
  /** What was sent on top of that revision and never answered: the server may have it or not. */
  sent: readonly Work[];
}

/** Whether what the server has is one of those that were sent to it, so that no other hand was there. */
export const isOneOf = (sent: readonly Work[], stored: Work): boolean => sent.some((work) => dequal(work, stored));

/** A change that never reached the server, from a page that was closed or a server that was away. */
export function draftOf(shotId: string): Draft | null {
  try {
    const draft = JSON.parse(localStorage.getItem(draftKey(shotId)) ?? 'null') as (Work & Partial<Draft> & { revision: number }) | null;
    return draft && { ...storedWork(draft), revision: draft.revision, sent: (draft.sent ?? []).map(storedWork) };
  } catch {
    return null;
  }
}

/** What the server was last known to have of each shot that this page has changed. */
const known = new Map<string, Work & { revision: number }>();

/** The newest that is known of a shot: as it was listed, or as this page has changed it since. */
export function newest(shot: Pick<Shot, 'id' | 'look' | 'preparation' | 'versions' | 'revision'>): Work & { revision: number } {
  const mine = known.get(shot.id);
  return mine && mine.revision > shot.revision ? mine : { ...workOf(shot), revision: shot.revision };
}

/** Keeps the work on one shot with the server; until the server has it, in this browser. */
export class Keeper {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private pending: Work | null = null;
  private sending = false;

  /** @param sent what an earlier page sent on top of that revision and was not answered */
  constructor(
    private readonly shot: Pick<Shot, 'id' | 'reelId'>,
    private revision: number,
    private readonly tell: (keeping: Keeping) => void,
    private sent: readonly Work[] = [],
  ) {}

  /** Notes a change at once in the browser and sends it when the hand rests. */
  keep(work: Work): void {
    this.pending = workOf(work);
    this.note();
    this.tell({ state: 'keeping' });
    this.later(QUIET_MS);
  }

  /** Sends what is pending now, as the page goes away. */
  flush(): void {
    if (this.pending && !this.sending) void this.send(true);
  }

  /** Goes on from another revision: that of an answer, or the one a user chose to go on from. */
  rebase(revision: number): void {
    this.revision = revision;
    this.sent = [];
  }

  forget(): void {
    this.pending = null;
    clearTimeout(this.timer);
    localStorage.removeItem(draftKey(this.shot.id));
  }

  private note(): void {
    if (!this.pending) return;
    // Where the browser's store is all but full, the change alone may still fit; where it is full or shut, the server still gets it.
    for (const sent of [this.sent, []]) {
      try {
        return localStorage.setItem(draftKey(this.shot.id), JSON.stringify({ ...this.pending, revision: this.revision, sent } satisfies Draft));
      } catch {
        continue;
      }
    }
  }

  private later(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(false), ms);
  }

  private async send(keepalive: boolean): Promise<void> {
    if (this.sending || !this.pending) return;
    const work = this.pending;
    this.sending = true;
    this.sent = [...this.sent.filter((earlier) => !dequal(earlier, work)), work].slice(-MOST_SENT);
    this.note();
    try {
      const kept = await api<{ revision: number }>(`/shots/${this.shot.id}/look`, { method: 'PUT', body: { ...work, revision: this.revision }, keepalive });
      this.rebase(kept.revision);
      known.set(this.shot.id, { ...work, revision: kept.revision });
      if (this.pending === work) {
        this.forget();
        this.tell({ state: 'kept', at: new Date() });
        void refresh(`/reels/${this.shot.reelId}`);
      } else this.goOn();
    } catch (error) {
      await this.notKept(error as ApiError, work);
    } finally {
      this.sending = false;
    }
  }

  /** What is pending goes on top of what the server is now known to have. */
  private goOn(): void {
    this.note();
    this.later(QUIET_MS);
  }

  private async notKept(error: ApiError, work: Work): Promise<void> {
    if (error.code === 'changed-elsewhere') {
      const now = await api<Shot>(`/shots/${this.shot.id}`).catch(() => null);
      // It has arrived before, or one before it, and nobody was told: the page went away, or the connection did.
      if (now && isOneOf(this.sent, workOf(now))) {
        this.rebase(now.revision);
        if (this.pending !== work || !dequal(work, workOf(now))) return this.goOn();
        this.forget();
        return this.tell({ state: 'kept', at: new Date() });
      }
      if (now) return this.tell({ state: 'contested', revision: now.revision, work: workOf(now) });
    }
    this.tell({ state: 'held', why: error.problems[0] ? `${error.problems[0].path} ${error.problems[0].message}` : error.message });
    this.later(RETRY_MS);
  }
}
