import { useEffect, useMemo, useState } from 'react';
import { EMPTY_LOOK, PERCENTILES, type Figures, type Look, type Match } from '@tin-ghost/core';
import type { Reference } from '@tin-ghost/contract';
import { Button } from '../../parts/button';
import { preview } from '../../render/preview';
import type { Source } from '../../render/protocol';
import { compareWith, useCompare } from '../state/compare';
import { insertColour } from '../state/look-edits';
import { showReference, useScopes } from '../state/scope';
import { sourceOf } from '../../render/source';
import { changeLook, useDocument } from '../state/document';
import { texts } from '../../messages/shot';

const percent = (v: number): string => (100 * v).toFixed(1);

/** The figures of the shot and of the pinned reference, and a setting that brings the one to the other. */
export function MatchPanel({ source, reference }: { source: Source; reference: Reference }) {
  const look = useDocument((s) => s.look);
  const [found, setFound] = useState<{ match: Match; look: Look; source: Source; reference: string } | null>(null);
  const [state, setState] = useState<'idle' | 'measuring' | string>('idle');
  const { medium } = reference;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- made anew only when this footage changes
  const referenceSource = useMemo(() => sourceOf(medium), [medium.id, medium.state]);
  // Another look or another reference makes a proposal stale.
  const match = found && found.look === look && found.source === source && found.reference === reference.id ? found.match : null;
  const proposed = useMemo(() => match && insertColour(look, match.uses), [match, look]);

  const propose = async (): Promise<void> => {
    if (!referenceSource) return;
    setState('measuring');
    try {
      const match = await preview().ask({ kind: 'match', source, look, reference: referenceSource });
      setFound({ match, look, source, reference: reference.id });
      setState('idle');
    } catch (error) {
      setState(error instanceof Error ? error.message : String(error));
    }
  };
  const take = (): void => {
    if (!proposed) return;
    changeLook(proposed.look, proposed.at);
    setFound(null);
  };
  return (
    <section aria-label={texts.match} className="border-b border-rule px-3.5 py-3">
      <h3 className="label">{texts.matchToName(reference.name)}</h3>
      {!match && (
        <div className="mt-2 flex items-center gap-2">
          <Button disabled={!referenceSource || state === 'measuring'} onClick={() => void propose()}>
            {state === 'measuring' ? texts.measuring : texts.measureAndPropose}
          </Button>
          {state !== 'idle' && state !== 'measuring' && (
            <p role="alert" className="text-oxide">
              {state}
            </p>
          )}
        </div>
      )}
      {match && (
        <>
          <FiguresTable match={match} />
          <p className="mt-1.5 text-[13px] text-faint">{texts.arrivesAsToneCurvesSaturation}</p>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button kind="live" onClick={take}>
              {texts.apply}
            </Button>
            <Button onClick={() => proposed && compareWith({ kind: 'look', look: { ...proposed.look, name: texts.proposal } })}>{texts.seeItBeside}</Button>
            <Button onClick={() => setFound(null)}>{texts.dismiss}</Button>
          </div>
        </>
      )}
    </section>
  );
}

const MOST_APART = 0.02;

function FiguresTable({ match: { before, after, reference } }: { match: Match }) {
  const rows: [string, (f: Figures) => number][] = [
    [texts.black, (f) => f.black],
    ...PERCENTILES.slice(1, -1).map((p, i): [string, (f: Figures) => number] => [p === 0.5 ? texts.halfBelow : texts.percentBelow(p * 100), (f) => f.percentiles[i + 1]!]),
    [texts.white, (f) => f.white],
    [texts.contrast, (f) => f.contrast],
    ...[texts.shadows, texts.middles, texts.highlights].flatMap((range, i): [string, (f: Figures) => number][] => [
      [texts.rangeColour(range), (f) => f.saturation[i]!],
      [texts.rangeRedTint(range), (f) => f.tints[i]![0]],
      [texts.rangeBlueTint(range), (f) => f.tints[i]![2]],
    ]),
  ];
  return (
    <table className="mono mt-2 w-full text-[12px]" aria-label={texts.figuresInPercent}>
      <thead>
        <tr className="text-faint">
          <th className="text-left font-normal">%</th>
          <th className="pl-3 text-right font-normal">{texts.shot}</th>
          <th className="pl-3 text-right font-normal">{texts.withIt}</th>
          <th className="pl-3 text-right font-normal">{texts.reference}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, of]) => {
          const off = Math.abs(of(after) - of(reference)) > MOST_APART;
          return (
            <tr key={name} className="border-t border-rule/60">
              <th className="text-left font-sans text-[13px] font-normal">{name}</th>
              <td className="text-right">{percent(of(before))}</td>
              <td className={`text-right ${off ? 'text-oxide' : ''}`}>{percent(of(after))}</td>
              <td className="text-right">{percent(of(reference))}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Keeps the spread of the pinned reference behind the scopes while they are open. */
export function useReferenceScope(reference: Reference | undefined): void {
  const open = useScopes((s) => s.open);
  const pinned = useCompare((s) => s.pinned);
  const medium = reference?.medium;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- made anew only when this footage changes
  const source = useMemo(() => (medium ? sourceOf(medium) : null), [medium?.id, medium?.state]);
  useEffect(() => {
    showReference(null);
    if (!open || !pinned || !source) return;
    let stale = false;
    void preview()
      .wear(source, Math.floor(source.frames / 2), EMPTY_LOOK, source, { scope: true })
      .then(({ scope }) => !stale && showReference(scope ?? null))
      .catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [open, pinned, source]);
}
