import { PRINT_CODINGS, type PrintCoding, type PrintOrder } from '@tin-ghost/contract';
import { wearAlone, type Look } from '@tin-ghost/core';
import { depthsOf, takesBitRate, tooSmallFor, unfitFor, unfitForGround, type Footage } from '@tin-ghost/media';
import { Refusal } from '../refusal';

/** A shot of a print that is ordered. */
interface Ordered {
  readonly known: Pick<Footage, 'rate' | 'sound'>;
  readonly shot: { readonly name: string; readonly look: Look };
}

/** @throws Refusal where a print cannot be made so, with the field it lies in. @param total its pictures @param shots in their order, at least one */
export function checkCoding(
  order: Pick<PrintOrder, 'format' | 'bits' | 'bitRate' | 'ground'> & { readonly coding: PrintCoding; readonly width: number; readonly height: number },
  total: number,
  shots: readonly Ordered[],
): void {
  const { format, coding, bits, bitRate, ground } = order;
  const refuse = (path: string, message: string, problem = message): never => {
    throw new Refusal('invalid', message, [{ path, message: problem }]);
  };
  const codings: readonly PrintCoding[] = PRINT_CODINGS[format];
  if (!codings.includes(coding)) refuse('coding', `a ${format} file does not hold ${coding}`, `must be ${codings.join(' or ')} in ${format}`);
  const small = tooSmallFor(coding, order);
  if (small) refuse('coding', small);
  const depths = depthsOf(coding);
  if (bits !== undefined && !depths.includes(bits)) refuse('bits', `${coding} does not have ${bits} bits`, `must be ${depths.join(' or ')} for ${coding}`);
  if (bitRate !== undefined && !takesBitRate(coding)) refuse('bitRate', `a bit rate cannot be set for ${coding}`, 'must be left out for this coding');
  const unfit = unfitFor(format, { rate: shots[0]!.known.rate, frames: total, sound: shots.some(({ known }) => known.sound !== null) });
  if (unfit) refuse('format', unfit);
  if (ground === undefined) return;
  const groundless = unfitForGround(coding, bits ?? depths[0]!, ground);
  if (groundless) refuse('ground', groundless);
  const bare = shots.find(({ shot }) => wearAlone(shot.look).look.lives.length === 0);
  if (bare) refuse('ground', `the look of ${bare.shot.name} has no wear that can be laid over a picture`);
}
