import { useTimeoutFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../../api/client';
import type { Follow, Motions } from '../../api/types';
import { useNotices } from '../../useNotices';
import { IDENTITY, type Matrix } from '../outline/geometry';
import type { RecipeStore } from '../recipe/useRecipe';
import { isDrawn } from '../outline/shapes';

/** How often a follow under way is asked for. */
const POLL = 200;

/** Where the areas are on every frame, and the following that finds it out. */
export function useMotions(shotId: number, store: RecipeStore) {
  const { fail, say } = useNotices();
  const motions = shallowRef<Motions | null>(null);
  const follows = ref<Follow[]>([]);
  const again = useTimeoutFn(() => void poll(), POLL, { immediate: false });
  let loaded = '';

  const isOpen = (f: Follow): boolean => f.state === 'waiting' || f.state === 'following';
  const open = computed(() => follows.value.filter(isOpen));

  async function load(): Promise<void> {
    motions.value = await api.motions(shotId);
  }

  // Only what bears on motion makes it necessary to ask again.
  watch(
    () => JSON.stringify(store.saved.value?.recipe.areas.map((a) => [a.id, a.outline.at, a.motion, a.outline.shapes.map((s) => (!isDrawn(s) ? null : [s.id, s.motion, a.motion.model === 'outline' && s.kind === 'path' ? s.points : null]))])),
    async (now) => {
      if (!now || now === loaded) return;
      loaded = now;
      await load().catch((reason: unknown) => fail('The motions cannot be shown', reason));
    },
  );

  function tell(f: Follow): void {
    if (f.state === 'failed') fail('Following did not work', new Error(f.message ?? ''));
    if (f.state === 'stopped') say('Stopped', 'What was found is kept.');
  }
  async function poll(): Promise<void> {
    again.stop();
    try {
      const before = new Set(open.value.map((f) => f.id));
      follows.value = await api.follows(shotId);
      const ended = follows.value.filter((f) => before.has(f.id) && !isOpen(f));
      if (ended.length > 0) {
        await store.settled();
        if (!store.unsaved.value) await store.load();
        // Of a person it is told once, when all is over: what could not be followed, then what is weak.
        for (const person of new Set(ended.map((f) => f.person))) {
          const all = follows.value.filter((f) => f.person === person);
          if (person === null) ended.filter((f) => f.person === null).forEach(tell);
          else if (all.every((f) => !isOpen(f))) {
            const failed = all.filter((f) => f.state === 'failed');
            if (failed.length) fail('Not everything could be followed', new Error([...new Set(failed.map((f) => f.message ?? ''))].join(' ')));
            const first = all[0];
            if (first?.message && first.state !== 'failed') say(all.some((f) => f.state === 'stopped') ? 'Stopped; what was found is kept' : 'The person is followed', first.message);
          }
        }
      }
    } catch {
      // The next round may reach the server again.
    }
    if (open.value.length > 0) again.start();
  }

  return {
    motions,
    follows,
    load,
    poll,
    openFor: (areaId: string) => open.value.find((f) => f.area === areaId) ?? null,
    lastFor: (areaId: string) => follows.value.findLast((f) => f.area === areaId) ?? null,
    matrix(areaId: string, frame: number): Matrix {
      const m = motions.value;
      return m?.areas[areaId]?.matrices[frame - m.from] ?? IDENTITY;
    },
    /** Where a shape is: by its own motion, or by its area's. */
    shapeMatrix(areaId: string, shapeId: string, frame: number): Matrix {
      const m = motions.value;
      const area = m?.areas[areaId];
      return area?.shapes[shapeId]?.matrices?.[frame - (m?.from ?? 0)] ?? area?.matrices[frame - (m?.from ?? 0)] ?? IDENTITY;
    },
    /** How the points of a path that were followed on their own are shifted on a frame. */
    shifts: (areaId: string, shapeId: string, frame: number): number[][] | null => motions.value?.areas[areaId]?.shapes[shapeId]?.shifts?.[frame] ?? null,
    open: (areaId: string): (number | null)[] => motions.value?.areas[areaId]?.open ?? [],
    /** Confidence by frame: of the track, or while following, of what has been found so far. */
    confidence(areaId: string): (number | null)[] {
      const m = motions.value;
      const known = [...(m?.areas[areaId]?.confidence ?? [])];
      for (const f of open.value) {
        if (f.area === areaId && f.shape === null) for (const [frame, c] of f.steps) known[frame - (m?.from ?? 0)] = c;
      }
      return known;
    },
    states(areaId: string): (string | null)[] {
      const m = motions.value;
      const known = [...(m?.areas[areaId]?.states ?? [])];
      for (const f of open.value) {
        if (f.area === areaId && f.shape === null) for (const [frame, , state] of f.steps) known[frame - (m?.from ?? 0)] = state;
      }
      return known;
    },
    async follow(areaId: string, shapeId: string | null, start: number, from: number, to: number): Promise<void> {
      try {
        await api.follow(shotId, { area: areaId, shape: shapeId, start, from, to });
        await poll();
      } catch (reason) {
        fail('Following cannot start', reason);
      }
    },
    /** A head and what is on it, at once. */
    async followPerson(areaId: string, start: number, from: number, to: number): Promise<void> {
      try {
        await api.followPerson(shotId, { area: areaId, start, from, to });
        await poll();
      } catch (reason) {
        fail('Following cannot start', reason);
      }
    },
    /** How far the person is that an area belongs to and that is being followed at once: frames found, and frames in all. */
    personFor(areaId: string): { follow: Follow; done: number; of: number } | null {
      const own = open.value.find((f) => f.person !== null && follows.value.some((g) => g.person === f.person && g.area === areaId));
      if (!own) return null;
      const all = follows.value.filter((f) => f.person === own.person);
      const frames = (f: Follow): number => f.to - f.from;
      return { follow: own, done: all.reduce((sum, f) => sum + (isOpen(f) ? f.steps.length : frames(f)), 0), of: Math.max(1, all.reduce((sum, f) => sum + frames(f), 0)) };
    },
    async stop(follow: Follow): Promise<void> {
      try {
        await api.stopFollow(follow.id);
      } catch (reason) {
        fail('It was not stopped', reason);
      }
    },
  };
}

export type MotionStore = ReturnType<typeof useMotions>;

/** Frames where a follow is weak: local minima under a limit, the weakest first, apart from each other. */
export function weakFrames(confidence: (number | null)[], from: number, limit = 0.4, most = 3, apart = 5): number[] {
  const found = confidence
    .map((c, i) => ({ c: c ?? 1, frame: from + i }))
    .filter(({ c, frame }) => c < limit && c <= (confidence[frame - from - 1] ?? 1) && c <= (confidence[frame - from + 1] ?? 1))
    .sort((a, b) => a.c - b.c);
  const chosen: number[] = [];
  for (const { frame } of found) if (chosen.length < most && chosen.every((other) => Math.abs(other - frame) >= apart)) chosen.push(frame);
  return chosen;
}
