import { useScopes } from '../state/scope';

/** Where in the picture the line lies that the line scope shows. */
export function LineMark() {
  const line = useScopes((s) => s.line);
  return <div className="pointer-events-none absolute inset-x-0 h-px bg-oxide" style={{ top: `${line * 100}%` }} data-line-mark />;
}
