import { useDebounceFn, useLocalStorage } from '@vueuse/core';
import { computed, onScopeDispose, ref, watch } from 'vue';
import { api, ApiError } from '../../api/client';
import type { Finding } from '../../api/types';
import { useObjectUrls } from '../../widgets/useObjectUrls';
import type { Areas } from '../areas/useAreas';
import { weakFrames, type MotionStore } from '../follow/useMotions';
import type { TelltaleStore } from '../judge/useTelltales';
import type { Views } from '../judge/useViews';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playback } from './usePlayback';
import type { Playhead } from './usePlayhead';

export const COUNTS = [5, 9, 15];
export type Choice = 'even' | 'weak' | 'telltales';
export const WITNESS = { width: 172, height: 156 };

/** A frame shown held still, and what is the matter with it, if anything. */
export interface Witness { frame: number; word: string }

/** Room beside the crops, between them, and for the buttons that choose them. */
export const ROW = { side: 16, gap: 8, choices: 72 };
/** Where the middle of one of so many crops stands in a row of some width. */
export function witnessMiddle(i: number, many: number, width: number): number {
  const each = (width - 2 * ROW.side - ROW.choices - many * ROW.gap) / many;
  return ROW.side + i * (each + ROW.gap) + each / 2;
}

/** The crops under the picture: spread over the shot with the frames among them that want a look, nearest to the playhead made first. */
export function useWitnesses(shotId: number, store: RecipeStore, motions: MotionStore, playhead: Playhead, areas: Areas, views: Views, playback: Playback, telltales: TelltaleStore) {
  const area = areas.chosen;
  const view = views.shown;
  /** They wait for what is held, played or on its way. */
  const held = computed(() => store.held.value !== null || playback.playing.value || store.unsaved.value);
  const count = useLocalStorage('witnesses', 9);
  const choice = useLocalStorage<Choice>('witnesses of', 'even');
  const crops = useObjectUrls<number>();
  const behind = ref(false);
  let stop = new AbortController();

  const witnesses = computed<Witness[]>(() => {
    const chosen = area.value;
    if (!chosen || chosen.outline.shapes.length === 0) return [];
    const { from, to } = playhead;
    const many = Math.min(count.value, to - from + 1);
    const frames: Witness[] = Array.from({ length: many }, (_, i) => ({ frame: Math.round(from + (i * (to - from)) / Math.max(1, many - 1)), word: '' }));
    // Evenly spread ones give way to a few that want a look, or to as many as there are of the kind that was asked for.
    const confidence = motions.confidence(chosen.id);
    const weak = choice.value === 'weak' ? weakFrames(confidence, from, 1, many, Math.max(2, Math.floor((to - from) / (2 * many)))) : weakFrames(confidence, from);
    const told = tellingFrames(telltales.open.value.filter((f) => f.area === chosen.id), choice.value === 'telltales' ? many : 3);
    const marked: Witness[] = [...told, ...weak.map((frame) => ({ frame, word: 'weak' }))];
    for (const mark of choice.value === 'weak' ? marked.reverse() : marked) {
      const free = frames.filter((w) => w.word === '').sort((x, y) => Math.abs(x.frame - mark.frame) - Math.abs(y.frame - mark.frame))[0];
      if (free && !frames.some((w) => w.frame === mark.frame && w.word !== '')) Object.assign(free, mark);
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
    // Those of frames that are no longer among them are given back.
    const frames = new Set(witnesses.value.map((w) => w.frame));
    crops.keep((frame) => frames.has(frame));
    const order = [...witnesses.value].sort((a, b) => Math.abs(a.frame - playhead.frame.value) - Math.abs(b.frame - playhead.frame.value));
    // One run for each core that renders, every other one each: the nearest come first.
    const run = (k: number): Promise<void> => {
      const mine = order.filter((_, i) => i % 2 === k).map((w) => w.frame);
      const take = (frame: number, file: Blob): void => {
        if (!signal.aborted) crops.put(frame, file);
      };
      return mine.length === 0 ? Promise.resolve() : api.witnesses(shotId, { frames: mine, view: shown, area: chosen.id, ...WITNESS }, take, signal);
    };
    try {
      await Promise.all([run(0), run(1)]);
      behind.value = false;
    } catch (reason) {
      // Stopped by a newer round, or the server is away; the old crops stay.
      if (reason instanceof ApiError && reason.again !== null) setTimeout(() => signal.aborted || void refresh(), 1000 * reason.again);
    }
  }

  watch([wanted, held], useDebounceFn(() => void refresh(), 30), { immediate: true });
  watch(() => area.value?.id, () => crops.keep(() => false));
  onScopeDispose(() => stop.abort());

  return {
    witnesses,
    urls: crops.urls,
    behind,
    count,
    choice,
  };
}

export type Witnesses = ReturnType<typeof useWitnesses>;

/** The worst frames of what rings, and where more is asked for the ends of its spans, each with the tell-tale's word. */
function tellingFrames(open: Finding[], most: number): Witness[] {
  const ends = most > 3 ? open.flatMap((f) => f.spans.flat().map((frame) => ({ frame, word: f.telltale }))) : [];
  const all = [...open.map((f) => ({ frame: f.worst, word: f.telltale })), ...ends];
  return all.filter((w, i) => all.findIndex((o) => o.frame === w.frame) === i).slice(0, most);
}
