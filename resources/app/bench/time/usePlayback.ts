import { useRafFn, useTimeoutFn } from '@vueuse/core';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { api, type Picture } from '../../api/client';
import type { Pair } from '../../api/types';
import { useNotices } from '../../useNotices';
import type { Coarse, Reels, Source } from '../picture/useReels';
import { usePace } from './usePace';
import type { Playhead } from './usePlayhead';

/** Runs of pictures asked for side by side while somebody waits for them: one for each core that renders. */
const LANES = 2;
/** Milliseconds of making asked for in one go, and frames at the most. */
const RUN: Pair = [200, 6];
/** When nothing has changed for this long what is to be played is made ready in the background, one picture at a time. */
const REST = 4000;
/** Frames that have to be there for playing to begin, and milliseconds after which the first is enough. */
const START: Pair = [8, 250];

/** A picture to be shown, and what is laid beside it or split with it. */
export interface Moment { source: Source; frame: number; beside: { source: Source; frame: number } | null }
interface Piece { source: Source; frame: number }
interface Making { flying: Set<string>; lanes: Set<Promise<void>>; stop: AbortController }
/** What is being played: where it began, when the clock was started, what is shown, and what comes next, already decoded. */
interface Run { first: number; asked: number; began: number | null; shown: number; coming: { at: number; of: Moment; coarse: Coarse; layers: Promise<Layers> } | null; waiting: boolean }
type Layers = [Picture[], Picture[] | null];

/**
 * Playing: it begins at once, at the shot's own rate, by the clock; pictures are made ahead of what is shown, coarser where they
 * could not be made in time otherwise, and sharper while it goes round. What is ready is kept. Frames that could not be shown in
 * time count as dropped.
 */
