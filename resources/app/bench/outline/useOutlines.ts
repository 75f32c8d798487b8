import { useLocalStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { api } from '../../api/client';
import type { Area, AreaShape, DrawnShape, Join, Pair, PathPoint, People, Shape, ShapeValues } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Areas } from '../areas/useAreas';
import type { MotionStore } from '../follow/useMotions';
import { copied, freshId } from '../recipe/ids';
import type { RecipeStore } from '../recipe/useRecipe';
import type { Playhead } from '../time/usePlayhead';
import type { Drawing, Tool } from './drawing';
import { addPoint, mirrored, movedPoint, removePoints, roundedPoint, toPath } from './edits';
import { apply, inverse, plus, roundedPair, scaleAt, turnAt, rounded, type Matrix } from './geometry';
import { addKey, isDrawn, middleOf, put, shapeAt } from './shapes';

/** A shape as it stands on the frame, ready to be drawn. */
export interface StagedShape { shape: DrawnShape; matrix: Matrix }
/** What a motion that is being corrected adds to where things are. */
export interface Live { withLive: (matrix: Matrix, pivot: Pair) => Matrix; correcting: { value: boolean } }

/** What a new shape starts with: a soft edge for the first, a harder one for what is cut or kept. */
const SOFT = { featherIn: 0.01, featherOut: 0.03, grow: 0, opacity: 1, keys: [], motion: null };

