import { useRafFn, useTimeoutFn } from '@vueuse/core';
import { computed, onScopeDispose, ref, shallowReactive, shallowRef } from 'vue';
import { api, type Picture } from '../../api/client';
import type { Pair, PictureRequest } from '../../api/types';
import type { Playhead } from './usePlayhead';

/** Pictures are asked for by two at a time while somebody waits for them: one for each core that renders. */
const LANES = 2;
/** When nothing has changed for this long what is to be played is made ready in the background, one picture at a time. */
const REST = 4000;
/** Kinds of pictures kept ready beside each other: the result, and what one goes to and fro with. */
const KEPT = 4;

interface File { file: Blob; place: Picture['place'] }
/** What pictures are of: all of one key are alike but for their frame. */
export interface Source { key: string; shot: number; request: Omit<PictureRequest, 'frame'> }
/** A picture to be shown, and what is laid beside it or split with it. */
export interface Moment { source: Source; frame: number; beside: { source: Source; frame: number } | null }
interface Making { order: { source: Source; frame: number }[]; lanes: Set<Promise<void>>; stop: AbortController }

/**
 * Playing: pictures are made first, then shown at the shot's own rate by the clock. What is ready is kept until
 * something is changed, also while one looks at something else meanwhile. Frames that could not be shown in time count
 * as dropped.
 */
