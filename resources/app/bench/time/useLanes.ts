import { useElementSize } from '@vueuse/core';
import { computed, inject, provide, ref, type InjectionKey } from 'vue';
import { useBench } from '../bench';

/** Room for the lanes' names, and beyond the last frame. */
export const LEFT = 116;
const RIGHT = 16;
/** Frames stand under major marks at one of these distances. */
const EVERY = [1, 2, 5, 6, 12, 24, 48, 120, 240, 600, 1200, 2400, 6000];
const APART = 60;

/** Where frames stand on the ruler and the lanes under it. */
function create() {
  const { playhead } = useBench();
  const { from, to } = playhead;
  const box = ref<HTMLElement>();
  const { width } = useElementSize(box);
  const count = to - from + 1;
  const step = computed(() => Math.max(0.0001, (width.value - LEFT - RIGHT) / count));

  return {
    box,
    width,
    from,
    to,
    count,
    step,
    right: computed(() => width.value - RIGHT),
    /** The middle of a frame, and its left border. */
    at: (frame: number): number => LEFT + (frame - from + 0.5) * step.value,
    start: (frame: number): number => LEFT + (frame - from) * step.value,
    /** The frame under a pointer, within the span. */
    frameAt: (e: MouseEvent): number => Math.min(to, Math.max(from, from + Math.floor((e.clientX - (box.value as HTMLElement).getBoundingClientRect().left - LEFT) / step.value))),
    marks: computed(() => {
      const every = EVERY.find((n) => n * step.value >= APART) ?? 12000;
      const minor = Math.max(1, every / (every % 12 === 0 ? 12 : every % 5 === 0 ? 5 : every));
      const list: { frame: number; major: boolean }[] = [];
      for (let f = Math.ceil(from / minor) * minor; f <= to; f += minor) if (minor * step.value >= 3 || f % every === 0) list.push({ frame: f, major: f % every === 0 });
      return list;
    }),
    /** Runs of frames for which something holds, as pieces of a lane. */
    runs(holds: (i: number) => boolean): { x1: number; x2: number }[] {
      const found: { x1: number; x2: number }[] = [];
      for (let i = 0; i < count; ++i) {
        if (!holds(i)) continue;
        const first = i;
        while (i + 1 < count && holds(i + 1)) ++i;
        found.push({ x1: LEFT + first * step.value, x2: LEFT + (i + 1) * step.value });
      }
      return found;
    },
  };
}

const LANES: InjectionKey<ReturnType<typeof create>> = Symbol('lanes');

export function provideLanes() {
  const lanes = create();
  provide(LANES, lanes);
  return lanes;
}
export function useLanes() {
  const lanes = inject(LANES);
  if (!lanes) throw new Error('This belongs under the frame ruler.');
  return lanes;
}