/** Everything that is done to the outline of the chosen area. */
export function useOutlines(shotId: number, store: RecipeStore, motions: MotionStore, playhead: Playhead, areas: Areas) {
  const { fail, say } = useNotices();
  const area = areas.chosen;
  const clipboard = useLocalStorage<Shape[]>('outline', []);
  const tool = ref<Tool | null>(null);
  const join = ref<Join>('add');
  const active = ref<string | null>(null);

  const shapes = computed<Shape[]>(() => area.value?.outline.shapes ?? []);
  const activeShape = computed<Shape | null>(() => shapes.value.find((s) => s.id === active.value) ?? shapes.value[0] ?? null);
  watch(() => [area.value?.id, shapes.value.map((s) => s.id).join()], () => {
    if (!shapes.value.some((s) => s.id === active.value)) active.value = shapes.value[0]?.id ?? null;
  }, { immediate: true });

  const matrixOf = (areaId: string, shapeId: string): readonly number[] => motions.shapeMatrix(areaId, shapeId, playhead.shown.value);

  /** The shapes of an area as they stand on this frame: keyframes, points that were followed on their own, a correction being dragged. */
  function staged(of: Area, live?: Live): StagedShape[] {
    const list: StagedShape[] = [];
    for (const shape of of.outline.shapes) {
      if (!isDrawn(shape)) continue;
      const now = shapeAt(shape, playhead.shown.value);
      const shifts = now.kind === 'path' ? motions.shifts(of.id, shape.id, playhead.shown.value) : null;
      list.push({
        matrix: live?.correcting.value && of.id === area.value?.id ? live.withLive(matrixOf(of.id, shape.id), of.motion.pivot) : matrixOf(of.id, shape.id),
        shape: shifts && now.kind === 'path' && shifts.length === now.points.length ? { ...now, points: now.points.map((p, i) => shifted(p, shifts[i] as number[], 1)) } : now,
      });
    }
    return list;
  }
  const shifted = (p: PathPoint, [x = 0, y = 0, a = 0, b = 0, c = 0, d = 0]: number[], side: 1 | -1): PathPoint => ({
    at: plus(p.at, [side * x, side * y]),
    in: plus(p.in, [side * a, side * b]),
    out: plus(p.out, [side * c, side * d]),
  });

  const own = (edit: RecipeStore['edit'], shapeId: string | null, how: (shape: Shape, of: Area) => void): void =>
    edit((recipe) => {
      const of = recipe.areas.find((a) => a.id === area.value?.id);
      const shape = of?.outline.shapes.find((s) => s.id === shapeId);
      if (of && shape) how(shape, of);
    });
  const commit = (what: string): Promise<void> => {
    return store.commit(`${area.value?.name ?? ''}: ${what.toLowerCase()}`);
  };
  function once(what: string, shapeId: string | null, how: (shape: Shape, of: Area) => void): void {
    own(store.edit, shapeId, how);
    void commit(what);
  }
  function ofArea(what: string, how: (of: Area) => void): void {
    store.edit((recipe) => {
      const of = recipe.areas.find((a) => a.id === area.value?.id);
      if (of) how(of);
    });
    void commit(what);
  }

  /** A change while a handle of the picture shown, or a slider of some frame, is dragged; commit saves it. */
  function change(shapeId: string, values: Partial<ShapeValues>, frame = playhead.shown.value): void {
    own(store.pull, shapeId, (shape, of) => {
      const shifts = values.points ? motions.shifts(of.id, shape.id, frame) : null;
      const stated = shifts && values.points && shifts.length === values.points.length ? { ...values, points: values.points.map((p, i) => roundedPoint(shifted(p, shifts[i] as number[], -1))) } : values;
      put(shape, frame, stated);
    });
  }

  /** Puts shapes into the outline, stated where the area's motion has it on this frame. */
  function add(made: (of: Area, id: () => string) => Shape[], what: string): void {
    if (!store.recipe.value) return;
    let first: string | null = null;
    tool.value = null;
    store.edit((recipe) => {
      const of = recipe.areas.find((a) => a.id === area.value?.id);
      if (!of) return;
      if (of.outline.shapes.length === 0 && of.motion.by === 'none' && of.motion.keys.length === 0) of.outline.at = playhead.shown.value;
      const id = (): string => {
        const fresh = freshId(recipe, 's');
        // Taken at once, so that the next one differs.
        of.outline.shapes.push({ id: fresh, kind: 'area', join: 'add', of: of.id, opacity: 1, keys: [] });
        return fresh;
      };
      const before = of.outline.shapes.length;
      const added = made(of, id);
      of.outline.shapes.splice(before, of.outline.shapes.length, ...added);
      first = added[0]?.id ?? null;
      if (before === 0 && added[0] && isDrawn(added[0])) of.motion.pivot = roundedPair(middleOf(added[0]));
    });
    if (first) active.value = first;
    void commit(what);
  }

  function drawn(drawing: Drawing): void {
    tool.value = null;
    if (!area.value || drawing.kind === 'spot' || drawing.kind === 'place' || drawing.kind === 'sample') return;
    const m = motions.matrix(area.value.id, playhead.shown.value);
    const back = inverse(m);
    const how: Join = shapes.value.length === 0 ? 'add' : join.value;
    const edge = how === 'add' ? SOFT : { ...SOFT, featherIn: 0, featherOut: 0.006 };
    add((_, id) => {
      if (drawing.kind === 'path') return [{ ...structuredClone(edge), id: id(), kind: 'path', join: how, points: drawing.points.map((p) => movedPoint(p, (q) => apply(back, q))) }];
      const centre = roundedPair(apply(back, drawing.centre));
      const scale = scaleAt(m, centre);
      const round = { centre, radii: roundedPair([drawing.radii[0] / scale, drawing.radii[1] / scale]), turn: rounded(-turnAt(m, centre)) };
      return [drawing.kind === 'box' ? { ...structuredClone(edge), id: id(), kind: 'box', join: how, ...round, round: 0.3 } : { ...structuredClone(edge), id: id(), kind: 'ellipse', join: how, ...round }];
    }, `Draw ${drawing.kind}`);
  }

  return {
    tool,
    join,
    active,
    activeShape,
    /** The shape being worked on, where it is. */
    activeStaged: computed(() => (area.value ? (staged(area.value).find((s) => s.shape.id === active.value) ?? null) : null)),
    shapes,
    staged,
    change,
    commit,
    drawn,
    work: (shapeId: string): void => {
      active.value = shapeId;
    },
    joinNext: (how: Join): void => {
      join.value = how;
    },
    draw: (next: Tool): void => {
      tool.value = tool.value === next ? null : next;
    },
    addPoint: (shapeId: string, piece: number, t: number) => once('Add a point', shapeId, (s) => s.kind === 'path' && addPoint(s, piece, t)),
    removePoints: (shapeId: string, points: Set<number>) => once('Remove points', shapeId, (s) => s.kind === 'path' && removePoints(s, points)),
    setJoin: (shapeId: string, value: Join) => once(`Join: ${value}`, shapeId, (s) => (s.join = value)),
    remove: (shapeId: string) => ofArea('Remove a shape', (of) => (of.outline.shapes = of.outline.shapes.filter((s) => s.id !== shapeId))),
    earlier: (index: number) => ofArea('Order of shapes', (of) => of.outline.shapes.splice(index - 1, 0, ...of.outline.shapes.splice(index, 1))),
    invert: () => ofArea('Invert', (of) => (of.outline.invert = !of.outline.invert)),
    addArea: (other: string) => add((_, id) => [{ id: id(), kind: 'area', join: shapes.value.length === 0 ? 'add' : join.value, of: other, opacity: 1, keys: [] } satisfies AreaShape], 'Another area’s matte'),
    /** Everybody on the picture; which one is meant is said afterwards. */
    addPeople: () => add((_, id) => [{ id: id(), kind: 'people', join: shapes.value.length === 0 ? 'add' : join.value, place: null, featherIn: 0, featherOut: 0, grow: 0, opacity: 1, keys: [] } satisfies People], 'People'),
    /** Whom a shape means: the one whose face is at a place of this frame, or everybody. */
    meanPerson: (shapeId: string, place: Pair | null) => once(place ? 'One person' : 'Everybody', shapeId, (s) => s.kind === 'people' && (s.place = place && roundedPair(place))),
    toPath: (shapeId: string) => ofArea('To a path', (of) => {
      of.outline.shapes = of.outline.shapes.map((s) => (s.id === shapeId && (s.kind === 'ellipse' || s.kind === 'box') ? toPath(s) : s));
    }),
    mirror: () => ofArea('Mirror', (of) => {
      const drawnShapes = of.outline.shapes.filter(isDrawn);
      const xs = drawnShapes.map((s) => middleOf(s)[0]);
      if (xs.length) of.outline.shapes = of.outline.shapes.map((s) => mirrored(s, (Math.min(...xs) + Math.max(...xs)) / 2));
    }),
    copy: (): void => {
      clipboard.value = shapes.value.map((s) => (isDrawn(s) ? { ...s, motion: null } : s));
      say('Outline copied', 'Paste it into another area, also in another shot.');
    },
    paste: (): void => {
      const known = new Set(store.recipe.value?.areas.map((a) => a.id));
      const list = clipboard.value.filter((s) => s.kind !== 'area' || (known.has(s.of) && s.of !== area.value?.id));
      if (list.length === 0) say('Nothing to paste', 'Copy an outline first.');
      else add((_, id) => list.map((shape) => ({ ...copied(shape), id: id() })), 'Paste outline');
    },
    readSvg: async (file: File): Promise<void> => {
      try {
        const paths = await api.readSvg(await file.text());
        const back = inverse(area.value ? motions.matrix(area.value.id, playhead.shown.value) : []);
        const join_: Join = shapes.value.length === 0 ? 'add' : join.value;
        add((_, id) => paths.map((points) => ({ ...structuredClone(SOFT), id: id(), kind: 'path', join: join_, points: points.map((p) => movedPoint(p, (q: Pair) => apply(back, q))) })), 'Outline from SVG');
      } catch (reason) {
        fail('The SVG file was not taken', reason);
      }
    },
    svgUrl: (): string => api.svgUrl(shotId, area.value?.id ?? '', playhead.frame.value),
    addKey: (shapeId: string) => once(`Keyframe ${playhead.frame.value}`, shapeId, (s) => addKey(s, playhead.frame.value)),
    removeKey: (shapeId: string, frame: number) => once(`Remove keyframe ${frame}`, shapeId, (s) => {
      const now = shapeAt(s, frame);
      s.keys = s.keys.filter((k) => k.frame !== frame);
      // The last keyframe leaves its values behind.
      if (s.keys.length === 0) Object.assign(s, { ...now, keys: [] });
    }),
    ease: (shapeId: string, frame: number, ease: 'smooth' | 'linear' | 'hold') => once('Ease', shapeId, (s) => {
      const key = s.keys.find((k) => k.frame === frame);
      if (key) key.ease = ease;
    }),
    /** Gives a shape a motion of its own, or takes it away. */
    ownMotion: (shapeId: string) => once('Motion of its own', shapeId, (s) => {
      if (!isDrawn(s)) return;
      s.motion = s.motion ? null : { by: 'none', use: ['position', 'rotation', 'scale', 'shear', 'perspective'], pivot: roundedPair(middleOf(s)), keys: [] };
    }),
  };
}

export type Outlines = ReturnType<typeof useOutlines>;
