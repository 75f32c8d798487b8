import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import { api } from '../../api/client';
import type { Revision } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Panel } from '../bench';
import type { RecipeStore } from '../recipe/useRecipe';

/** All that was done to the shot: looked at by a click, gone back to as a new step. */
export function useHistory(shotId: number, store: RecipeStore, panel: Ref<Panel | null>) {
  const { fail, say } = useNotices();
  const list = shallowRef<Revision[]>([]);
  /** The revision that is looked at instead of the present one. */
  const looked = ref<number | null>(null);
  const complete = ref(false);

  async function load(before?: number): Promise<void> {
    try {
      const found = await api.history(shotId, before);
      list.value = before === undefined ? found : [...list.value, ...found];
      complete.value = found.at(-1)?.revision === 1 || found.length === 0;
    } catch (reason) {
      fail('The history cannot be read', reason);
    }
  }
  watch([panel, () => store.revision.value], () => {
    if (panel.value === 'history') void load();
    else looked.value = null;
  });
  watch(() => store.edits.value, () => (looked.value = null));

  async function restore(revision: number): Promise<void> {
    try {
      await store.restore((shot, base) => api.restoreRevision(shot, base, revision));
      say(`Back to ${revision}`, 'Undo brings back what was there.');
    } catch (reason) {
      fail('It was not gone back to', reason);
    }
  }

  return {
    list,
    looked,
    complete,
    restore,
    more: () => load(list.value.at(-1)?.revision),
    look: (revision: number): void => {
      looked.value = looked.value === revision || revision === store.revision.value ? null : revision;
    },
    leave: (): void => {
      looked.value = null;
    },
    words: computed(() => list.value.find((r) => r.revision === looked.value)?.label ?? ''),
  };
}

export type History = ReturnType<typeof useHistory>;
