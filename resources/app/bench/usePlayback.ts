import { computed, onBeforeUnmount, ref, shallowReactive } from 'vue';
import { api, type Picture } from '../api/client';
import type { PictureRequest } from '../api/types';
import type { Playhead } from './usePlayhead';

/** Pictures are asked for by two at a time: one for each core that renders. */
const LANES = 2;

/**
 * Playing: the span's pictures are made first, then shown at the shot's own rate by the clock. What is ready is kept
 * until the recipe, the view or the size changes.
 */
export function usePlayback(shotId: number, playhead: Playhead, fps: number, show: (picture: Picture) => void) {
  const ready = shallowReactive(new Map<number, { file: Blob; place: Picture['place'] }>());
  const playing = ref(false);
  const preparing = ref(false);
  const dropped = ref(0);
  let key = '';
  let request: Omit<PictureRequest, 'frame'> | null = null;
  let stop = new AbortController();
  let handle = 0;

  const frames = playhead.to - playhead.from + 1;
  const share = computed(() => ready.size / frames);

  /** What is to be played; throws away what was made for something else. */
  function aim(newKey: string, what: Omit<PictureRequest, 'frame'>): void {
    request = what;
    if (newKey === key) return;
    key = newKey;
    halt();
    stop.abort();
    stop = new AbortController();
    preparing.value = false;
    ready.clear();
  }

  async function prepare(): Promise<boolean> {
    if (ready.size === frames) return true;
    if (!request || preparing.value) return false;
    preparing.value = true;
    const what = request;
    const { signal } = stop;
    const order = Array.from({ length: frames }, (_, i) => playhead.from + ((playhead.frame.value - playhead.from + i) % frames)).filter((f) => !ready.has(f));
    const lane = async (): Promise<void> => {
      for (let f = order.shift(); f !== undefined && !signal.aborted; f = order.shift()) ready.set(f, await api.pictureFile(shotId, { ...what, frame: f }, signal));
    };
    try {
      await Promise.all(Array.from({ length: LANES }, lane));
    } catch {
      // Stopped, or the server is gone: what is ready stays.
    }
    if (!signal.aborted) preparing.value = false;
    return ready.size === frames;
  }

  async function play(): Promise<void> {
    if (playing.value || preparing.value) {
      halt();
      stop.abort();
      stop = new AbortController();
      preparing.value = false;
      return;
    }
    if (!(await prepare())) return;
    playing.value = true;
    dropped.value = 0;
    const first = playhead.frame.value - playhead.from;
    const began = performance.now();
    let shown = -1;
    let coming: { at: number; image: Promise<ImageBitmap> } | null = null;
    const pictureAt = (at: number): Promise<ImageBitmap> => {
      const file = ready.get(playhead.from + (at % frames))?.file;
      return file ? createImageBitmap(file) : Promise.reject(new Error('not ready'));
    };
    const tick = async (): Promise<void> => {
      if (!playing.value) return;
      const at = first + Math.floor(((performance.now() - began) * fps) / 1000);
      if (at !== shown) {
        const image = await (coming?.at === at ? coming.image : pictureAt(at)).catch(() => null);
        const place = ready.get(playhead.from + (at % frames))?.place;
        if (image && place && playing.value) {
          if (shown >= 0 && at > shown + 1) dropped.value += at - shown - 1;
          shown = at;
          playhead.go(playhead.from + (at % frames));
          show({ image, place });
          const image2 = pictureAt(at + 1);
          image2.catch(() => undefined);
          coming = { at: at + 1, image: image2 };
        }
      }
      handle = requestAnimationFrame(() => void tick());
    };
    void tick();
  }

  function halt(): void {
    playing.value = false;
    cancelAnimationFrame(handle);
  }

  onBeforeUnmount(() => {
    halt();
    stop.abort();
  });

  return { ready, share, playing, preparing, dropped, aim, play, halt };
}
