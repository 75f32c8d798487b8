import { computed, ref } from 'vue';
import type { Pair } from '../../api/types';
import type { Stage } from './useStage';

/** Where the split line lies: a place on it in shares of the picture, and its angle in degrees. */
export function useSplit(stage: Stage, aspect: number) {
  const at = ref({ x: 0.5, y: 0.5, angle: 90 });
  const way = computed<Pair>(() => [Math.cos((at.value.angle * Math.PI) / 180), Math.sin((at.value.angle * Math.PI) / 180)]);
  const centre = computed<Pair>(() => stage.onScreen([at.value.x * aspect, at.value.y]));
  const far = computed(() => stage.width.value + stage.height.value);

  /** A place on the line, so many screen pixels from its grip. */
  const reach = (by: number): Pair => [centre.value[0] + way.value[0] * by, centre.value[1] + way.value[1] * by];

  return {
    at,
    centre,
    reach,
    ends: computed<[Pair, Pair]>(() => [reach(-far.value), reach(far.value)]),
    /** The side of what it is compared with, as a shape far beyond the stage. */
    side: computed<Pair[]>(() => {
      const [a, b] = [reach(-far.value), reach(far.value)];
      const across: Pair = [-way.value[1] * 4 * far.value, way.value[0] * 4 * far.value];
      return [a, b, [b[0] + across[0], b[1] + across[1]], [a[0] + across[0], a[1] + across[1]]];
    }),
    moveTo: (x: number, y: number): void => {
      at.value = { ...at.value, x: Math.min(1, Math.max(0, x)), y: Math.min(1, Math.max(0, y)) };
    },
    /** Upright and level are easy to hit with the pointer. */
    turnTo: (degrees: number, snaps = true): void => {
      const near = Math.round(degrees / 90) * 90;
      at.value = { ...at.value, angle: snaps && Math.abs(near - degrees) < 3 ? near : degrees };
    },
  };
}

export type SplitPlace = ReturnType<typeof useSplit>;
