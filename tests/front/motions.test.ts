import { describe, expect, it } from 'vitest';
import { weakFrames } from '../../resources/app/bench/follow/useMotions';
import { freshId } from '../../resources/app/bench/recipe/ids';
import type { Recipe } from '../../resources/app/api/types';

describe('weak frames', () => {
  it('are the lowest points under the limit, the weakest first, apart from each other', () => {
    const confidence = Array.from({ length: 60 }, (_, i) => (i === 10 ? 0.3 : i === 12 ? 0.2 : i === 30 ? 0.1 : i === 50 ? 0.39 : 0.9));
    expect(weakFrames(confidence, 100)).toEqual([130, 112, 150]);
    expect(weakFrames(confidence, 100, 0.4, 1)).toEqual([130]);
    expect(weakFrames(confidence.map(() => 0.9), 0)).toEqual([]);
  });

  it('frames that were not followed are not weak', () => {
    expect(weakFrames([null, null, 0.9, 0.2, 0.9, null], 0)).toEqual([3]);
  });
});

describe('ids', () => {
  it('a fresh id is used nowhere in the recipe', () => {
    const recipe = { base: [{ id: 't1' }], areas: [{ id: 'a1', touches: [{ id: 't2' }] }] } as unknown as Recipe;
    expect(freshId(recipe, 't')).toBe('t3');
    expect(freshId(recipe, 's')).toBe('s1');
  });
});
