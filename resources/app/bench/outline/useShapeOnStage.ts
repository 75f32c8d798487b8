import { computed, type Ref } from 'vue';
import type { DrawnShape, Pair } from '../../api/types';
import type { Stage } from '../picture/useStage';
import { about, apply, linearAt, scaleAt, type Matrix } from './geometry';
import { edgeOf, middleOf, spread } from './shapes';

const HAIRS = 24;
/** The shortest hair that can be taken hold of, in screen pixels. */
export const TIP = 9;

/** Tells whether a hair has a tip to drag. */
const isMain = (i: number): boolean => i % (HAIRS / 4) === 0;

/** A shape where its motion has taken it, in screen pixels of the stage. */
export function useShapeOnStage(shape: Ref<DrawnShape>, matrix: Ref<Matrix>, stage: Stage) {
  const scale = computed(() => scaleAt(matrix.value, middleOf(shape.value)));
  const edge = computed(() => edgeOf(shape.value, matrix.value, shape.value.grow * scale.value));
  const line = computed(() => `M${edge.value.map((p) => stage.onScreen(p.at).map((v) => v.toFixed(2)).join(' ')).join('L')}Z`);

  /** Short lines across the edge, their tips where the feather ends; some of them can be dragged. */
  const hairs = computed(() => {
    const inner = shape.value.featherIn * scale.value * stage.unit.value;
    const outer = shape.value.featherOut * scale.value * stage.unit.value;
    return spread(edge.value, HAIRS).map(({ at, normal }, i) => {
      const main = isMain(i);
      const [x, y] = stage.onScreen(at);
      const [a, b] = [Math.max(inner, main ? TIP : 3), Math.max(outer, main ? TIP : 3)];
      return { i, main, at: [x, y] as Pair, normal, inner: [x - normal[0] * a, y - normal[1] * a] as Pair, outer: [x + normal[0] * b, y + normal[1] * b] as Pair };
    });
  });
  /** The middles of an ellipse's or box's sides. */
  const crosses = computed(() => {
    const s = shape.value;
    if (s.kind === 'path') return [];
    const sides: Pair[] = [[1, 0], [0, 1], [-1, 0], [0, -1]];
    return sides.map(([x, y], i) => ({ i, at: stage.onScreen(apply(matrix.value, about(s.centre, [s.centre[0] + x * (s.radii[0] + s.grow), s.centre[1] + y * (s.radii[1] + s.grow)], s.turn, 1))) }));
  });
  /** Degrees clockwise as it stands on the frame. */
  const turn = computed(() => {
    const [a, b, c, d] = linearAt(matrix.value, middleOf(shape.value));
    return (shape.value.kind === 'path' ? 0 : shape.value.turn) + (Math.atan2(c - b, a + d) * 180) / Math.PI;
  });

  return { scale, edge, line, hairs, crosses, turn };
}

/** Where the letter of a shape stands: at the upper right of its edge, clear of the crosses whatever its proportions. */
export function flagPlace(shape: DrawnShape, matrix: Matrix, stage: Stage): Pair {
  const edge = edgeOf(shape, matrix, shape.grow * scaleAt(matrix, middleOf(shape)));
  const xs = edge.map((p) => p.at[0]);
  const ys = edge.map((p) => p.at[1]);
  const [w, h] = [Math.max(...xs) - Math.min(...xs) || 1, Math.max(...ys) - Math.min(...ys) || 1];
  return stage.onScreen(edge.reduce((a, b) => (b.at[0] / w - b.at[1] / h > a.at[0] / w - a.at[1] / h ? b : a)).at);
}

/** Flags that would lie on each other give way, the later ones further out. */
export function apart(flags: { at: Pair; width: number; height: number }[]): Pair[] {
  const placed: { x: number; y: number; w: number; h: number }[] = [];
  return flags.map(({ at, width, height }) => {
    const own = { x: at[0], y: at[1] - height, w: width, h: height };
    for (let tries = 0; tries < 40; ++tries) {
      const hit = placed.find((p) => own.x < p.x + p.w && p.x < own.x + own.w && own.y < p.y + p.h && p.y < own.y + own.h);
      if (!hit) break;
      // To the right of what is in the way; after a few, over it.
      if (tries % 4 === 3) Object.assign(own, { x: at[0], y: hit.y - own.h - 1 });
      else own.x = hit.x + hit.w + 1;
    }
    placed.push(own);
    return [own.x, own.y + height];
  });
}
