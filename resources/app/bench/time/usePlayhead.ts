import { useSessionStorage } from '@vueuse/core';
import { computed, ref } from 'vue';

/** The frame one is on; a shot is opened again where it was left. */
export function usePlayhead({ id, from, to }: { id: number; from: number; to: number }) {
  const within = (frame: number): number => Math.min(to, Math.max(from, Math.round(frame)));
  const frame = useSessionStorage(`frame ${id}`, Math.round((from + to) / 2));
  frame.value = within(frame.value);
  /** The frame of the picture on the stage, which may be late: what is laid over that, or drawn on it, is of this frame. */
  const shown = ref(frame.value);
  const late = computed(() => shown.value !== frame.value);

  function go(to_: number): void {
    frame.value = within(to_);
  }

  return { frame, shown, late, go, from, to };
}

export type Playhead = ReturnType<typeof usePlayhead>;
