/** Lines of a picture that what is placed by hand takes to, in hundredths: title-safe edges, thirds, the middle (SMPTE ST 2046-1 for the edges). */
export const snapPlaces: readonly number[] = [5, 100 / 3, 50, 200 / 3, 95];

/** The nearest place within reach, and the line it lies on; else the value as it is. */
export function snapped(value: number, places: readonly number[], reach: number): { value: number; line?: number } {
  const nearest = places.reduce((best, place) => (Math.abs(place - value) < Math.abs(best - value) ? place : best), Infinity);
  return Math.abs(nearest - value) <= reach ? { value: nearest, line: nearest } : { value };
}
