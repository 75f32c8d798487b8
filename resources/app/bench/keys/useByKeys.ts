import { createGlobalState, useEventListener } from '@vueuse/core';
import { ref } from 'vue';

/** Whether the last thing done was done with a key, not with the pointer: then what opens takes the focus. */
export const useByKeys = createGlobalState(() => {
  const byKeys = ref(false);
  useEventListener(window, 'keydown', () => (byKeys.value = true), { capture: true });
  useEventListener(window, 'pointerdown', () => (byKeys.value = false), { capture: true });
  return byKeys;
});
