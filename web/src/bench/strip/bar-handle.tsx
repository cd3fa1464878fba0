import clsx from 'clsx';

interface Props {
  /** What of the bar it moves. */
  part: string;
  /** Where on the bar it is. */
  left: string;
  cursor: string;
}

/** A bar that has room for its handles shows them; a shorter one is moved as a whole, and taken hold of a little beside it. */
export const BAR = '@container absolute inset-y-[2px] cursor-grab after:absolute after:inset-y-0 after:-inset-x-[3px] after:-z-10';

/** A mark on a bar of the strip by which a part of it is taken hold of; the bar itself finds its `data-part`. */
export function BarHandle({ part, left, cursor }: Props) {
  return (
    <span data-part={part} className={clsx('absolute inset-y-0 hidden w-[7px] -translate-x-1/2 @min-[24px]:block', cursor)} style={{ left }}>
      <span className="pointer-events-none absolute inset-y-[3px] left-[3px] w-px bg-ink" />
    </span>
  );
}
