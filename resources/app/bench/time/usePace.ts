import type { Coarse } from '../picture/useReels';

/** Milliseconds that a picture takes however small it is. */
const LEAST = 8;
/** Faster than needed by so much, so that what is ready grows. */
const SPARE = 1.2;
const COARSE: Coarse[] = [1, 2, 3];

/** How long pictures have taken lately, by what they are of, and so how coarse they have to be to be made in time. */
export function usePace() {
  /** Milliseconds that a sharp one would take. */
  const sharp = new Map<string, number>();
  const at = (full: number, as: Coarse): number => LEAST + (full - LEAST) / as ** 2;

  return {
    tell(key: string, as: Coarse, milliseconds: number): void {
      const full = LEAST + Math.max(0, milliseconds - LEAST) * as ** 2;
      sharp.set(key, full + ((sharp.get(key) ?? full) - full) / 2);
    },
    /** The least coarse that one lane can make so many a second of; before anything is known, the middle. */
    coarse(key: string, perSecond: number): Coarse {
      const full = sharp.get(key);
      if (full === undefined) return 2;
      return COARSE.find((as) => 1000 / at(full, as) >= SPARE * perSecond) ?? 3;
    },
  };
}
