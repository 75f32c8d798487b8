import type { Ref } from 'vue';
import type { DrawnShape, Pair, PathPoint, ShapeValues } from '../../api/types';
import { useBench } from '../bench';
import { drag, onStage } from '../picture/drag';
import { movedPoint, roundedPoint } from './edits';
import { about, angleOf, apply, degrees, minus, plus, rounded, roundedPair, type Matrix } from './geometry';
import { bezier, middleOf } from './shapes';
import { TIP, type useShapeOnStage } from './useShapeOnStage';

/** The least half width of a shape, in picture heights. */
const LEAST = 0.002;

/** What dragging a handle of the shape being worked on, or pressing arrow keys on it, makes of its values. */
export function useShapeDrags(shape: Ref<DrawnShape>, matrix: Ref<Matrix>, shown: ReturnType<typeof useShapeOnStage>) {
  const { stage, outlines, selection } = useBench();
  const stated = (p: Pair): Pair => stage.stated(p, matrix.value);
  /** A way on the screen, in footage pixels, where the outline is stated. */
  const statedWay = (x: number, y: number): Pair => {
    const one = stage.unit.value / stage.rows;
    const [from, to] = [stated([0, 0]), stated([x * one, y * one])];
    return minus(to, from);
  };
  const pixel = (): number => 1 / stage.rows / shown.scale.value;
  /** What the next pause of the arrow keys saves. */
  let what = '';

  const set = (values: Partial<ShapeValues>): void => outlines.change(shape.value.id, values);
  function by(words: string, values: Partial<ShapeValues>): void {
    what = words;
    set(values);
  }
  function start(e: PointerEvent, words: string, move: (at: Pair, event: PointerEvent) => Partial<ShapeValues>, click?: () => void): void {
    if (e.button !== 0) return;
    drag(e, (at, event) => set(move(at, event)), (moved) => (moved ? void outlines.commit(words) : click?.()));
  }

  const moved = (s: DrawnShape, way: Pair): Partial<ShapeValues> => (s.kind === 'path' ? { points: s.points.map((p) => roundedPoint({ ...p, at: plus(p.at, way) })) } : { centre: roundedPair(plus(s.centre, way)) });
  const turned = (s: DrawnShape, by_: number): Partial<ShapeValues> => (s.kind === 'path' ? { points: s.points.map((p) => movedPoint(p, (q) => about(middleOf(s), q, by_, 1))) } : { turn: rounded(degrees(s.turn + by_)) });
  const feathered = (side: 'inner' | 'outer', value: number): Partial<ShapeValues> => ({ [side === 'inner' ? 'featherIn' : 'featherOut']: rounded(Math.min(1, Math.max(0, value))) });

  return {
    start,
    stated,
    statedWay,
    by,
    settle: (): void => void outlines.commit(what),
    move(e: PointerEvent): void {
      const s = shape.value;
      const from = stated(onStage(e));
      start(e, 'Move outline', (at) => moved(s, minus(stated(at), from)), () => selection.select(new Set()));
    },
    moveBy: (x: number, y: number): void => by('Move outline', moved(shape.value, statedWay(x, y))),
    turn(e: PointerEvent): void {
      const s = shape.value;
      const centre = stage.onScreen(apply(matrix.value, middleOf(s)));
      const from = angleOf(centre, onStage(e));
      start(e, 'Turn outline', (at) => turned(s, degrees(angleOf(centre, at) - from)));
    },
    turnBy: (steps: number): void => by('Turn outline', turned(shape.value, steps)),
    size(e: PointerEvent, axis: 0 | 1): void {
      const s = shape.value;
      if (s.kind === 'path') return;
      start(e, 'Resize outline', (at) => {
        const [x, y] = minus(about(s.centre, stated(at), -s.turn, 1), s.centre);
        return resized(s.radii, axis, Math.abs(axis === 0 ? x : y) - s.grow);
      });
    },
    sizeBy(axis: 0 | 1, steps: number): void {
      const s = shape.value;
      if (s.kind !== 'path') by('Resize outline', resized(s.radii, axis, s.radii[axis] + steps * pixel()));
    },
    feather(e: PointerEvent, hair: { at: Pair; normal: Pair }, side: 'inner' | 'outer'): void {
      start(e, side === 'inner' ? 'Inner feather' : 'Outer feather', (at) => {
        const [x, y] = minus(at, hair.at);
        const length = (x * hair.normal[0] + y * hair.normal[1]) * (side === 'inner' ? -1 : 1);
        return feathered(side, length <= TIP + 1 ? 0 : length / stage.unit.value / shown.scale.value);
      });
    },
    featherBy: (side: 'inner' | 'outer', steps: number): void => by(side === 'inner' ? 'Inner feather' : 'Outer feather', feathered(side, shape.value[side === 'inner' ? 'featherIn' : 'featherOut'] + steps * pixel())),
    /** The place on the path nearest to the pointer gets a point. */
    pointHere(e: MouseEvent): void {
      const here = stated(onStage(e));
      const list = shape.value.kind === 'path' ? shape.value.points : [];
      let best: [number, number, number] = [Infinity, 0, 0.5];
      list.forEach((a, piece) => {
        for (let k = 1; k < 40; ++k) {
          const [x, y] = minus(bezier(a, list[(piece + 1) % list.length] as PathPoint, k / 40), here);
          if (x * x + y * y < best[0]) best = [x * x + y * y, piece, k / 40];
        }
      });
      e.stopPropagation();
      outlines.addPoint(shape.value.id, best[1], best[2]);
    },
  };
}

export type ShapeDrags = ReturnType<typeof useShapeDrags>;

function resized(radii: Pair, axis: 0 | 1, to: number): Partial<ShapeValues> {
  const next: Pair = [...radii];
  next[axis] = rounded(Math.max(LEAST, to));
  return { radii: next };
}
