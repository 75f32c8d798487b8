import { computed } from 'vue';
import { api } from '../../api/client';
import type { ColourPick, Pair } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Areas } from '../areas/useAreas';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playhead } from '../time/usePlayhead';

const EVERYTHING: ColourPick = { space: 'oklch', samples: [], hue: [0, 360, 0], chroma: [0, 0.5, 0], light: [0, 1.5, 0], follow: null, clean: { specks: 0, holes: 0 }, blur: 0, invert: false };

/** The pick of the chosen area: sampled on the picture, or set by its ranges. */
export function usePicking(shotId: number, store: RecipeStore, playhead: Playhead, areas: Areas) {
  const { fail } = useNotices();
  const pick = computed(() => areas.chosen.value?.pick ?? null);

  /** The server proposes the pick with this added; saved at once. */
  async function propose(asked: { follow: boolean; sign?: '+' | '-'; from?: Pair; to?: Pair }, label: string): Promise<void> {
    const of = areas.chosen.value;
    if (!of) return;
    try {
      const proposed = await api.pick(shotId, of.id, { frame: playhead.shown.value, ...asked, ...store.asked() });
      await store.change(`${of.name}, pick: ${label}`, of.id, (own) => (own.pick = proposed));
    } catch (reason) {
      fail('The colour was not taken', reason);
    }
  }
  function edit(change: (own: ColourPick) => void): void {
    areas.pull((own) => {
      if (own.pick) change(own.pick);
    });
  }
  const commit = (what: string): Promise<void> => store.commit(`${areas.chosen.value?.name ?? ''}, pick: ${what}`);

  return {
    pick,
    /** Places sampled on this frame, while the pick is open. */
    samples: computed(() => (areas.step.value === 3 ? (pick.value?.samples ?? []).filter((s) => s.frame === playhead.shown.value) : [])),
    edit,
    commit,
    sample: (taken: boolean, from: Pair, to: Pair) => propose({ follow: (pick.value?.follow ?? null) !== null, sign: taken ? '+' : '-', from, to }, `sample ${taken ? '+' : '−'}`),
    follow: (on: boolean) => propose({ follow: on }, on ? 'follows the light' : 'stays'),
    begin: (): void => areas.change('pick', (own) => (own.pick = structuredClone(EVERYTHING))),
    clear: (): void => areas.change('no pick', (own) => (own.pick = null)),
  };
}

export type Picking = ReturnType<typeof usePicking>;
