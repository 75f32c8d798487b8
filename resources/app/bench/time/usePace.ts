import type { Coarse } from '../picture/useReels';

/** Milliseconds that a picture takes however small it is. */
const LEAST = 8;
/** Faster than needed by so much, so that what is ready grows. */
const SPARE = 1.2;
const COARSE: Coarse[] = [1, 2, 3];
const COARSEST: Coarse = 3;

/** How long pictures take to make, by what they are of, and so how coarse they have to be to be made in time. */
export function usePace() {
  /** Milliseconds that a sharp one would take. */
  const sharp = new Map<string, number>();
  const at = (full: number, as: Coarse): number => LEAST + (full - LEAST) / as ** 2;

  return {
    tell(of: string, as: Coarse, milliseconds: number): void {
      const full = LEAST + Math.max(0, milliseconds - LEAST) * as ** 2;
      sharp.set(of, full + ((sharp.get(of) ?? full) - full) / 2);
    },
    /** The least coarse that one lane can make so many a second of; the coarsest before anything is known. */
    coarse(of: string, perSecond: number): Coarse {
      const full = sharp.get(of);
      return full === undefined ? COARSEST : (COARSE.find((as) => 1000 / at(full, as) >= SPARE * perSecond) ?? COARSEST);
    },
    /** Milliseconds that one takes; null before anything is known. */
    takes(of: string, as: Coarse): number | null {
      const full = sharp.get(of);
      return full === undefined ? null : at(full, as);
    },
  };
}
