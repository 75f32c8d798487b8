import { promiseTimeout } from '@vueuse/core';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiError } from '../../api/client';
import type { Area, Recipe, RecipeState, Touch } from '../../api/types';
import { useNotices } from '../../useNotices';

/** How long to wait before a save is tried again that the server could not take. */
const AGAIN = 1500;

/**
 * The recipe of the open shot. Edits show at once, are saved one after the other in the background, and are kept and
 * tried again while the server cannot be reached or breaks down.
 */
export function useRecipe(shotId: number) {
  const { fail, say } = useNotices();
  const saved = shallowRef<RecipeState | null>(null);
  const recipe = ref<Recipe | null>(null);
  /** Counts every change of the recipe on screen, whoever made it. */
  const edits = ref(0);
  /** What a hand is just changing, not let go yet: a touch, or anything else. */
  const held = shallowRef<Touch | true | null>(null);
  /** True while the recipe on screen is not (yet) a saved revision. */
  const unsaved = ref(false);
  const offline = ref(false);
  let waiting: string | null = null;
  let saving: Promise<void> | null = null;
  /** A change is on its way to the server. */
  const isSaving = ref(false);

  /** @param isShown whether it is what is on the screen already, saved now: who looks at something else goes on with it */
  function adopt(state: RecipeState, isShown = false): void {
    saved.value = state;
    recipe.value = structuredClone(state.recipe);
    unsaved.value = false;
    if (!isShown) ++edits.value;
  }

  async function load(): Promise<void> {
    adopt(await api.recipe(shotId));
  }

  /** Changes the recipe on screen; nothing is saved until commit. */
  function edit(change: (recipe: Recipe) => void): void {
    if (!recipe.value) return;
    change(recipe.value);
    ++edits.value;
    unsaved.value = true;
  }

  /** The same while something is held and moves on; commit lets it go. */
  function pull(change: (recipe: Recipe) => void, what: Touch | true = true): void {
    held.value = what;
    edit(change);
  }

  function commit(label: string): Promise<void> {
    held.value = null;
    if (unsaved.value) waiting = label;
    isSaving.value = true;
    saving ??= pump().finally(() => {
      saving = null;
      isSaving.value = false;
    });
    return saving;
  }

  async function pump(): Promise<void> {
    while (waiting !== null && recipe.value && saved.value) {
      const label = waiting;
      const sent = edits.value;
      const base = saved.value.revision;
      waiting = null;
      try {
        const state = await api.saveRecipe(shotId, base, recipe.value, label);
        offline.value = false;
        if (edits.value === sent) adopt(state, state.parent === base);
        // Edited on meanwhile: the next save starts from here, unless others' edits came in, which only a merge knows.
        else if (state.parent === base) saved.value = state;
      } catch (reason) {
        if (reason instanceof ApiError && reason.transient) {
          offline.value = true;
          waiting ??= label;
          await promiseTimeout(AGAIN);
          continue;
        }
        fail(reason instanceof ApiError && reason.status === 409 ? 'Changed elsewhere' : 'The change was not taken', reason);
        await load();
      }
    }
  }

  /** Goes through the history from the revision on screen; where another tab has gone on, that is shown instead. */
  async function step(move: (shot: number, base: number) => Promise<RecipeState>, word: string, label: 'undo' | 'redo'): Promise<void> {
    await (saving ?? Promise.resolve());
    const from = saved.value;
    if (!from?.[label]) return;
    try {
      adopt(await move(shotId, from.revision));
      say(`${word}: ${from[label]}`);
    } catch (reason) {
      fail(`${word === 'Undone' ? 'Undo' : 'Redo'} did not work`, reason);
      if (reason instanceof ApiError && reason.status === 409) await load();
    }
  }

  return {
    recipe,
    saved,
    edits,
    held,
    unsaved,
    offline,
    isSaving,
    load,
    adopt,
    edit,
    pull,
    commit,
    /** Edits an area and saves at once. */
    change(label: string, areaId: string, change: (area: Area) => void): Promise<void> {
      edit((r) => {
        const area = r.areas.find((a) => a.id === areaId);
        if (area) change(area);
      });
      return commit(label);
    },
    settled: () => saving ?? Promise.resolve(),
    undo: () => step(api.undo, 'Undone', 'undo'),
    redo: () => step(api.redo, 'Redone', 'redo'),
    /** Goes back to an earlier state as a new step, from the revision on screen; where another tab has gone on, that is shown instead. */
    restore: async (move: (shot: number, base: number) => Promise<RecipeState>): Promise<void> => {
      await (saving ?? Promise.resolve());
      try {
        adopt(await move(shotId, saved.value?.revision ?? 0));
      } catch (reason) {
        if (reason instanceof ApiError && reason.status === 409) await load();
        throw reason;
      }
    },
    revision: computed(() => saved.value?.revision ?? 0),
    /** The recipe on screen where it is not saved yet, for requests that should see it. */
    asked: (): { recipe?: Recipe } => (unsaved.value && recipe.value ? { recipe: recipe.value } : {}),
  };
}

export type RecipeStore = ReturnType<typeof useRecipe>;
