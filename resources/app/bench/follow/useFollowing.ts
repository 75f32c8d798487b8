import { computed, ref, watch } from 'vue';
import type { Area, Channel, Look, Model, Motion, MotionKey, Pair } from '../../api/types';
import type { Areas } from '../areas/useAreas';
import { about, apply, inverse, linearAt, roundedPair, rounded, type Matrix } from '../outline/geometry';
import { isDrawn, middleOf } from '../outline/shapes';
import type { Outlines } from '../outline/useOutlines';
import { copied } from '../recipe/ids';
import { sorted } from '../recipe/keyed';
import { between, mixed } from '../recipe/keyframes';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playhead } from '../time/usePlayhead';
import { weakFrames, type MotionStore } from './useMotions';

const WHOLE: Channel[] = ['position', 'rotation', 'scale', 'shear', 'perspective'];
const NEUTRAL: Omit<MotionKey, 'frame'> = { move: [0, 0], turn: 0, scale: 1, shear: 0, ease: 'smooth' };

/** A correction of the motion while it is dragged: on top of what there is, about the pivot. */
export interface Correction { move: Pair; turn: number; scale: number }

/** How the chosen area moves: by itself, on another area, or as set by hand; and what follows it. */
export function useFollowing(store: RecipeStore, motions: MotionStore, playhead: Playhead, areas: Areas, outlines: Outlines) {
  const area = areas.chosen;
  /** Drags on the picture correct the motion on this frame. */
  const correcting = ref(false);
  /** The frames to follow, chosen on the strip; null for all. */
  const span = ref<Pair | null>(null);
  const live = ref<{ frame: number; correction: Correction } | null>(null);
  watch(() => area.value?.id, () => {
    correcting.value = false;
    span.value = null;
  });
  watch(() => motions.motions.value, () => (live.value = null));

  /** Whose motion is at work: the active shape's own, or the area's. */
  const shapeId = computed(() => {
    const shape = outlines.activeShape.value;
    return shape && isDrawn(shape) && shape.motion ? shape.id : null;
  });
  const motion = computed<Motion | null>(() => {
    const shape = outlines.activeShape.value;
    return shapeId.value && shape && isDrawn(shape) ? shape.motion : (area.value?.motion ?? null);
  });

  /** Changes the motion at work; saved at once, or later by whoever drags. */
  function set(label: string, how: (m: Motion, of: Area) => Motion | undefined, save = true): void {
    const chosen = area.value;
    if (!chosen) return;
    (save ? store.edit : store.pull)((recipe) => {
      const of = recipe.areas.find((a) => a.id === chosen.id);
      if (!of) return;
      const shape = of.outline.shapes.find((s) => s.id === shapeId.value);
      if (shape && isDrawn(shape) && shape.motion) shape.motion = how(shape.motion, of) ?? shape.motion;
      else of.motion = how(of.motion, of) ?? of.motion;
    });
    if (save) void store.commit(`${chosen.name}: ${label}`);
  }

  function pivot(of: Area): Pair {
    const shape = outlines.activeShape.value ?? of.outline.shapes[0];
    return shape && isDrawn(shape) ? roundedPair(middleOf(shape)) : [0, 0];
  }
  function followed(m: Motion, of: Area): Motion {
    if (m.by === 'follow') return m;
    const { on: _on, ...rest } = m;
    return { ...rest, by: 'follow', start: playhead.frame.value, span: [playhead.from, playhead.to], model: m.model ?? 'similarity', look: m.look ?? { by: 'outline', margin: 0 }, pivot: m.keys.length ? m.pivot : pivot(of), track: null };
  }

  async function follow(from: number, to: number): Promise<void> {
    const chosen = area.value;
    if (!chosen || chosen.outline.shapes.length === 0) return;
    if (motion.value?.by !== 'follow') set('follow', followed);
    await store.settled();
    await motions.follow(chosen.id, shapeId.value, playhead.frame.value, from, to);
  }

  /** The chosen area and all that rides on it, each in its own way. */
  async function followPerson(from: number, to: number): Promise<void> {
    const chosen = area.value;
    if (!chosen) return;
    await store.settled();
    await motions.followPerson(chosen.id, playhead.frame.value, from, to);
  }

  const keyNow = (keys: MotionKey[], frame: number): Omit<MotionKey, 'frame'> => {
    const found = between(keys, frame);
    if (!found) return NEUTRAL;
    const [a, b, t] = found;
    return { move: mixed(a.move, b.move, t), turn: mixed(a.turn, b.turn, t), scale: mixed(a.scale, b.scale, t), shear: mixed(a.shear, b.shear, t), ease: 'smooth' };
  };
  let before: Omit<MotionKey, 'frame'> | null = null;

  function correct(correction: Correction): void {
    const frame = playhead.shown.value;
    set('', (m, of) => {
      before ??= keyNow(m.keys, frame);
      if (m.keys.length === 0) {
        m.pivot = pivot(of);
        // Elsewhere things stay as they were: where the follow started, or where the outline is stated.
        const still = m.by === 'follow' ? (m.start ?? of.outline.at) : of.outline.at;
        if (still !== frame) m.keys.push({ frame: still, ...NEUTRAL });
      }
      const key: MotionKey = {
        frame,
        move: roundedPair([before.move[0] + correction.move[0], before.move[1] + correction.move[1]]),
        turn: rounded(before.turn + correction.turn),
        scale: rounded(before.scale * correction.scale),
        shear: before.shear,
        ease: 'smooth',
      };
      m.keys = [...m.keys.filter((k) => k.frame !== frame), key].sort((a, b) => a.frame - b.frame);
      return undefined;
    }, false);
    live.value = { frame, correction };
  }
  function corrected(): void {
    before = null;
    void store.commit(`${area.value?.name ?? ''}: correct frame ${playhead.shown.value}`);
  }

  /** A motion with the correction that is being dragged on top of it. */
  function withLive(matrix: Matrix, at: Pair): Matrix {
    const l = live.value;
    if (!l || l.frame !== playhead.shown.value) return matrix;
    const centre = apply(matrix, at);
    const place = (p: Pair): Pair => {
      const [x, y] = about(centre, p, l.correction.turn, l.correction.scale);
      return [x + l.correction.move[0], y + l.correction.move[1]];
    };
    const [a, b, c, d] = linearAt(matrix, at);
    const [ex, ey] = [place([centre[0] + a, centre[1] + c]), place([centre[0] + b, centre[1] + d])];
    const o = place(centre);
    const m = [ex[0] - o[0], ey[0] - o[0], 0, ex[1] - o[1], ey[1] - o[1], 0, 0, 0, 1];
    m[2] = o[0] - (m[0] as number) * at[0] - (m[1] as number) * at[1];
    m[5] = o[1] - (m[3] as number) * at[0] - (m[4] as number) * at[1];
    return m;
  }

  const keys = computed(() => motion.value?.keys ?? []);
  const nextKey = computed(() => keys.value.find((k) => k.frame > playhead.frame.value)?.frame ?? null);

  /** The spots that the chosen area's follower looks at, where they are on this frame. */
  const spots = computed<Pair[]>(() => {
    const look = motion.value?.look;
    if (!area.value || areas.step.value !== 2 || look?.by !== 'spots') return [];
    const m = motions.matrix(area.value.id, playhead.shown.value);
    return look.spots.map((p) => apply(m, p));
  });
  const weak = computed(() => (area.value ? weakFrames(motions.confidence(area.value.id), playhead.from) : []));

  return {
    spots,
    /** Frames of the chosen area that want a look. */
    weak,
    correcting,
    span,
    motion,
    shapeId,
    keys,
    nextKey,
    set,
    follow,
    followPerson,
    correct,
    corrected,
    withLive,
    by: (by: Motion['by'], on?: string) => set(by === 'ride' ? 'ride on another area' : by === 'none' ? 'stay where it is' : 'follow by itself', (m, of) => {
      if (by === 'follow') return followed(m, of);
      const { on: _on, track: _track, ...rest } = m;
      return by === 'ride' && on ? { ...rest, by, on, pivot: m.keys.length ? m.pivot : pivot(of) } : { ...rest, by: 'none' };
    }),
    setModel: (model: Model) => set('motion model', (m, of) => ({ ...followed(m, of), model })),
    setLook: (look: Look, save: boolean) => set('where it looks', (m, of) => ({ ...followed(m, of), look }), save),
    correctHere: () => {
      correcting.value = !correcting.value;
    },
    chooseSpan: (frames: Pair | null) => {
      span.value = frames;
    },
    toggleChannel: (channel: Channel) => set(`use of ${channel}`, (m) => {
      m.use = WHOLE.filter((c) => (c === channel ? !m.use.includes(c) : m.use.includes(c)));
      return undefined;
    }),
    /** Another area's motion, as it is now, for this one: a copy that goes its own way afterwards. */
    copyFrom: (other: string) => set('copy a motion', (_m, of) => {
      const source = store.recipe.value?.areas.find((a) => a.id === other);
      if (!source) return undefined;
      return { ...copied(source.motion), pivot: pivot(of) };
    }),
    removeKey: (frame: number) => set(`remove keyframe ${frame}`, (m) => {
      m.keys = m.keys.filter((k) => k.frame !== frame);
      return undefined;
    }),
    toggleGuard: (): void => areas.change('blink guard', (own) => (own.blinkGuard.on = !own.blinkGuard.on)),
    /** The area by hand gone or there on this frame, whatever its lids do; null leaves it to the lids again. */
    keyGuard: (value: number | null): void => {
      const frame = playhead.frame.value;
      areas.change(`blink guard, frame ${frame}`, (own) => {
        const others = own.blinkGuard.keys.filter((k) => k.frame !== frame);
        own.blinkGuard.keys = value === null ? others : sorted([...others, { frame, value, ease: 'smooth' as const }]);
      });
    },
    /** A spot that was clicked on this frame, kept where the outline is stated. */
    addSpot: (at: Pair) => {
      const chosen = area.value;
      if (!chosen) return;
      const stated = roundedPair(apply(inverse(motions.matrix(chosen.id, playhead.shown.value)), at));
      const look = motion.value?.look;
      const kept = look?.by === 'spots' ? look.spots : [];
      set('spot to look at', (m, of) => ({ ...followed(m, of), look: { by: 'spots', spots: [...kept.slice(-1), stated], radius: look?.by === 'spots' ? look.radius : 0.03 } }));
    },
  };
}

export type Following = ReturnType<typeof useFollowing>;
