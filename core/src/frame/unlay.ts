/** The inverse of laying one picture over another: what must be laid over the clean picture so that the worn one comes out. */

/** How the wear stands in a file of its own: with alpha, over grey, over black. */
export type Ground = 'alpha' | 'grey' | 'black';

/** What another program must blend by, in its own terms. */
export const GROUND_BLENDS: Readonly<Record<Ground, string>> = { alpha: 'normal', grey: 'linear light', black: 'add (linear dodge)' };

/** Codes of planes, and the greatest of them. */
type Codes = Uint8Array | Uint16Array;
const codesOf = (plane: Uint8Array, bits: 8 | 16): Codes => (bits === 8 ? plane : new Uint16Array(plane.buffer, plane.byteOffset, plane.length >> 1));
const none = (bits: 8 | 16, length: number): Codes => (bits === 8 ? new Uint8Array(length) : new Uint16Array(length));
const bytesOf = (codes: Codes): Uint8Array => new Uint8Array(codes.buffer, codes.byteOffset, codes.byteLength);

/**
 * @param clean and @param worn R'G'B' planes of the same size
 * @returns for `alpha` four planes, R'G'B' not multiplied and alpha, the least that is enough; else R'G'B'. By arithmetic that IEEE 754 gives to the last bit,
 * so that they are the same everywhere. Laid over `clean` by `GROUND_BLENDS` they give `worn` within a code of 8 bits; over black, where `worn` is nowhere darker.
 */
export function unlay(clean: readonly Uint8Array[], worn: readonly Uint8Array[], ground: Ground, bits: 8 | 16): Uint8Array[] {
  const most = 2 ** bits - 1;
  const [cleanCodes, wornCodes] = [clean, worn].map((planes) => planes.map((plane) => codesOf(plane, bits))) as [Codes[], Codes[]];
  if (ground === 'alpha') return withAlpha(cleanCodes, wornCodes, most, bits);
  /** What stands for no change: the middle, rounded up. */
  const middle = (most + 1) / 2;
  return wornCodes.map((w, p) => {
    const c = cleanCodes[p]!;
    const out = none(bits, w.length);
    for (let i = 0; i < w.length; i++) {
      const more = w[i]! - c[i]!;
      out[i] = ground === 'black' ? Math.max(0, more) : Math.min(most, Math.max(0, middle + Math.floor(more / 2)));
    }
    return bytesOf(out);
  });
}

function withAlpha([cr, cg, cb]: Codes[], [wr, wg, wb]: Codes[], most: number, bits: 8 | 16): Uint8Array[] {
  /** Half a code of 8 bits: less is rounding, and would be drawn over all of the picture. */
  const unseen = most / 510;
  /** An opacity that takes c to w with some colour, at least. */
  const opacity = (c: number, w: number): number => {
    const more = Math.abs(w - c) - unseen;
    return more <= 0 ? 0 : (most * more) / (w < c ? c : most - c);
  };
  /** The colour that over c comes nearest to w. */
  const colour = (c: number, w: number, a: number): number => Math.min(most, Math.max(0, Math.round((w * most - (most - a) * c) / a)));
  const out = [0, 1, 2, 3].map(() => none(bits, cr!.length));
  const [r, g, b, alpha] = out as [Codes, Codes, Codes, Codes];
  for (let i = 0; i < alpha.length; i++) {
    const least = Math.max(opacity(cr![i]!, wr![i]!), opacity(cg![i]!, wg![i]!), opacity(cb![i]!, wb![i]!));
    if (least === 0) {
      // The colour goes on where it is not seen: a coding that loses something would else draw black into what lies beside it.
      if (i === 0) continue;
      r[i] = r[i - 1]!;
      g[i] = g[i - 1]!;
      b[i] = b[i - 1]!;
      continue;
    }
    // What nothing shines through is laid so over any other picture, too.
    const a = least >= most - 2 * unseen ? most : Math.ceil(least);
    alpha[i] = a;
    r[i] = colour(cr![i]!, wr![i]!, a);
    g[i] = colour(cg![i]!, wg![i]!, a);
    b[i] = colour(cb![i]!, wb![i]!, a);
  }
  return out.map(bytesOf);
}
