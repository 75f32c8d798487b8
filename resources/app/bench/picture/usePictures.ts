import { ref, shallowRef } from 'vue';
import { api, type Picture } from '../../api/client';
import type { PictureRequest } from '../../api/types';
import { useNotices } from '../../useNotices';

/**
 * The pictures on the stage. One request runs at a time; of those that come in meanwhile only the newest is made. The
 * old picture stays until the new one is there.
 */
export function usePictures(shotId: number) {
  const { fail } = useNotices();
  const main = shallowRef<Picture | null>(null);
  /** A part of the picture that is newer than the rest, laid over it. */
  const patch = shallowRef<Picture | null>(null);
  const busy = ref(false);
  const failure = ref<string | null>(null);
  let next: { request: PictureRequest; part: boolean } | null = null;
  let running = false;

  async function run(): Promise<void> {
    if (running) return;
    running = true;
    busy.value = true;
    while (next) {
      const { request, part } = next;
      next = null;
      try {
        const picture = await api.picture(shotId, request);
        failure.value = null;
        if (part) patch.value = picture;
        else {
          main.value = picture;
          patch.value = null;
        }
      } catch (reason) {
        failure.value = reason instanceof Error ? reason.message : String(reason);
        fail('The picture cannot be made', reason);
      }
    }
    busy.value = false;
    running = false;
  }

  return {
    main,
    patch,
    busy,
    failure,
    want(request: PictureRequest, part = false): void {
      next = { request, part };
      void run();
    },
    show(picture: Picture): void {
      main.value = picture;
      patch.value = null;
    },
  };
}

export type PicturesOnStage = ReturnType<typeof usePictures>;
