import type { Recipe } from '../../api/types';

/** A short id that the recipe does not use yet. */
export function freshId(recipe: Recipe, prefix: string): string {
  const text = JSON.stringify(recipe);
  for (let n = 1; ; ++n) if (!text.includes(`"id":"${prefix}${n}"`)) return `${prefix}${n}`;
}

/** A deep copy of a part of the recipe on screen, which is reactive and cannot be cloned otherwise. */
export const copied = <T>(part: T): T => JSON.parse(JSON.stringify(part)) as T;
