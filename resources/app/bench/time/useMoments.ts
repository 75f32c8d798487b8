import { computed, nextTick, ref, watch } from 'vue';
import type { Pair, Shot } from '../../api/types';
import type { Areas } from '../areas/useAreas';
import type { Following } from '../follow/useFollowing';
import type { Compare } from '../judge/useCompare';
import type { TelltaleStore } from '../judge/useTelltales';
import type { Views } from '../judge/useViews';
import type { Stage } from '../picture/useStage';
import type { RecipeStore } from '../recipe/useRecipe';
import { sourceOf } from '../picture/useReels';
import { runOf, type Moment, type Playback } from './usePlayback';

/** Playing across a cut: into the shot compared with, or from it into this one. */
export type Cut = 'into' | 'from' | null;
/** How much of each shot is played across a cut, in seconds. */
const TAIL = 1.5;

interface Rooms { shot: Shot; footage: NonNullable<Shot['footage']>; store: RecipeStore; areas: Areas; views: Views; compare: Compare; following: Following; telltales: TelltaleStore; stage: Stage; playback: Playback }

/** What is played: which frames round and round, of what view, beside what, or across a cut; playback is aimed at it. */
export function useMoments({ shot, footage, store, areas, views, compare, following, telltales, stage, playback }: Rooms) {
  const cut = ref<Cut>(null);
  const { from, to } = shot;

  /** The frames chosen on the lane, the live span of the chosen area, or all. */
  const loop = computed<Pair>(() => {
    if (following.span.value) return following.span.value;
    const live = areas.chosen.value?.live;
    return live && live.to > live.from ? [Math.max(live.from, from), Math.min(live.to, to)] : [from, to];
  });
  const own = computed(() => sourceOf(shot.id, store.revision.value, { view: views.shown.value, area: views.ofArea.value ? (areas.chosen.value?.id ?? null) : null, height: stage.wanted.value, gain: views.shown.value === 'difference' ? compare.gain.value : 1 }));

  const moments = computed<Moment[]>(() => {
    const near = compare.neighbour.value;
    if (cut.value && near) {
      const many = Math.round(TAIL * footage.fps);
      const theirs = sourceOf(near.id, near.revision, { view: views.shown.value === 'original' ? 'original' : 'result', height: stage.wanted.value });
      const end = (of: typeof theirs, span: Pair): Moment[] => runOf(of, [Math.max(span[0], span[1] - many + 1), span[1]], null);
      const start = (of: typeof theirs, span: Pair): Moment[] => runOf(of, [span[0], Math.min(span[1], span[0] + many - 1)], null);
      return cut.value === 'into' ? [...end(own.value, [from, to]), ...start(theirs, [near.from, near.to])] : [...end(theirs, [near.from, near.to]), ...start(own.value, [from, to])];
    }
    const beside = compare.layout.value === null ? null : compare.asked({ ...own.value.request, frame: 0 }, areas.chosen.value?.id ?? null);
    return runOf(own.value, loop.value, beside && { source: sourceOf(beside.shot, near?.revision ?? store.revision.value, beside.request), frameFor: (frame) => near?.frame ?? frame });
  });
  /** Nothing is made ready for playing while changes are not saved, or while tell-tales are waited for. */
  const unasked = computed(() => !store.unsaved.value && telltales.progress.value === null);
  watch([moments, store.unsaved, unasked], () => {
    if (store.unsaved.value) playback.wait();
    else if (stage.wanted.value > 0) playback.aim(moments.value, unasked.value);
  });
  watch(store.held, (held) => {
    if (held !== null) playback.halt();
  });
  watch([compare.neighbour, compare.layout], () => {
    if (!compare.neighbour.value || compare.layout.value === null) cut.value = null;
  });

  async function playCut(how: Cut): Promise<void> {
    playback.halt();
    cut.value = how;
    await nextTick();
    if (how) playback.play();
  }

  return { cut, loop, playCut };
}

export type Moments = ReturnType<typeof useMoments>;
