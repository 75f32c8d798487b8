import { ref, watch } from 'vue';
import type { Area, Motion, Recipe, Shape, Shot, Touch } from '../../resources/app/api/types';
import { stillMotion, useAreas, type Areas } from '../../resources/app/bench/areas/useAreas';
import type { MotionStore } from '../../resources/app/bench/follow/useMotions';
import type { Playhead } from '../../resources/app/bench/time/usePlayhead';
import type { RecipeStore } from '../../resources/app/bench/recipe/useRecipe';
import { IDENTITY, type Matrix } from '../../resources/app/bench/outline/geometry';

export const ellipse = (id: string): Shape => ({ id, kind: 'ellipse', join: 'add', centre: [0.8, 0.5], radii: [0.2, 0.1], turn: 0, featherIn: 0, featherOut: 0.02, grow: 0, opacity: 1, keys: [], motion: null });

export const area = (id: string, shapes: Shape[] = [], motion: Partial<Motion> = {}): Area => ({
  id,
  name: id.toUpperCase(),
  part: 'other',
  person: null,
  on: true,
  outline: { at: 10, invert: false, shapes },
  motion: { ...stillMotion(), ...motion },
  pick: null,
  live: { from: 0, to: 83, fadeIn: 0, fadeOut: 0 },
  strength: 1,
  blinkGuard: { on: false, keys: [] },
  pair: null,
  touches: [],
});

/** A bench without a server: a recipe that is edited in place, and areas that are where `matrix` says. */
export function bench(areas: Area[], chosen: string, matrix: Matrix = IDENTITY) {
  const recipe = ref<Recipe>({ cossel: 'recipe/1', space: 'bt709', source: { sha256: 'a'.repeat(64), span: [0, 83], rate: '24/1', size: [1280, 720] }, assets: {}, base: [], areas, finish: [] });
  const labels: string[] = [];
  const followed: unknown[][] = [];
  const shifts = ref<number[][] | null>(null);
  const frame = ref(10);
  const held = ref<Touch | true | null>(null);
  const edit = (change: (r: Recipe) => void): void => change(recipe.value);
  const commit = (label: string): Promise<void> => {
    held.value = null;
    labels.push(label);
    return Promise.resolve();
  };
  const store = {
    recipe,
    held,
    edit,
    pull: (change: (r: Recipe) => void, what: Touch | true = true) => {
      held.value = what;
      edit(change);
    },
    commit,
    change: (label: string, id: string, change: (of: Area) => void) => {
      edit((r) => change(r.areas.find((a) => a.id === id) as Area));
      return commit(label);
    },
    undo: () => Promise.resolve(),
    settled: () => Promise.resolve(),
  } as unknown as RecipeStore;
  const motions = {
    motions: ref(null),
    matrix: () => matrix,
    shapeMatrix: () => matrix,
    shifts: () => shifts.value,
    follow: (...wanted: unknown[]) => {
      followed.push(wanted);
      return Promise.resolve();
    },
  } as unknown as MotionStore;
  // The picture comes at once, unless a test says otherwise.
  const shown = ref(frame.value);
  watch(frame, (now) => (shown.value = now), { flush: 'sync' });
  const playhead = { frame, shown, from: 0, to: 83, go: (to: number) => (frame.value = to) } as unknown as Playhead;
  const rooms: Areas = useAreas({ id: 1, from: 0, to: 83 } as Shot, store, playhead);
  rooms.choose(chosen);
  const the = (id: string): Area => recipe.value.areas.find((a) => a.id === id) as Area;
  return { recipe, store, motions, playhead, areas: rooms, held, frame, shown, labels, followed, shifts, the };
}
