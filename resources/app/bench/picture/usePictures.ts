import { ref, shallowRef } from 'vue';
import { api, ApiError, type Picture } from '../../api/client';
import type { PictureRequest } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Playhead } from '../time/usePlayhead';
import { decoded, sourceOf, type Reels } from './useReels';

/** Milliseconds after which a picture no longer follows the hand that drags. */
const LAGS = 70;

/** A picture that is wanted: its rows when it rests (fewer while something is dragged), and the saved revision it is of, if it is. */
interface Wanted { request: PictureRequest; rows: number; saved: number | null }
/** The whole that stands on the stage, which others are asked for against. */
interface Standing { key: string; revision: number; picture: Picture }

/**
 * The pictures on the stage. One request runs at a time; of those that come in meanwhile only the newest is made. The
 * old picture stays until the new one is there, and of the same frame only where the new one differs is made and laid over it.
 */
export function usePictures(shotId: number, reels: Reels, playhead: Playhead) {
  const { fail } = useNotices();
  /** Finished pictures, each laid over those before. */
  const layers = shallowRef<Picture[]>([]);
  const busy = ref(false);
  const failure = ref<string | null>(null);
  /** What the picture waits for, asked again by itself. */
  const waits = ref<string | null>(null);
  /** What its rows are divided by while something is dragged: at half the size, or where that lags at a third for as long as it goes on. */
  let coarse = 2;
  let stands: Standing | null = null;
  let next: Wanted | null = null;
  let running = false;

  function put(finished: Picture[], frame: number): void {
    layers.value = finished;
    playhead.shown.value = frame;
  }

  async function make({ request, rows, saved }: Wanted): Promise<void> {
    const { recipe: _recipe, height, ...plain } = request;
    const key = JSON.stringify([{ ...plain, revision: null }, rows]);
    const source = sourceOf(shotId, saved ?? 0, { ...plain, height: rows });
    const kept = request.window ? null : reels.standing(source, request.frame);
    if (stands?.key !== key) stands = kept && { key, revision: kept.of, picture: await decoded(kept.whole) };
    const keeps = saved !== null && !request.window && height === rows;
    // Nothing that is done to the treatment is seen in the original.
    if ((keeps || (request.view === 'original' && !request.window)) && reels.coarse(source, request.frame) === 1) {
      put(await reels.layers(source, request.frame), request.frame);
      return;
    }
    const standing = stands;
    const began = performance.now();
    const sent = await api.picture(shotId, { ...request, ...(saved === null ? {} : { revision: saved }), ...(standing ? { standing: standing.revision } : {}) });
    if (height === rows) coarse = 2;
    else if (performance.now() - began > LAGS) coarse = 3;
    if (keeps) reels.take(source, request.frame, sent, standing?.revision ?? null, 1);
    const picture = sent.file.size > 0 ? await decoded(sent) : null;
    if (picture && sent.whole && saved !== null && height === rows) stands = { key, revision: saved, picture };
    put([...(standing && !(picture && sent.whole) ? [standing.picture] : []), ...(picture ? [picture] : [])], request.frame);
  }

  async function run(): Promise<void> {
    if (running) return;
    running = true;
    busy.value = true;
    while (next) {
      const wanted = next;
      next = null;
      try {
        await make(wanted);
        failure.value = waits.value = null;
      } catch (reason) {
        if (reason instanceof ApiError && reason.again !== null) {
          waits.value = reason.message;
          await new Promise((done) => setTimeout(done, 1000 * (reason.again ?? 0)));
          next ??= wanted;
        } else {
          failure.value = reason instanceof Error ? reason.message : String(reason);
          fail('The picture cannot be made', reason);
        }
      }
    }
    busy.value = false;
    running = false;
  }

  return {
    layers,
    busy,
    failure,
    waits,
    /** The rows of a picture while something is dragged; all of them follow when it rests. */
    dragged: (rows: number): number => Math.max(64, Math.round(rows / coarse)),
    want(request: PictureRequest, rows: number, saved: number | null): void {
      next = { request, rows, saved };
      void run();
    },
    show(finished: Picture[]): void {
      layers.value = finished;
    },
  };
}

export type PicturesOnStage = ReturnType<typeof usePictures>;
