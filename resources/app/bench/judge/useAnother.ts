import { useDebounceFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../../api/client';
import type { Alike, Cure } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playhead } from '../time/usePlayhead';
import type { Compare } from './useCompare';
import type { Cures } from './useCures';

/** How long nothing has to change before the two are read anew. */
const REST = 400;
/** CIEDE2000 that makes a difference. */
const SEEN = 0.25;

/** The same parts of the same people here and in the shot that is compared with, and what brings one to the other. */
export function useAnother(shotId: number, store: RecipeStore, playhead: Playhead, compare: Compare, cures: Cures) {
  const { fail, say } = useNotices();
  const pairs = shallowRef<Alike[]>([]);
  const ticked = ref<Set<string>>(new Set());
  /** Whose colours are shown as clouds. */
  const shown = ref<string | null>(null);
  const busy = ref(false);
  /** What was proposed, until it is taken or left. */
  const proposal = shallowRef<{ by: Cure; label: string; misses: { area: string; before: number; after: number }[] } | null>(null);
  const other = computed(() => compare.neighbour.value);
  const cloud = computed(() => pairs.value.find((p) => p.area === shown.value) ?? pairs.value[0] ?? null);

  const read = useDebounceFn(async () => {
    const near = other.value;
    if (!near) return;
    try {
      const found = await api.beside(shotId, { frame: playhead.frame.value, other: near.id, otherFrame: near.frame, ...store.asked() });
      if (other.value?.id !== near.id) return;
      if (pairs.value.length === 0) ticked.value = new Set(found.map((p) => p.area));
      pairs.value = found;
    } catch (reason) {
      fail('The two shots cannot be compared', reason);
    }
  }, REST);

  function leave(): void {
    if (proposal.value && cures.previewed.value === proposal.value.by) cures.preview(null);
    proposal.value = null;
  }
  watch([() => other.value?.id, () => other.value?.frame, playhead.frame, store.edits, store.held], ([id], [before]) => {
    if (id !== before) pairs.value = [];
    if (id !== undefined && store.held.value === null) void read();
  }, { immediate: true });
  // What was proposed is for the recipe as it was.
  watch([() => other.value?.id, store.edits], leave);

  async function propose(base: boolean): Promise<void> {
    const near = other.value;
    if (!near) return;
    busy.value = true;
    try {
      const areas = base && cloud.value ? [cloud.value.area] : [...ticked.value];
      const { recipe, misses } = await api.matchTo(shotId, { frame: playhead.frame.value, other: near.id, otherFrame: near.frame, areas, base, ...store.asked() });
      if (misses.every((m) => m.before - m.after < SEEN)) {
        say(`Nothing brings it nearer to ${near.name}`, misses.every((m) => m.before < SEEN) ? 'They look alike already on these frames.' : 'A trim does not do it; look at what the touches make of it.');
        return;
      }
      const by: Cure = { words: `to ${near.name}`, recipe, followFrom: null, measure: null };
      proposal.value = { by, label: `${base ? 'Base' : 'Areas'} matched to ${near.name}`, misses };
      cures.preview(by);
    } catch (reason) {
      fail('Nothing was found that brings it there', reason);
    } finally {
      busy.value = false;
    }
  }
  async function take(): Promise<void> {
    const made = proposal.value;
    if (!made?.by.recipe) return;
    const { recipe } = made.by;
    cures.preview(null);
    proposal.value = null;
    store.edit((now) => void Object.assign(now, recipe));
    await store.commit(made.label);
    say(made.label, 'A trim does it; it can be weakened or switched off.');
  }

  return {
    pairs, ticked, shown, cloud, busy, proposal, propose, take, leave,
    tick: (area: string): void => {
      const next = new Set(ticked.value);
      if (!next.delete(area)) next.add(area);
      ticked.value = next;
    },
  };
}

export type Another = ReturnType<typeof useAnother>;
