import { useRef, type ButtonHTMLAttributes, type ComponentProps } from 'react';
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
  return (
    <>
      <Button {...button} onClick={() => field.current?.click()}>
        {children}
      </Button>
      <input
        ref={field}
        type="file"
        accept={accept}
        hidden
        multiple={onFiles !== undefined}
        aria-label={label}
        onChange={(e) => {
          const files = [...(e.currentTarget.files ?? [])];
          if (files.length) {
            onFiles?.(files);
            onFile?.(files[0]!);
          }
          e.currentTarget.value = '';
        }}
      />
    </>
  );
}
