/** Cuts as text, in and out: read and written where one is asked for, and loaded then. */
import { readEdl, readOtio, writeEdl, writeOtio, type Cut, type CutIn } from '@tin-ghost/core';

export type CutForm = 'otio' | 'edl';

/** @param name of its file, which says its form and names a cut that has no name of its own @throws {Error} that says what is wrong with it */
export function readCut(name: string, text: string): CutIn {
  const cut = /\.edl$/i.test(name) ? readEdl(text) : readOtio(text);
  return cut.name === 'Cut' ? { ...cut, name: name.replace(/\.[^.]+$/, '') } : cut;
}

export const writeCut = (cut: Cut, form: CutForm): string => (form === 'edl' ? writeEdl : writeOtio)(cut);
