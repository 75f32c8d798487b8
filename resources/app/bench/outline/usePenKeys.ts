import { nextTick, onBeforeUnmount, onMounted, useTemplateRef, type Ref } from 'vue';
import type { Pair } from '../../api/types';
import { useByKeys } from '../keys/useByKeys';
import type { Stage } from '../picture/useStage';
import type { Tool } from './drawing';

const WAYS: Record<string, Pair> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
/** Pixels of the screen that an arrow key moves the cross. */
const STEP = 2;
const FAR = 20;

/**
 * Drawing without a pointer: arrow keys move a cross over the picture, Space does there what a click would do. The pen takes
 * the focus when it was called by a key, and hands it on to what was drawn.
 */
export function usePenKeys(stage: Stage, aspect: number, hover: Ref<Pair | null>, click: (at: Pair) => void) {
  const pen = useTemplateRef<SVGElement>('pen');
  const byKeys = useByKeys();
  const middle = (): Pair => {
    const [l, t, r, b] = stage.seen.value ?? [0, 0, aspect, 1];
    return [(l + r) / 2, (t + b) / 2];
  };

  onMounted(() => {
    if (byKeys.value) pen.value?.focus({ preventScroll: true });
  });
  onBeforeUnmount(() => {
    if (document.activeElement === pen.value) void nextTick(() => document.querySelector<SVGElement>('[data-stage] .chosen .inside')?.focus({ preventScroll: true }));
  });

  return {
    middle,
    key(e: KeyboardEvent): void {
      const way = WAYS[e.key];
      const at = hover.value ?? middle();
      if (way) {
        const far = (e.shiftKey ? FAR : STEP) / stage.unit.value;
        hover.value = [Math.min(aspect, Math.max(0, at[0] + way[0] * far)), Math.min(1, Math.max(0, at[1] + way[1] * far))];
      } else if (e.key === ' ') click(at);
      else return;
      e.preventDefault();
      e.stopPropagation();
    },
  };
}

/** What the keys do with each tool, for those who do not see the cross. */
export function penWords(tool: Tool): string {
  const puts: Record<Tool, string> = { ellipse: 'draws an ellipse there', box: 'draws a box there', path: 'puts a point there, Enter closes the path', edges: 'puts a point there, Enter closes the path', spot: 'marks a spot there', take: 'takes a sample there', leave: 'leaves a sample out there', place: 'chooses that place' };
  return `Drawing: arrow keys move the cross, Space ${puts[tool]}, Esc leaves`;
}
