import { computed, ref, shallowReactive, shallowRef, watch } from 'vue';
import { api } from '../../api/client';
import type { AreaColours, MaybeKeyed, Pair, Touch } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Areas } from '../areas/useAreas';
import type { MotionStore } from '../follow/useMotions';
import { IDENTITY, type Matrix } from '../outline/geometry';
import { isDrawn, extentOf, shapeAt } from '../outline/shapes';
import type { Outlines } from '../outline/useOutlines';
import { copied, freshId } from '../recipe/ids';
import { valueAt, withValue } from '../recipe/keyed';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playback } from '../time/usePlayback';
import type { Playhead } from '../time/usePlayhead';

/** A handle on the picture of a touch that acts in a direction or from an offset. */
export interface TouchHandle {
  id: string;
  kind: 'sidelight' | 'conceal';
  /** The area's extent where it is stated, and the motion from there to this frame. */
  centre: Pair;
  half: Pair;
  matrix: Matrix;
  values: Record<string, number>;
}
const ON_PICTURE = ['direction', 'position', 'width', 'offsetX', 'offsetY'];

/** Treating: what panels show of the picture's colours, handles of touches on the picture, and eyes treated as one. */
export function useTreating(shotId: number, store: RecipeStore, playhead: Playhead, areas: Areas, motions: MotionStore, outlines: Outlines, playback: Playback) {
  const { fail, say } = useNotices();
  const { frame, shown } = playhead;
  /** A touch the picture is shown without, while its button is held. */
  const without = ref<string | null>(null);
  /** The touch whose card was taken up last. */
  const current = ref<string | null>(null);
  const folded = shallowReactive(new Set<string>());

  /** The chosen area's colours on this frame, as the picture enters it; read where a panel shows them, once nothing is held. */
  const colours = shallowRef<AreaColours | null>(null);
  let read = '';
  watch([() => areas.chosen.value?.id, frame, areas.step, store.revision, store.unsaved, store.held, playback.playing], async () => {
    const of = areas.chosen.value;
    if (!of || (areas.step.value !== 3 && areas.step.value !== 4) || store.held.value !== null || playback.playing.value || store.unsaved.value) return;
    const key = `${of.id} ${frame.value} ${store.revision.value}`;
    if (key === read) return;
    read = key;
    try {
      const found = await api.colours(shotId, of.id, { frame: frame.value });
      if (key === read) colours.value = found;
    } catch {
      colours.value = null;
    }
  }, { immediate: true });

  /** Handles of the unfolded touch that acts in a direction or from an offset. */
  const handles = computed<TouchHandle[]>(() => {
    const of = areas.chosen.value;
    const first = of?.outline.shapes.find(isDrawn);
    if (!of || !first || areas.step.value !== 4) return [];
    const { centre, half } = extentOf(shapeAt(first, shown.value));
    const matrix = outlines.staged(of).find((s) => s.shape.id === first.id)?.matrix ?? IDENTITY;
    const touches = (areas.treated.value?.touches ?? []).filter((t) => t.on && !folded.has(t.id) && (t.kind === 'sidelight' || t.kind === 'conceal'));
    // One thing on the picture at a time: where several are unfolded, the one taken up last.
    const one = touches.find((t) => t.id === current.value) ?? touches[0];
    return (one ? [one] : []).map((t) => ({
      id: t.id,
      kind: t.kind as TouchHandle['kind'],
      centre,
      half,
      matrix,
      values: Object.fromEntries(ON_PICTURE.filter((n) => n in t).map((n) => [n, valueAt(t[n] as MaybeKeyed, shown.value)])),
    }));
  });
  function pullHandle(id: string, values: Record<string, number>): void {
    const touch = areas.treated.value?.touches.find((t) => t.id === id);
    if (!touch) return;
    store.pull((recipe) => {
      const own = recipe.areas.flatMap((a) => a.touches).find((t) => t.id === id);
      if (own) for (const [name, v] of Object.entries(values)) own[name] = withValue(own[name] as MaybeKeyed, shown.value, v);
    }, touch);
  }

  /** The other eye is looked for, mirrored to and linked: two outlines, one treatment. */
  async function makeOther(): Promise<void> {
    const of = areas.chosen.value;
    if (!of) return;
    try {
      const other = await api.other(shotId, of.id, { frame: frame.value, ...store.asked() });
      store.edit((recipe) => void recipe.areas.splice(recipe.areas.findIndex((a) => a.id === of.id) + 1, 0, other));
      await store.commit(`${other.name}, linked to ${of.name}`);
      areas.choose(other.id);
      const followed = other.motion.by === 'follow';
      if (followed) await motions.follow(other.id, null, frame.value, playhead.from, playhead.to);
      say(`${other.name} is made${followed ? ' and followed' : ''}`, `It takes its touches from ${of.name}.`);
    } catch (reason) {
      fail('The other one was not made', reason);
    }
  }
  /** Unlinking copies the touches; linking again gives its own up. */
  function link(on: boolean): void {
    const of = areas.chosen.value;
    const from = areas.find(of?.pair?.with);
    if (!of?.pair || !from) return;
    store.edit((recipe) => {
      const own = recipe.areas.find((a) => a.id === of.id);
      if (!own?.pair) return;
      own.pair.linked = on;
      own.touches = [];
      if (!on) for (const t of from.touches) own.touches.push({ ...(copied(t) as Touch), id: freshId(recipe, 't') });
    });
    void store.commit(`${of.name} ${on ? 'linked to' : 'unlinked from'} ${from.name}`);
  }

  return {
    colours,
    without,
    current,
    handles,
    fold: (id: string): void => void folded.add(id),
    unfold: (id: string): void => {
      folded.delete(id);
      current.value = id;
    },
    pullHandle,
    makeOther,
    link,
    /** Whether the chosen area is an eye that has no other yet. */
    canPair: computed(() => {
      const of = areas.chosen.value;
      return of !== null && ['iris', 'lids', 'eye'].includes(of.part) && !of.pair && of.outline.shapes.length > 0 && !areas.all.value.some((a) => a.pair?.with === of.id);
    }),
  };
}

export type Treating = ReturnType<typeof useTreating>;
