import { computed, ref } from 'vue';
import type { View } from '../../api/types';
import type { Areas } from '../areas/useAreas';

/** A key held shows its view while held; tapped it stays until tapped again. */
const HOLD = 280;
const OF_AREA: View[] = ['matte', 'tint', 'picked', 'without'];

/** What is looked at: a view of the frame, and whether outlines stand over it. Held keys change both for a while. */
export function useViews(areas: Areas) {
  const view = ref<View>('result');
  const outlines = ref(true);
  let down: { key: string; at: number; view: View; outlines: boolean } | null = null;

  /** The view as it can be: those of an area need one. */
  const shown = computed<View>(() => (OF_AREA.includes(view.value) && !areas.chosen.value ? 'result' : view.value));

  function press(key: string, to: View | 'outlines'): void {
    if (down) return;
    down = { key, at: performance.now(), view: view.value, outlines: outlines.value };
    if (to === 'outlines') outlines.value = !outlines.value;
    else toggle(to);
  }
  function release(key: string): void {
    if (down?.key !== key) return;
    if (performance.now() - down.at > HOLD) lost();
    down = null;
  }
  /** Back to what was there before a key went down. */
  function lost(): void {
    if (!down) return;
    view.value = down.view;
    outlines.value = down.outlines;
    down = null;
  }
  function toggle(to: View): void {
    view.value = view.value === to ? 'result' : to;
  }

  return {
    view,
    outlines,
    shown,
    /** Whether what is shown depends on which area is chosen. */
    ofArea: computed(() => OF_AREA.includes(shown.value)),
    press,
    release,
    lost,
    toggle,
    show: (to: View): void => {
      view.value = to;
    },
  };
}

export type Views = ReturnType<typeof useViews>;
