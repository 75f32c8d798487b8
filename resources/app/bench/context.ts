import { inject, type InjectionKey, type Ref } from 'vue';
import type { Area, AreaColours, Pair, Recipe, Shot } from '../api/types';
import type { RecipeStore } from './useRecipe';

/** What panels of the bench need of it besides their own subject. */
export interface BenchContext {
  shot: Shot;
  store: RecipeStore;
  frame: Ref<number>;
  area: Ref<Area | null>;
  /** The chosen area's colours on this frame, as the picture enters it. */
  colours: Ref<AreaColours | null>;
  /** The recipe on screen where it is not saved yet, for requests that should see it. */
  unsaved: () => { recipe?: Recipe };
  /** Lets somebody click a place on the picture; gives where, in picture heights of the frame, or null when left. */
  choosePlace: (words: string) => Promise<Pair | null>;
}

export const BENCH: InjectionKey<BenchContext> = Symbol('bench');

export function useBench(): BenchContext {
  const context = inject(BENCH);
  if (!context) throw new Error('This belongs on the bench.');
  return context;
}
