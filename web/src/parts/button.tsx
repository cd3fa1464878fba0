import clsx from 'clsx';
import type { ButtonHTMLAttributes } from 'react';

type Kind = 'plain' | 'live' | 'bare';

const KINDS: Record<Kind, string> = {
  plain: 'border border-rule bg-tin px-3 py-1 text-ink hover:bg-well active:bg-rule aria-pressed:border-oxide aria-pressed:text-oxide',
  live: 'border border-oxide bg-oxide px-3 py-1 font-semibold text-oxide-ink hover:brightness-110',
  bare: 'px-1.5 py-1 text-ink hover:text-oxide',
};

export function Button({ kind = 'plain', className, ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return (
    <button
      type="button"
      {...rest}
      className={clsx('inline-flex items-center gap-1.5 rounded-sm whitespace-nowrap disabled:cursor-default disabled:opacity-45', KINDS[kind], className)}
    />
  );
}
