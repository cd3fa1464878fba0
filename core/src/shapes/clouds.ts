import { evenOfThree } from '../random/random';
import { smooth } from './smooth';

const { floor } = Math;

/** Random numbers -1 to 1 at whole places of the plane, joined smoothly. @param seed of the field @param x and y in places */
export function patches(seed: number, x: number, y: number): number {
  const [i, j] = [floor(x), floor(y)];
  const [u, v] = [smooth(x - i), smooth(y - j)];
  const upper = evenOfThree(seed, i, j) + (evenOfThree(seed, i + 1, j) - evenOfThree(seed, i, j)) * u;
  const lower = evenOfThree(seed, i, j + 1) + (evenOfThree(seed, i + 1, j + 1) - evenOfThree(seed, i, j + 1)) * u;
  return 2 * (upper + (lower - upper) * v) - 1;
}

/** Patches with smaller ones on them, each half as wide and half as strong as the last; within -1 to 1. */
export function clouds(seed: number, x: number, y: number, octaves: number): number {
  let [sum, weight, size] = [0, 0, 1];
  for (let i = 0; i < octaves; i++) {
    sum += patches(seed + i, x / size, y / size) * size;
    weight += size;
    size /= 2;
  }
  return sum / weight;
}
