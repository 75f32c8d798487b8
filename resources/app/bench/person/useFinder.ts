import { ref } from 'vue';
import { api } from '../../api/client';
import type { Area, Pair } from '../../api/types';
import { useBench } from '../bench';
import { decoded } from '../picture/useReels';
import type { FindAnswer } from './findFace.worker';

/** Rows of the picture that is looked at. */
const LOOKED_AT = 540;

/** Kept once it was needed: what it has loaded takes seconds to load again. */
let worker: Worker | null = null;

/** Asks it for the landmarks of a face, one question at a time. */
function ask(pixels: ImageData): Promise<FindAnswer> {
  const own = (worker ??= new Worker(new URL('./findFace.worker.ts', import.meta.url), { type: 'module' }));
  return new Promise((resolve) => {
    own.onmessage = (e: MessageEvent<FindAnswer>) => resolve(e.data);
    own.onerror = (e) => {
      own.terminate();
      worker = null;
      resolve({ failure: e.message });
    };
    own.postMessage({ pixels });
  });
}

/** Looks for the landmarks of a face on the present frame; what becomes of them is the server's. */
export function useFinder() {
  const { shot, playhead } = useBench();
  const proposed = ref<Area[]>([]);
  const words = ref('Looking for a face on this frame…');
  const failed = ref(false);

  async function landmarks(frame: number): Promise<Pair[] | null> {
    const picture = await decoded(await api.picture(shot.id, { frame, view: 'original', height: LOOKED_AT }));
    const { width, height } = picture.image;
    const g = new OffscreenCanvas(width, height).getContext('2d') as OffscreenCanvasRenderingContext2D;
    g.drawImage(picture.image, 0, 0);
    const answer = await ask(g.getImageData(0, 0, width, height));
    if ('failure' in answer) throw new Error(answer.failure);
    return answer.landmarks?.map(([x, y]): Pair => [x / height, y / height]) ?? null;
  }

  async function look(): Promise<void> {
    const frame = playhead.frame.value;
    try {
      const found = await landmarks(frame);
      failed.value = found === null;
      words.value = found === null ? 'No face was found on this frame. Try one where it is seen from the front, or draw the areas yourself.' : 'A face was found. These areas are proposed; all can be corrected afterwards.';
      if (found) proposed.value = await api.person(shot.id, { frame, landmarks: found });
    } catch (reason) {
      failed.value = true;
      words.value = `Looking for a face did not work: ${reason instanceof Error ? reason.message : String(reason)}`;
    }
  }

  return { proposed, words, failed, look };
}
