import { computed, onBeforeUnmount, ref, shallowReactive, watch, type Ref } from 'vue';
import { api } from '../api/client';
import type { Area, View } from '../api/types';
import { weakFrames, type MotionStore } from './useMotions';
import type { Playhead } from './usePlayhead';
import type { RecipeStore } from './useRecipe';

const COUNT = 9;
export const WITNESS = { width: 172, height: 156 };

export interface Witness { frame: number; weak: boolean }

/** The crops under the picture: evenly spread, the weakest frames among them, nearest to the playhead made first. */
export function useWitnesses(shotId: number, store: RecipeStore, motions: MotionStore, playhead: Playhead, area: Ref<Area | null>, view: Ref<View>, held: Ref<boolean>) {
  const urls = shallowReactive(new Map<number, string>());
  const behind = ref(false);
  let stop = new AbortController();

  const witnesses = computed<Witness[]>(() => {
    const chosen = area.value;
    if (!chosen || chosen.outline.shapes.length === 0) return [];
    const { from, to } = playhead;
    const count = Math.min(COUNT, to - from + 1);
    const frames = Array.from({ length: count }, (_, i) => ({ frame: Math.round(from + (i * (to - from)) / Math.max(1, count - 1)), weak: false }));
    for (const weak of weakFrames(motions.confidence(chosen.id), from)) {
      // A weak frame takes the place of its nearest even one.
      const nearest = frames.filter((w) => !w.weak).sort((a, b) => Math.abs(a.frame - weak) - Math.abs(b.frame - weak))[0];
      if (nearest) Object.assign(nearest, { frame: weak, weak: true });
    }
    return frames.sort((a, b) => a.frame - b.frame);
  });

  const wanted = computed(() => JSON.stringify([area.value?.id, view.value, store.revision.value, witnesses.value, motions.motions.value === null]));

  async function refresh(): Promise<void> {
    stop.abort();
    stop = new AbortController();
    const { signal } = stop;
    const chosen = area.value;
    const shown = view.value;
    if (!chosen || held.value) return;
    behind.value = true;
    const order = [...witnesses.value].sort((a, b) => Math.abs(a.frame - playhead.frame.value) - Math.abs(b.frame - playhead.frame.value));
    const lane = async (): Promise<void> => {
      for (let w = order.shift(); w && !signal.aborted; w = order.shift()) {
        const file = await api.witness(shotId, { frame: w.frame, view: shown, area: chosen.id, ...WITNESS }, signal);
        const old = urls.get(w.frame);
        urls.set(w.frame, URL.createObjectURL(file));
        if (old) URL.revokeObjectURL(old);
      }
    };
    try {
      await Promise.all([lane(), lane()]);
      behind.value = false;
    } catch {
      // Stopped by a newer round, or the server is away; the old crops stay.
    }
  }

  let timer: ReturnType<typeof setTimeout> | undefined;
  watch([wanted, held], () => {
    clearTimeout(timer);
    timer = setTimeout(() => void refresh(), 120);
  }, { immediate: true });
  watch(() => area.value?.id, () => urls.clear());
  onBeforeUnmount(() => {
    clearTimeout(timer);
    stop.abort();
    for (const url of urls.values()) URL.revokeObjectURL(url);
  });

  return { witnesses, urls, behind };
}
