import type { ReactNode } from 'react';
import { FileButton } from '../parts/file-button';

interface Props {
  /** `says` is what lies there, `files` the name of the button's field, `add` what stands on it. */
  words: Readonly<Record<'heading' | 'says' | 'files' | 'add', string>>;
  /** Kinds of files. */
  accept: string;
  bring: (files: File[]) => Promise<unknown>;
  children: ReactNode;
}

/** A part of the stockroom under the looks: pictures side by side, and a button that adds others. */
export function Section({ words, accept, bring, children }: Props) {
  return (
    <section aria-label={words.heading} className="mt-9">
      <div className="flex items-end justify-between">
        <h2 className="text-[26px] font-semibold">{words.heading}</h2>
        <FileButton label={words.files} accept={accept} onFiles={(files) => void bring(files)}>
          {words.add}
        </FileButton>
      </div>
      <p className="mb-4 text-faint">{words.says}</p>
      <ul className="grid grid-cols-4 gap-5">{children}</ul>
    </section>
  );
}
