import type { ComponentProps, KeyboardEvent, PointerEvent, ReactNode } from 'react';
import { Toolbar as Radix } from 'radix-ui';
import { pressable, wasClicked } from './clicked';

interface Props {
  label: string;
  className?: string;
  onPointerDown?: (event: PointerEvent) => void;
  children: ReactNode;
}

/** Buttons that are one stop of Tab together: arrows, Home and End lead from one to the next. */
export function Toolbar({ label, ...rest }: Props) {
  return <Radix.Root aria-label={label} loop={false} {...rest} />;
}

const MOVES = ['ArrowLeft', 'ArrowRight', 'Home', 'End', 'PageUp', 'PageDown'];

type Pressed = Pick<globalThis.KeyboardEvent, 'key' | 'altKey' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'target'>;

const moves = ({ key, altKey, ctrlKey, metaKey, shiftKey }: Pressed): boolean => MOVES.includes(key) && !altKey && !ctrlKey && !metaKey && !shiftKey;

/** Whether a key leads to another button of a toolbar. After a click it does not: the arrows are the picture's then. */
export function leadsInToolbar(event: Pressed): boolean {
  const at = pressable(event.target);
  return moves(event) && !wasClicked(at) && Boolean(at?.closest('[role="toolbar"]'));
}

/** One button of a toolbar, round the element that is pressed. */
export function Tool({ children, ...rest }: ComponentProps<typeof Radix.Button>) {
  const onKeyDown = (event: KeyboardEvent<HTMLButtonElement>): void => {
    rest.onKeyDown?.(event);
    if (moves(event) && wasClicked(event.currentTarget)) event.preventDefault();
  };
  return (
    <Radix.Button asChild {...rest} onKeyDown={onKeyDown}>
      {children}
    </Radix.Button>
  );
}
