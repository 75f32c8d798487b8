import { useTimeoutFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import { api } from '../../api/client';
import type { Cure, Finding, Telltales } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { RecipeStore } from '../recipe/useRecipe';

/** When nothing has changed for this long the shot is looked over in the background. */
const REST = 8000;
const POLL = 700;

/** The tell-tales of the shot as it is saved: looked for when the user rests, at once where they wait for them. */
export function useTelltales(shotId: number, store: RecipeStore, awaited: Ref<boolean>) {
  const { fail } = useNotices();
  const state = shallowRef<Telltales | null>(null);
  const failed = ref(false);
  const polling = useTimeoutFn(() => void ask(false), POLL, { immediate: false });
  const resting = useTimeoutFn(() => void ask(true), REST, { immediate: false });
  const still = (): void => {
    polling.stop();
    resting.stop();
  };

  const isPresent = computed(() => state.value?.revision === store.revision.value && !store.unsaved.value);
  const findings = computed<Finding[]>(() => (isPresent.value ? (state.value?.findings ?? []) : []));
  const open = computed(() => findings.value.filter((f) => f.rings));
  const progress = computed(() => (isPresent.value && state.value?.begun && !state.value.findings && !state.value.message ? { done: state.value.done, total: state.value.total } : null));

  async function ask(begin: boolean): Promise<void> {
    still();
    try {
      state.value = await (begin ? api.lookOver : api.telltales)(shotId);
      failed.value = false;
      if (progress.value) polling.start();
      else if (!state.value.begun) rest();
    } catch {
      failed.value = true;
    }
  }

  function rest(): void {
    still();
    const known = state.value?.revision === store.revision.value && state.value.begun;
    if (store.unsaved.value || store.revision.value === 0 || known) return;
    if (awaited.value) void ask(true);
    else if (store.recipe.value?.areas.some((a) => a.touches.length > 0)) resting.start();
  }
  watch([() => store.revision.value, () => store.unsaved.value, awaited], rest);
  watch(() => store.revision.value, () => void ask(false), { once: true });

  return {
    findings,
    open,
    progress,
    failed,
    message: computed(() => (isPresent.value ? (state.value?.message ?? null) : null)),
    /** Whether the shot as it is now has been looked over. */
    known: computed(() => isPresent.value && state.value?.findings != null),
    look: () => ask(true),
    limit: async (telltale: string, limit: number | null): Promise<void> => {
      try {
        state.value = await api.limitTelltale(shotId, telltale, limit);
      } catch (reason) {
        fail('The limit was not taken', reason);
      }
    },
    cures: (finding: Finding): Promise<Cure[]> => api.cures(shotId, finding.telltale, finding.area).catch(() => []),
  };
}

export type TelltaleStore = ReturnType<typeof useTelltales>;