export function usePlayback(shotId: number, playhead: Playhead, fps: number, show: (picture: Picture, beside: Picture | null) => void) {
  const reels = new Map<string, Map<number, File>>();
  const reel = (source: Source): Map<number, File> => {
    let known = reels.get(source.key);
    if (!known) reels.set(source.key, (known = shallowReactive(new Map<number, File>())));
    return known;
  };
  const moments = shallowRef<Moment[]>([]);
  const playing = ref(false);
  const preparing = ref(false);
  const dropped = ref(0);
  /** The frame of another shot that is being shown. */
  const elsewhere = ref<number | null>(null);
  let making: Making = { order: [], lanes: new Set(), stop: new AbortController() };
  const resting = useTimeoutFn(() => void make(1), REST, { immediate: false });
  let aimed = '';

  const main = computed(() => moments.value.find((m) => m.source.shot === shotId)?.source ?? null);
  const ready = computed<ReadonlyMap<number, File>>(() => (main.value ? reel(main.value) : new Map<number, File>()));
  const isReady = (m: { source: Source; frame: number }): boolean => reel(m.source).has(m.frame);
  const share = computed(() => (moments.value.length === 0 ? 0 : moments.value.filter((m) => isReady(m) && (!m.beside || isReady(m.beside))).length / moments.value.length));

  /**
   * What is to be played, in order. Going to another view or span goes on playing; what was made for another revision is
   * thrown away.
   *
   * @param revision of the recipe that all of it shows
   * @param unasked  whether it may be made ready in the background
   */
  function aim(revision: string, what: Moment[], unasked: boolean): void {
    const keys = what.flatMap((m) => [m.source.key, ...(m.beside ? [m.beside.source.key] : [])]);
    const now = JSON.stringify([revision, what[0]?.frame, what.at(-1)?.frame, [...new Set(keys)]]);
    moments.value = what;
    if (now === aimed) {
      if (playing.value || preparing.value) return;
      if (!unasked) leave();
      else if (making.lanes.size === 0) resting.start();
      return;
    }
    const stays = aimed.startsWith(JSON.stringify([revision]).slice(0, -1));
    aimed = now;
    leave();
    if (!stays) {
      halt();
      reels.clear();
    }
    for (const key of [...reels.keys()].filter((k) => !keys.includes(k)).slice(0, Math.max(0, reels.size - KEPT))) reels.delete(key);
    if (playing.value) void make(LANES);
    else if (unasked) resting.start();
  }

  /** Stops making pictures; what is ready stays. */
  function leave(): void {
    resting.stop();
    making.stop.abort();
    making = { order: [], lanes: new Set(), stop: new AbortController() };
    preparing.value = false;
  }

  /** Where in what is to be played the playhead stands. */
  const standing = (): number => Math.max(0, moments.value.findIndex((m) => m.source.shot === shotId && m.frame === playhead.frame.value));

  /** Makes what is not ready yet, nearest after the playhead first, by so many at a time; done when all of it is. */
  async function make(lanes: number): Promise<void> {
    const own = making;
    if (own.lanes.size === 0) {
      const from = standing();
      own.order = [...moments.value.slice(from), ...moments.value.slice(0, from)].flatMap((m) => (m.beside ? [m, m.beside] : [m])).filter((m) => !isReady(m));
    }
    const lane = async (): Promise<void> => {
      try {
        for (let m = own.order.shift(); m && !own.stop.signal.aborted; m = own.order.shift()) {
          const picture = await api.pictureFile(m.source.shot, { ...m.source.request, frame: m.frame }, own.stop.signal);
          if (!own.stop.signal.aborted) reel(m.source).set(m.frame, picture);
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
    if (share.value === 1) return true;
    if (moments.value.length === 0 || preparing.value) return false;
    preparing.value = true;
    const { signal } = making.stop;
    await make(LANES);
    if (!signal.aborted) preparing.value = false;
    return share.value === 1;
  }

  async function decoded(m: { source: Source; frame: number }): Promise<Picture> {
    const known = reel(m.source).get(m.frame);
    if (!known) throw new Error('not ready');
    return { image: await createImageBitmap(known.file), place: known.place };
  }

  /** The run that is being played: where it began, what is shown, and what comes next, already decoded. */
  let run: { first: number; began: number; shown: number; coming: { at: number; of: Moment; pictures: Promise<[Picture, Picture | null]> } | null; waiting: boolean } | null = null;
  const load = (m: Moment): Promise<[Picture, Picture | null]> => Promise.all([decoded(m), m.beside ? decoded(m.beside) : null]);
  const frames = useRafFn(() => void tick(), { immediate: false });

  async function play(): Promise<void> {
    if (playing.value || preparing.value) {
      halt();
      leave();
      return;
    }
    if (!(await prepare())) return;
    playing.value = true;
    dropped.value = 0;
    run = { first: standing(), began: performance.now(), shown: -1, coming: null, waiting: false };
    frames.resume();
  }
  /** Shows the moment that the clock has come to, unless the one before is still being decoded. */
  async function tick(): Promise<void> {
    const own = run;
    if (!own || own.waiting) return;
    const now = own.first + Math.floor(((performance.now() - own.began) * fps) / 1000);
    const moment = moments.value[now % moments.value.length];
    if (now === own.shown || !moment) return;
    own.waiting = true;
    const pictures = await (own.coming?.at === now && own.coming.of === moment ? own.coming.pictures : load(moment)).catch(() => null);
    own.waiting = false;
    if (!pictures || run !== own) return;
    if (own.shown >= 0 && now > own.shown + 1) dropped.value += now - own.shown - 1;
    own.shown = now;
    elsewhere.value = moment.source.shot === shotId ? null : moment.frame;
    if (elsewhere.value === null) playhead.go(moment.frame);
    show(...pictures);
    const next = moments.value[(now + 1) % moments.value.length];
    if (!next) return;
    own.coming = { at: now + 1, of: next, pictures: load(next) };
    own.coming.pictures.catch(() => undefined);
  }

  function halt(): void {
    run = null;
    playing.value = false;
    elsewhere.value = null;
    frames.pause();
  }

  onScopeDispose(() => {
    halt();
    leave();
  });

  return { ready, share, playing, preparing, dropped, elsewhere, aim, play, halt };
}

export type Playback = ReturnType<typeof usePlayback>;

/** The moments of a run of frames of one source, with another laid beside each. */
export function runOf(source: Source, [from, to]: Pair, beside: { source: Source; frameFor: (frame: number) => number } | null): Moment[] {
  return Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => ({ source, frame: from + i, beside: beside && { source: beside.source, frame: beside.frameFor(from + i) } }));
}
