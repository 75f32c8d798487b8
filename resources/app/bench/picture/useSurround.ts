import { createSharedComposable, useLocalStorage } from '@vueuse/core';

/** Greys the picture may lie on: dim, mid, light. */
const GREYS = ['#2a2a2a', '#5a5a5a', '#9a9a9a'];

export const useSurround = createSharedComposable(() => ({ surround: useLocalStorage('surround', 0), GREYS }));
