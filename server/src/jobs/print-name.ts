import { fileStem, printEnding } from '@tin-ghost/contract';
import type { Print } from '../db/schema';

/** A file name for a download. */
export const printFileName = (print: Pick<Print, 'name' | 'settings' | 'total'>): string => `${fileStem(print.name)}.${printEnding(print.settings, print.total)}`;
