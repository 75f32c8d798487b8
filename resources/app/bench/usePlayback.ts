import { computed, onBeforeUnmount, ref, shallowReactive } from 'vue';
import { api, type Picture } from '../api/client';
import type { PictureRequest } from '../api/types';
import type { Playhead } from './usePlayhead';

/** Pictures are asked for by two at a time while somebody waits for them: one for each core that renders. */
const LANES = 2;
/** When nothing has changed for this long the span is made ready in the background, one picture at a time. */
const REST = 4000;

interface Making { order: number[]; lanes: Set<Promise<void>>; stop: AbortController }

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
  let making: Making = { order: [], lanes: new Set(), stop: new AbortController() };
  let resting: ReturnType<typeof setTimeout> | undefined;
  let handle = 0;

  const frames = playhead.to - playhead.from + 1;
  const share = computed(() => ready.size / frames);

  /** What is to be played; throws away what was made for something else. Only what is saved is made ready unasked. */
  function aim(newKey: string, what: Omit<PictureRequest, 'frame'>, saved: boolean): void {
    request = what;
    if (newKey === key) return;
    key = newKey;
    halt();
    leave();
    ready.clear();
    if (saved) resting = setTimeout(() => void make(1), REST);
  }

  /** Stops making pictures; what is ready stays. */
  function leave(): void {
    clearTimeout(resting);
    making.stop.abort();
    making = { order: [], lanes: new Set(), stop: new AbortController() };
    preparing.value = false;
  }

  /** Makes what is not ready yet, nearest after the playhead first, by so many at a time; done when all of it is. */
  async function make(lanes: number): Promise<void> {
    const what = request;
    const own = making;
    if (!what) return;
    if (own.lanes.size === 0) own.order = Array.from({ length: frames }, (_, i) => playhead.from + ((playhead.frame.value - playhead.from + i) % frames)).filter((f) => !ready.has(f));
    const lane = async (): Promise<void> => {
      try {
        for (let f = own.order.shift(); f !== undefined && !own.stop.signal.aborted; f = own.order.shift()) {
          const picture = await api.pictureFile(shotId, { ...what, frame: f }, own.stop.signal);
          if (!own.stop.signal.aborted) ready.set(f, picture);
        }
      } catch {
        // Stopped, or the server is gone: what is ready stays.
      }
    };
    while (own.lanes.size < lanes && own.order.length > 0) {
      const started: Promise<void> = lane().finally(() => own.lanes.delete(started));
      own.lanes.add(started);
    }
    await Promise.all(own.lanes);
  }

  async function prepare(): Promise<boolean> {
    if (ready.size === frames) return true;
    if (!request || preparing.value) return false;
    preparing.value = true;
    const { signal } = making.stop;
    await make(LANES);
    if (!signal.aborted) preparing.value = false;
    return ready.size === frames;
  }

  async function play(): Promise<void> {
    if (playing.value || preparing.value) {
      halt();
      leave();
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
    leave();
  });

  return { ready, share, playing, preparing, dropped, aim, play, halt };
}
