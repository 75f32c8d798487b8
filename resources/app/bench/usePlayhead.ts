import { ref } from 'vue';

/** The frame one is on. */
export function usePlayhead(from: number, to: number, start: number) {
  const frame = ref(Math.min(to, Math.max(from, start)));

  function go(to_: number): void {
    frame.value = Math.min(to, Math.max(from, Math.round(to_)));
  }

  return { frame, go, from, to };
}

export type Playhead = ReturnType<typeof usePlayhead>;
