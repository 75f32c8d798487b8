import { useDevicePixelRatio, useElementSize } from '@vueuse/core';
import { computed, ref, type Ref } from 'vue';
import type { Pair } from '../../api/types';
import { inverse, apply, type Matrix } from '../outline/geometry';
import type { Layout } from '../judge/useCompare';
import { hold } from './drag';

const MARGIN = 20;
/** Screen pixels for a footage pixel, at the least and most. */
const ZOOMS: Pair = [0.1, 8];

/** Where the picture lies on its stage: fitted, or zoomed and panned; and from screen to picture and back. */
export function useStage(aspect: number, rows: number, layout: Ref<Layout>) {
  const element = ref<HTMLElement>();
  const { width, height } = useElementSize(element);
  const { pixelRatio: ratio } = useDevicePixelRatio();

  /** Null fits the picture; otherwise screen pixels for a footage pixel. */
  const zoom = ref<number | null>(null);
  /** The picture point in the middle of the stage, picture heights. */
  const middle = ref<Pair>([aspect / 2, 0.5]);
  /** Side by side each has half of the stage. */
  const room = computed(() => (layout.value === 'side' ? width.value / 2 : width.value));
  const fitted = computed(() => Math.max(20, Math.min(height.value - 2 * MARGIN, (room.value - 2 * MARGIN) / aspect)));
  /** Screen pixels of one picture height. */
  const unit = computed(() => (zoom.value === null ? fitted.value : (rows * zoom.value) / ratio.value));
  /** The picture's top left on the stage. */
  const origin = computed<Pair>(() => {
    const [mx, my] = zoom.value === null ? [aspect / 2, 0.5] : middle.value;
    return [Math.round(room.value / 2 - mx * unit.value), Math.round(height.value / 2 - my * unit.value)];
  });

  /** The part of the picture that is seen, in picture heights; null is all of it. */
  const seen = computed<[number, number, number, number] | null>(() => {
    const [ox, oy] = origin.value;
    const [l, t, r, b] = [-ox / unit.value, -oy / unit.value, (room.value - ox) / unit.value, (height.value - oy) / unit.value];
    return l <= 0 && t <= 0 && r >= aspect && b >= 1 ? null : [Math.max(0, l), Math.max(0, t), Math.min(aspect, r), Math.min(1, b)];
  });
  /** Rows of the picture that the screen can show. */
  const wanted = computed(() => (width.value > 0 ? Math.min(rows, Math.max(16, Math.round(unit.value * ratio.value))) : 0));

  const onScreen = (p: Pair): Pair => [origin.value[0] + p[0] * unit.value, origin.value[1] + p[1] * unit.value];
  const inPicture = (p: Pair): Pair => [(p[0] - origin.value[0]) / unit.value, (p[1] - origin.value[1]) / unit.value];
  /** From the page to the picture. */
  const under = (e: MouseEvent): Pair => {
    const box = (element.value as HTMLElement).getBoundingClientRect();
    return inPicture([e.clientX - box.left, e.clientY - box.top]);
  };

  /** Zooms about a place of the picture, which stays where it is on the screen; null fits. */
  function zoomAt(next: number | null, at?: Pair): void {
    if (next === null) {
      zoom.value = null;
      return;
    }
    const before = at ?? [aspect / 2, 0.5];
    const screen = onScreen(before);
    zoom.value = Math.min(ZOOMS[1], Math.max(ZOOMS[0], next));
    const now = (rows * zoom.value) / ratio.value;
    middle.value = at ? [before[0] + (room.value / 2 - screen[0]) / now, before[1] + (height.value / 2 - screen[1]) / now] : before;
  }
  const present = (): number => zoom.value ?? (fitted.value * ratio.value) / rows;

  function pan(e: PointerEvent): void {
    e.preventDefault();
    const from = under(e);
    if (zoom.value === null) zoomAt(present(), from);
    hold(e, (m) => {
      const now = under(m);
      middle.value = [middle.value[0] + from[0] - now[0], middle.value[1] + from[1] - now[1]];
    }, () => undefined);
  }

  return {
    element,
    width,
    height,
    ratio,
    rows,
    zoom,
    room,
    unit,
    origin,
    seen,
    wanted,
    onScreen,
    inPicture,
    under,
    pan,
    /** From the screen to where an outline is stated. */
    stated: (p: Pair, matrix: Matrix): Pair => apply(inverse(matrix), inPicture(p)),
    wheel: (e: WheelEvent): void => zoomAt(present() * 1.0015 ** -e.deltaY, under(e)),
    fit: (): void => zoomAt(null),
    zoomTo: (next: number): void => zoomAt(next, zoom.value === null ? [aspect / 2, 0.5] : middle.value),
    /** Screen pixels of one footage pixel at the present zoom, in per cent. */
    percent: computed(() => (100 * unit.value * ratio.value) / rows),
  };
}

export type Stage = ReturnType<typeof useStage>;
