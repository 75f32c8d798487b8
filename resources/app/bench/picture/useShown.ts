import { shallowRef, watch, watchEffect } from 'vue';
import type { PictureRequest, Recipe, Shot, Touch, View } from '../../api/types';
import type { Areas } from '../areas/useAreas';
import type { Compare } from '../judge/useCompare';
import type { Cures } from '../judge/useCures';
import type { History } from '../judge/useHistory';
import type { Views } from '../judge/useViews';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playback } from '../time/usePlayback';
import type { Playhead } from '../time/usePlayhead';
import type { Treating } from '../treat/useTreating';
import type { PicturesOnStage } from './usePictures';
import type { Stage } from './useStage';

const SCOPE_ROWS = 180;

interface Rooms { shot: Shot; footage: NonNullable<Shot['footage']>; store: RecipeStore; playhead: Playhead; areas: Areas; views: Views; compare: Compare; history: History; cures: Cures; treating: Treating; stage: Stage; pictures: PicturesOnStage; playback: Playback }

/** What the stage shows: asks for the picture of the frame, view and recipe on screen, and for what the scope reads. */
export function useShown({ footage, store, playhead, areas, views, compare, history, cures, treating, stage, pictures, playback }: Rooms) {
  /** What the picture on the stage was asked for by; nothing is asked twice. */
  let asked = '';

  function request(view: View, height: number): PictureRequest {
    const area = views.ofArea.value ? (areas.chosen.value?.id ?? null) : null;
    const r: PictureRequest = { frame: playhead.frame.value, view, area, height, ...store.asked() };
    if (view === 'difference') r.gain = compare.gain.value;
    if (cures.previewed.value?.recipe && view !== 'original') r.recipe = cures.previewed.value.recipe;
    if (treating.without.value !== null && store.recipe.value) r.recipe = switchedOff(store.recipe.value, treating.without.value);
    if (history.looked.value !== null) {
      delete r.recipe;
      r.revision = history.looked.value;
    }
    if (stage.seen.value) r.window = stage.seen.value;
    return r;
  }

  function refresh(): void {
    const rows = stage.wanted.value;
    if (rows === 0 || !store.recipe.value || playback.playing.value) return;
    if (store.held.value !== null) {
      asked = '';
      pictures.want(request(views.shown.value, pictures.dragged(Math.min(rows, footage.height))), rows, null);
      return;
    }
    // What is on its way to the server is shown as soon as it is saved, not twice.
    if (store.isSaving.value && store.unsaved.value && !store.offline.value && cures.previewed.value === null && treating.without.value === null) return;
    void compare.show(request('result', rows), store.revision.value, areas.chosen.value?.id ?? null);
    const whole = request(views.shown.value, rows);
    const key = JSON.stringify([{ ...whole, recipe: null }, store.edits.value, whole.recipe !== undefined, store.revision.value]);
    if (key === asked && pictures.failure.value === null) return;
    asked = key;
    pictures.want(whole, rows, whole.recipe ? null : (whole.revision ?? store.revision.value));
  }
  watch([() => playhead.frame.value, views.shown, stage.wanted, stage.seen, compare.layout, compare.against, compare.neighbour, compare.gain, store.edits, store.held, store.unsaved, store.offline, treating.without, cures.previewed, history.looked], refresh);
  watch(areas.tab, () => {
    if (views.shown.value !== 'result' && views.shown.value !== 'original') refresh();
  });
  watch(playback.playing, (playing) => {
    asked = '';
    if (!playing) refresh();
  });

  /** What the scope is of: the picture shown, without a matte over it. */
  const scope = shallowRef<PictureRequest | null>(null);
  let scoped = '';
  watchEffect(() => {
    if (!store.recipe.value || playback.playing.value) {
      scope.value = null;
      return;
    }
    if (store.isSaving.value && store.unsaved.value && store.held.value === null) return;
    const shown = views.shown.value === 'difference' || (views.ofArea.value && views.shown.value !== 'without') ? 'result' : views.shown.value;
    const r: PictureRequest = { frame: playhead.frame.value, view: shown, area: shown === 'without' ? (areas.chosen.value?.id ?? null) : null, height: SCOPE_ROWS };
    const key = JSON.stringify([r, store.edits.value, store.unsaved.value, store.revision.value]);
    if (scope.value !== null && scoped === key) return;
    scoped = key;
    scope.value = { ...r, ...store.asked() };
  });

  return { refresh, scope };
}

export type Shown = ReturnType<typeof useShown>;

function switchedOff(recipe: Recipe, id: string): Recipe {
  const off = (list: Touch[]): Touch[] => list.map((t) => (t.id === id ? { ...t, on: false } : t));
  return { ...recipe, base: off(recipe.base), areas: recipe.areas.map((a) => ({ ...a, touches: off(a.touches) })), finish: off(recipe.finish) };
}
