import { AS_SHOT, Plan, preparedSize, shotPictures, type Encoding, type Look, type Preparation } from '@tin-ghost/core';
import { decodeOne } from './decode';
import { encodingFor } from './codings';
import { rateValue, type Footage } from './footage';
import { PlateReader, plannedFiles, platesAt, type LookFiles } from './plates';
import { newEngine } from './pool';
import { scoredShot } from './retimed';

export interface FrameOptions {
  readonly size?: { readonly width: number; readonly height: number };
  /** Of the planes; 8-bit R'G'B' without. */
  readonly encoding?: Encoding;
  readonly preparation?: Preparation;
  /** What the look and the preparation refer to. */
  readonly files?: LookFiles;
  readonly signal?: AbortSignal;
}

/** The planes of one worn picture: the same bits as that picture of a print. Throws as `decode`. */
export async function renderFrame(
  footage: Footage,
  look: Look,
  n: number,
  { size, encoding = encodingFor('png', 8), preparation = AS_SHOT, files, signal }: FrameOptions = {},
): Promise<Uint8Array[]> {
  const { width, height } = size ?? preparedSize(footage, preparation);
  const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
  const plan = new Plan(await newEngine(), look, {
    source,
    target: { width, height, encoding },
    rate: rateValue(footage.rate),
    preparation,
    ...plannedFiles(files),
  });
  const needs = plan.score.needs(n, scoredShot(footage, footage.rate, preparation));
  const shot = await shotPictures(needs, preparation, (picture) => decodeOne(footage, picture, signal));
  const plates = new PlateReader(files?.plates ?? {}, signal);
  const laid = await plates.read(plan.platePictures(n)).finally(() => plates.close());
  return plan.render(n, (picture) => shot.get(picture)!, undefined, undefined, platesAt(laid));
}