export function usePlayback(shotId: number, playhead: Playhead, fps: number, reels: Reels, show: (layers: Picture[], beside: Picture[] | null) => void) {
  const moments = shallowRef<Moment[]>([]);
  const playing = ref(false);
  const dropped = ref(0);
  /** How coarse the picture shown is. */
  const coarse = ref<Coarse>(1);
  /** The frame of another shot that is being shown. */
  const elsewhere = ref<number | null>(null);
  const pace = usePace();
  const { fail } = useNotices();
  let making: Making = { flying: new Set(), lanes: new Set(), stop: new AbortController() };
  let run: Run | null = null;
  const resting = useTimeoutFn(() => void make(1), REST, { immediate: false });
  let aimed = '';
  let waiting = false;

  const main = computed(() => moments.value.find((m) => m.source.shot === shotId)?.source ?? null);
  const coarseOf = (m: Moment): Coarse | null => {
    const [own, beside] = [reels.coarse(m.source, m.frame), m.beside ? reels.coarse(m.beside.source, m.beside.frame) : 1];
    return own === null || beside === null ? null : (Math.max(own, beside) as Coarse);
  };

  /**
   * What is to be played, in order. Going to another view, span or state goes on playing.
   *
   * @param unasked whether it may be made ready in the background
   */
  function aim(what: Moment[], unasked: boolean): void {
    const sources = new Map(what.flatMap((m) => [m.source, ...(m.beside ? [m.beside.source] : [])]).map((s) => [s.key, s]));
    const now = JSON.stringify([what[0]?.frame, what.at(-1)?.frame, [...sources.values()].map((s) => [s.key, s.revision])]);
    moments.value = what;
    waiting = false;
    if (now !== aimed) {
      leave();
      reels.keep([...sources.keys()]);
    } else if (!unasked && !playing.value) leave();
    aimed = now;
    if (making.lanes.size > 0) return;
    if (playing.value) void make(LANES);
    else if (unasked) resting.start();
  }

  /** What is shown is no longer right, and what is to be played is not known yet: until it is, nothing is made and the frame stays. */
  function wait(): void {
    leave();
    waiting = true;
  }

  /** Stops making pictures; what is ready stays. */
  function leave(): void {
    resting.stop();
    making.stop.abort();
    making = { flying: new Set(), lanes: new Set(), stop: new AbortController() };
  }

  /** Where in what is to be played the playhead stands. */
  const standing = (): number => Math.max(0, moments.value.findIndex((m) => m.source.shot === shotId && m.frame === playhead.frame.value));
  /** The moment the clock has come to, counted on over every round. */
  const due = (of: Run): number => of.first + (of.began === null ? 0 : Math.floor(((performance.now() - of.began) * fps) / 1000));

  /** What is to be made next, by one of so many lanes: what is missing first, in the order it is shown in; then what is too coarse. */
  function next(own: Making, lanes: number, kept: boolean): { pieces: Piece[]; as: Coarse } | null {
    const many = Math.max(1, moments.value.length);
    // What is late before it is made is not asked for.
    const each = (fps * (moments.value[0]?.beside ? 2 : 1)) / lanes;
    const late = run && run.began !== null && main.value ? 1 + Math.ceil(((pace.takes(paceOf(main.value), pace.coarse(paceOf(main.value), each)) ?? 0) * fps) / 1000) : 0;
    const from = run ? (due(run) + late) % many : standing();
    const order = [...moments.value.slice(from), ...moments.value.slice(0, from)].flatMap((m): Piece[] => (m.beside ? [m, m.beside] : [m]));
    const free = order.map((piece, at) => ({ piece, at })).filter(({ piece }) => !own.flying.has(idOf(piece)));
    const missing = free.filter(({ piece: { source, frame } }) => !reels.ready(source, frame));
    const list = missing.length > 0 ? missing : free.filter(({ piece: { source, frame } }) => reels.coarse(source, frame) !== 1);
    const first = list[0];
    // While it plays one core is left to playing itself.
    if (!first || (missing.length === 0 && run !== null && own.flying.size > 0)) return null;
    const as = missing.length > 0 && run ? pace.coarse(paceOf(first.piece.source), each) : 1;
    const stands = (p: Piece): number | null => reels.standing(p.source, p.frame)?.of ?? null;
    const alike = list.filter(({ piece }) => piece.source.key === first.piece.source.key && stands(piece) === stands(first.piece));
    // Every other one, where the other lane has not taken those between already: frames come in the order they are shown in.
    const stride = alike[1]?.at === first.at + 1 ? lanes : 1;
    const takes = pace.takes(paceOf(first.piece.source), as);
    const most = kept ? RUN[1] : takes === null ? 1 : Math.min(RUN[1], Math.max(1, Math.floor(RUN[0] / takes)));
    return { pieces: alike.filter((_, i) => i % stride === 0).slice(0, most).map(({ piece }) => piece), as };
  }

  async function lane(own: Making, lanes: number): Promise<void> {
    let kept = false;
    for (let todo = next(own, lanes, kept); todo && !own.stop.signal.aborted; todo = next(own, lanes, kept)) {
      const { pieces, as } = todo;
      const { source } = pieces[0] as Piece;
      const revision = reels.standing(source, (pieces[0] as Piece).frame)?.of ?? null;
      const flying = pieces.map(idOf);
      for (const id of flying) own.flying.add(id);
      let since = performance.now();
      try {
        const height = Math.max(16, Math.round(source.request.height / as));
        await api.pictures(source.shot, { ...source.request, height, frames: pieces.map((p) => p.frame), ...(revision === null ? {} : { standing: revision }), full: source.request.height }, (frame, sent, full) => {
          if (own.stop.signal.aborted) return;
          reels.take(source, frame, sent, revision, full ? 1 : as);
          own.flying.delete(idOf({ source, frame }));
          // What was kept says nothing of how long making takes.
          kept = full;
          if (!full) pace.tell(paceOf(source), as, performance.now() - since);
          since = performance.now();
        }, own.stop.signal);
      } finally {
        for (const id of flying) own.flying.delete(id);
      }
    }
  }

  /** Makes what is not ready yet, nearest after what is shown first, by so many at a time; done when all of it is. */
  async function make(lanes: number): Promise<void> {
    const own = making;
    while (own.lanes.size < lanes) {
      const started: Promise<void> = lane(own, lanes)
        // Stopped, or the server is gone: what is ready stays.
        .catch((reason: unknown) => {
          if (own.stop.signal.aborted || !playing.value) return;
          halt();
          fail('It cannot be played on', reason);
        })
        .finally(() => own.lanes.delete(started));
      own.lanes.add(started);
    }
    await Promise.all(own.lanes);
  }

  const load = (m: Moment): Promise<Layers> => Promise.all([reels.layers(m.source, m.frame), m.beside ? reels.layers(m.beside.source, m.beside.frame) : null]);
  const frames = useRafFn(() => void tick(), { immediate: false });

  function play(): void {
    if (playing.value) {
      halt();
      leave();
      return;
    }
    if (moments.value.length === 0) return;
    leave();
    playing.value = true;
    dropped.value = 0;
    run = { first: standing(), asked: performance.now(), began: null, shown: -1, coming: null, waiting: false };
    if (!waiting) void make(LANES);
    frames.resume();
  }

  /** Whether there is enough to begin with. */
  function begins(own: Run): boolean {
    const many = moments.value.length;
    const there = (i: number): boolean => coarseOf(moments.value[(own.first + i) % many] as Moment) !== null;
    const enough = performance.now() - own.asked > START[1] ? 1 : Math.min(START[0], many);
    return Array.from({ length: enough }, (_, i) => there(i)).every(Boolean);
  }

  /** Shows the moment that the clock has come to, if it is ready and the one before is not still being decoded. */
  async function tick(): Promise<void> {
    const own = run;
    if (!own || own.waiting || waiting || moments.value.length === 0) return;
    if (own.began === null) {
      if (!begins(own)) return;
      own.began = performance.now();
    }
    const now = due(own);
    const moment = moments.value[now % moments.value.length] as Moment;
    const shownAs = coarseOf(moment);
    if (now === own.shown || shownAs === null) return;
    own.waiting = true;
    const coming = own.coming?.at === now && own.coming.of === moment && own.coming.coarse === shownAs ? own.coming.layers : load(moment);
    const layers = await coming.catch(() => null);
    own.waiting = false;
    if (!layers || run !== own) return;
    if (own.shown >= 0 && now > own.shown + 1) dropped.value += now - own.shown - 1;
    own.shown = now;
    coarse.value = shownAs;
    elsewhere.value = moment.source.shot === shotId ? null : moment.frame;
    if (elsewhere.value === null) {
      playhead.go(moment.frame);
      playhead.shown.value = moment.frame;
    }
    show(...layers);
    const following = moments.value[(now + 1) % moments.value.length] as Moment;
    const as = coarseOf(following);
    own.coming = as === null ? null : { at: now + 1, of: following, coarse: as, layers: load(following) };
    own.coming?.layers.catch(() => undefined);
  }

  function halt(): void {
    run = null;
    playing.value = false;
    coarse.value = 1;
    elsewhere.value = null;
    frames.pause();
  }

  onScopeDispose(() => {
    halt();
    leave();
  });

  return {
    /** Whether a frame of what is played can be shown as it is now. */
    ready: (frame: number): boolean => main.value !== null && reels.ready(main.value, frame),
    playing,
    dropped,
    coarse,
    elsewhere,
    aim,
    wait,
    play,
    halt,
  };
}

export type Playback = ReturnType<typeof usePlayback>;

/** Each state takes its own time: after an edit more or less of the picture is made. */
const paceOf = ({ key, revision }: Source): string => `${revision} ${key}`;
const idOf = ({ source, frame }: Piece): string => `${frame} ${source.revision} ${source.key}`;

/** The moments of a run of frames of one source, with another laid beside each. */
export function runOf(source: Source, [from, to]: Pair, beside: { source: Source; frameFor: (frame: number) => number } | null): Moment[] {
  return Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => ({ source, frame: from + i, beside: beside && { source: beside.source, frame: beside.frameFor(from + i) } }));
}
