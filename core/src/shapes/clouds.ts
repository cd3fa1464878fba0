import { evenOfThree } from '../random/random';
import { smooth } from './smooth';

const { floor } = Math;

/** Random numbers -1 to 1 at whole places of the plane, joined smoothly. @param seed of the field @param x and y in places */
export function patches(seed: number, x: number, y: number): number {
  const i = floor(x);
  const j = floor(y);
  const u = smooth(x - i);
  const before = evenOfThree(seed, i, j);
  const upper = before + (evenOfThree(seed, i + 1, j) - before) * u;
  const beforeBelow = evenOfThree(seed, i, j + 1);
  const lower = beforeBelow + (evenOfThree(seed, i + 1, j + 1) - beforeBelow) * u;
  return 2 * (upper + (lower - upper) * smooth(y - j)) - 1;
}

/** Patches with smaller ones on them, each half as wide and half as strong as the last; within -1 to 1. */
export function clouds(seed: number, x: number, y: number, octaves: number): number {
  let sum = 0;
  let weight = 0;
  let size = 1;
  for (let i = 0; i < octaves; i++) {
    sum += patches(seed + i, x / size, y / size) * size;
    weight += size;
    size /= 2;
  }
  return sum / weight;
}
