import { computed, ref, shallowRef } from 'vue';
import { api, ApiError } from '../api/client';
import type { Area, Recipe, RecipeState } from '../api/types';
import { useNotices } from '../useNotices';

/**
 * The recipe of the open shot. Edits show at once, are saved one after the other in the background, and are kept and
 * tried again while the server cannot be reached or breaks down.
 */
export function useRecipe(shotId: number) {
  const { fail, say } = useNotices();
  const saved = shallowRef<RecipeState | null>(null);
  const recipe = ref<Recipe | null>(null);
  /** True while the recipe on screen is not (yet) a saved revision. */
  const unsaved = ref(false);
  const offline = ref(false);
  let edits = 0;
  let waiting: string | null = null;
  let saving: Promise<void> | null = null;
  /** A change is on its way to the server. */
  const isSaving = ref(false);

  function adopt(state: RecipeState): void {
    saved.value = state;
    recipe.value = structuredClone(state.recipe);
    unsaved.value = false;
  }

  async function load(): Promise<void> {
    adopt(await api.recipe(shotId));
  }

  /** Changes the recipe on screen; nothing is saved until commit. */
  function edit(change: (recipe: Recipe) => void): void {
    if (!recipe.value) return;
    change(recipe.value);
    ++edits;
    unsaved.value = true;
  }

  function commit(label: string): Promise<void> {
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
      const sent = edits;
      const base = saved.value.revision;
      waiting = null;
      try {
        const state = await api.saveRecipe(shotId, base, recipe.value, label);
        offline.value = false;
        if (edits === sent) adopt(state);
        // Edited on meanwhile: the next save starts from here, unless others' edits came in, which only a merge knows.
        else if (state.parent === base) saved.value = state;
      } catch (reason) {
        if (reason instanceof ApiError && reason.transient) {
          offline.value = true;
          waiting ??= label;
          await new Promise((resolve) => setTimeout(resolve, 1500));
          continue;
        }
        fail(reason instanceof ApiError && reason.status === 409 ? 'Changed elsewhere' : 'The change was not taken', reason);
        await load();
      }
    }
  }

  async function step(move: (shot: number) => Promise<RecipeState>, word: string, label: string | null): Promise<void> {
    if (label === null) return;
    try {
      await (saving ?? Promise.resolve());
      adopt(await move(shotId));
      say(`${word}: ${label}`);
    } catch (reason) {
      fail(`${word} did not work`, reason);
    }
  }

  return {
    recipe,
    saved,
    unsaved,
    offline,
    isSaving,
    load,
    edit,
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
    undo: () => step(api.undo, 'Undone', saved.value?.undo ?? null),
    redo: () => step(api.redo, 'Redone', saved.value?.redo ?? null),
    revision: computed(() => saved.value?.revision ?? 0),
  };
}

export type RecipeStore = ReturnType<typeof useRecipe>;

/** A short id that the recipe does not use yet. */
export function freshId(recipe: Recipe, prefix: string): string {
  const text = JSON.stringify(recipe);
  for (let n = 1; ; ++n) if (!text.includes(`"id":"${prefix}${n}"`)) return `${prefix}${n}`;
}
