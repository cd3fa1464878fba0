import { shippedPlates, type Blend } from '@tin-ghost/core';
import type { StoredPlate } from '@tin-ghost/contract';

/** A ground is black or white where its edge is so far from grey. */
const [BLACK, WHITE] = [0.12, 0.8];
/** The poster is looked at this large. */
const [WIDE, HIGH] = [48, 27];

/** How a plate is meant to be laid by its ground, the mean of its edge, 0 to 1: black is put out, white lets through. */
export const blendOnGround = (ground: number): Blend => (ground < BLACK ? 'screen' : ground > WHITE ? 'multiply' : 'normal');

/** The blend that is proposed for a plate: its own where it ships, as it is where it has alpha, else by its ground. */
export async function proposedBlend({ key, medium }: StoredPlate): Promise<Blend> {
  const shipped = shippedPlates.find(({ id }) => id === key);
  if (shipped) return shipped.mode;
  if (medium.footage?.stacked) return 'normal';
  const image = new Image();
  image.src = `/api/media/${medium.id}/poster`;
  try {
    await image.decode();
  } catch {
    return 'normal';
  }
  const canvas = new OffscreenCanvas(WIDE, HIGH);
  const context = canvas.getContext('2d')!;
  context.drawImage(image, 0, 0, WIDE, HIGH);
  const { data } = context.getImageData(0, 0, WIDE, HIGH);
  let [sum, count] = [0, 0];
  for (let y = 0; y < HIGH; y++)
    for (let x = 0; x < WIDE; x++) {
      if (x > 1 && x < WIDE - 2 && y > 1 && y < HIGH - 2) continue;
      const i = (y * WIDE + x) * 4;
      sum += (0.2126 * data[i]! + 0.7152 * data[i + 1]! + 0.0722 * data[i + 2]!) / 255;
      count++;
    }
  return blendOnGround(sum / count);
}
