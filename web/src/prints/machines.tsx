import type { Machine } from '@tin-ghost/contract';
import { useMachines } from '../api/client';
import { clockTime } from '../parts/amounts';
import { Page, PageLink } from '../parts/page';
import { texts } from '../messages/prints';

/** Who takes work: this server and the workers that were started beside it, and what each does at this moment. */
export function Machines() {
  const { data: machines, error } = useMachines();
  const rate = machines?.reduce((sum, machine) => sum + rateOf(machine), 0) ?? 0;
  return (
    <Page heading={texts.machines} beside={<PageLink to="/prints">{texts.prints}</PageLink>} error={error}>
      <p className="mb-5 max-w-[70ch] text-faint">{texts.printsAreCutIntoSegments}</p>
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-rule text-left text-faint">
            <th className="py-1.5 pr-4 font-semibold">{texts.machine}</th>
            <th className="py-1.5 pr-4 font-semibold">{texts.threads}</th>
            <th className="py-1.5 pr-4 font-semibold">{texts.since}</th>
            <th className="w-1/2 py-1.5 pr-4 font-semibold">{texts.work}</th>
            <th className="py-1.5 text-right font-semibold">{texts.rate}</th>
          </tr>
        </thead>
        <tbody>
          {machines?.map((machine) => (
            <Row key={machine.id} machine={machine} />
          ))}
        </tbody>
        <tfoot>
          <tr>
            <td colSpan={4} className="py-2 text-faint">
              {texts.allTogether}
            </td>
            <td className="mono py-2 text-right">{fps(rate)}</td>
          </tr>
        </tfoot>
      </table>
    </Page>
  );
}

const rateOf = ({ doing }: Machine): number => doing.reduce((sum, { perSecond }) => sum + perSecond, 0);
const fps = (rate: number): string => (rate > 0 ? `${rate.toFixed(1)} fps` : '–');

function Row({ machine }: { machine: Machine }) {
  const { id, name, threads, startedAt, doing } = machine;
  return (
    <tr className="border-b border-rule align-top" data-machine={id}>
      <td className="py-2.5 pr-4 font-semibold">
        {name} <span className="mono font-normal text-faint">{id.slice(0, 6)}</span>
      </td>
      <td className="mono py-2.5 pr-4">{threads}</td>
      <td className="mono py-2.5 pr-4">{clockTime(startedAt)}</td>
      <td className="py-2.5 pr-4">
        {doing.length === 0 && <span className="text-faint">{texts.nothingToDo}</span>}
        {doing.map((work) => (
          <Work key={`${work.kind} ${work.name} ${work.from}`} work={work} />
        ))}
      </td>
      <td className="mono py-2.5 text-right">{fps(rateOf(machine))}</td>
    </tr>
  );
}

function Work({ work: { kind, name, from, to, done } }: { work: Machine['doing'][number] }) {
  if (kind === 'join') return <p className="truncate">{texts.joining(name)}</p>;
  const [words, total] = kind === 'import' ? [texts.importing(name), to] : [texts.printing(name, from, to), to - from + 1];
  return (
    <div className="flex items-center gap-3">
      <span className="min-w-0 flex-1 truncate">{words}</span>
      <progress className="h-1.5 w-40 accent-oxide" value={done} max={total} aria-label={words} />
    </div>
  );
}
