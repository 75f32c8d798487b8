import { computed, shallowRef } from 'vue';
import { api } from '../../api/client';
import type { Shot } from '../../api/types';
import { useBench } from '../bench';
import { freshId } from '../recipe/ids';

/** Files that the recipe names: look-up tables, and footage of other shots. */
export function useAssets() {
  const { shot, store } = useBench();
  const shots = shallowRef<Shot[]>([]);
  const footages = computed(() => shots.value.filter((s) => s.footage).map((s) => ({ label: s.name, value: s.footage?.sha256 ?? '' })));

  return {
    footages,
    load: async (): Promise<void> => {
      if (shots.value.length === 0) shots.value = (await api.job(shot.jobId)).shots;
    },
    /** The name a file has in the recipe; given one if it has none yet. */
    named: (sha256: string, kind: string): string => {
      let name = '';
      store.edit((recipe) => {
        name = Object.keys(recipe.assets).find((n) => recipe.assets[n]?.sha256 === sha256) ?? freshId(recipe, 'file');
        recipe.assets = { ...recipe.assets, [name]: { sha256, kind } };
      });
      return name;
    },
    /** What a file is called on screen. */
    words: (name: string | null): string => {
      const known = name ? store.recipe.value?.assets[name] : null;
      return known ? (footages.value.find((f) => f.value === known.sha256)?.label ?? `${known.kind} ${known.sha256.slice(0, 8)}`) : 'none yet';
    },
  };
}
