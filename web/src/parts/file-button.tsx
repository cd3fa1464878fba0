import { useEffect, useRef, type ButtonHTMLAttributes, type ComponentProps } from 'react';
import { Button } from './button';

interface Props extends Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'onClick' | 'children'> {
  kind?: ComponentProps<typeof Button>['kind'];
  /** Of the field of files, for those who do not see the button. */
  label: string;
  /** Endings that are offered. */
  accept: string;
  children: string;
  onFile?: (file: File) => void;
  /** Where several may be chosen at once. */
  onFiles?: (files: File[]) => void;
}

/** A button that asks for a file, or for several. */
export function FileButton({ label, accept, children, onFile, onFiles, ...button }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const take = useRef<(files: File[]) => void>(undefined);
  useEffect(() => {
    take.current = (files) => {
      onFiles?.(files);
      onFile?.(files[0]!);
    };
  });
  // Heard at the field itself, and never unheard: while its dialog is open the screen may change and the field be taken off the page, and React hears only what is on it.
  useEffect(() => {
    const input = field.current!;
    input.onchange = () => {
      const files = [...(input.files ?? [])];
      if (files.length) take.current?.(files);
      input.value = '';
    };
  }, []);
  return (
    <>
      <Button {...button} onClick={() => field.current?.click()}>
        {children}
      </Button>
      <input ref={field} type="file" accept={accept} hidden multiple={onFiles !== undefined} aria-label={label} />
    </>
  );
}
