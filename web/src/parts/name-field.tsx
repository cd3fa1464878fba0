import { useState } from 'react';
import { texts } from '../messages/parts';

interface Props {
  /** What is named now. */
  name: string;
  className: string;
  /** The new name; undefined where it stays. */
  onDone: (name: string | undefined) => void;
}

/** A name while it is typed: Enter and leaving it keep it, Escape does not. */
export function NameField({ name, className, onDone }: Props) {
  const [typed, setTyped] = useState(name);
  const keep = (): void => {
    const wanted = typed.trim();
    onDone(wanted && wanted !== name ? wanted : undefined);
  };
  return (
    <input
      aria-label={texts.nameOfName(name)}
      // It was asked for; typing goes on in it.
      ref={(field) => field?.focus()}
      maxLength={160}
      value={typed}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => setTyped(e.currentTarget.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onDone(undefined);
      }}
      className={`rounded-sm border border-oxide px-1 ${className}`}
    />
  );
}
