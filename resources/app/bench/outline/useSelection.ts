import { computed, shallowRef, watch } from 'vue';
import type { Pair, Path, PathPoint } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Following } from '../follow/useFollowing';
import { drag, onStage } from '../picture/drag';
import type { Stage } from '../picture/useStage';
import { roundedPoint } from './edits';
import { apply, inverse, minus, plus, type Matrix } from './geometry';
import type { Outlines } from './useOutlines';

/** Points of the path being worked on that are selected: by a lasso or one by one, to be moved and removed together. */
export function useSelection(outlines: Outlines, following: Following, stage: Stage, rows: number) {
  const { say } = useNotices();
  const selected = shallowRef<ReadonlySet<number>>(new Set());
  const lasso = shallowRef<Pair[]>([]);
  const path = computed<{ shape: Path; matrix: Matrix } | null>(() => {
    const staged = outlines.activeStaged.value;
    return staged?.shape.kind === 'path' ? { shape: staged.shape, matrix: staged.matrix } : null;
  });
  const select = (points: ReadonlySet<number>): void => {
    selected.value = points;
  };
  watch([() => path.value?.shape.id, following.correcting], () => select(new Set()));

  /** On the empty picture: a lasso round points of the path. */
  function lassoFrom(e: PointerEvent): void {
    if (!path.value || following.correcting.value) return;
    const add = e.shiftKey;
    lasso.value = [onStage(e)];
    drag(e, (at) => (lasso.value = [...lasso.value, at]), (moved) => {
      if (moved && path.value) {
        const { shape, matrix } = path.value;
        const found = shape.points.flatMap((p, i) => (isWithin(stage.onScreen(apply(matrix, p.at)), lasso.value) ? [i] : []));
        select(new Set([...(add ? selected.value : []), ...found]));
      } else select(new Set());
      lasso.value = [];
    });
  }

  /** Selected points moved by footage pixels; false where none is selected. */
  function nudge(dx: number, dy: number): boolean {
    if (!path.value || selected.value.size === 0) return false;
    const { shape, matrix } = path.value;
    const back = inverse(matrix);
    const by = (p: PathPoint): Pair => minus(apply(back, plus(apply(matrix, p.at), [dx / rows, dy / rows])), p.at);
    outlines.change(shape.id, { points: shape.points.map((p, i) => (selected.value.has(i) ? roundedPoint({ ...p, at: plus(p.at, by(p)) }) : p)) });
    return true;
  }

  function remove(): boolean {
    if (!path.value || selected.value.size === 0) return false;
    const { shape } = path.value;
    if (shape.points.length - selected.value.size < 2) say('A path keeps two points at least.', 'Remove the shape instead.');
    else outlines.removePoints(shape.id, new Set(selected.value));
    select(new Set());
    return true;
  }

  return {
    selected,
    lasso,
    select,
    lassoFrom,
    nudge,
    remove,
    all: (): boolean => {
      if (!path.value) return false;
      select(new Set(path.value.shape.points.keys()));
      return true;
    },
    /** False where nothing was selected. */
    leave: (): boolean => {
      const any = selected.value.size > 0;
      select(new Set());
      return any;
    },
  };
}

export type Selection = ReturnType<typeof useSelection>;

/** Whether a place lies inside a closed line, by the crossings to its right. */
function isWithin([x, y]: Pair, line: Pair[]): boolean {
  let inside = false;
  line.forEach((p, i) => {
    const q = line[(i + 1) % line.length] as Pair;
    if (p[1] > y !== q[1] > y && x < ((q[0] - p[0]) * (y - p[1])) / (q[1] - p[1]) + p[0]) inside = !inside;
  });
  return inside;
}
