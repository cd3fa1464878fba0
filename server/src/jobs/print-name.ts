import { printEnding } from '@tin-ghost/contract';
import type { Print } from '../db/schema';

/** What was shown, without what a file system may refuse. */
export const printStem = ({ name }: Pick<Print, 'name'>): string => name.replace(/[^\p{L}\p{N} .,_-]+/gu, '_').slice(0, 100);

/** A file name for a download. */
export const printFileName = (print: Pick<Print, 'name' | 'settings' | 'total'>): string => `${printStem(print)}.${printEnding(print.settings, print.total)}`;
