import { toast } from 'sonner';
import { refresh } from './client';

/** Waits for what changes reels or shots: lists are fetched anew, a refusal is told. @returns whether it was done */
export const told = (work: Promise<unknown>): Promise<boolean> =>
  work.then(
    async () => {
      await Promise.all([refresh('/reels'), refresh('/bin')]);
      return true;
    },
    (error: Error) => {
      toast.error(error.message);
      return false;
    },
  );

/** Notes that something can be taken back stay this long. */
export const UNDO_MS = 20_000;
