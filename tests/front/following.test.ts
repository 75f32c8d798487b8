/** How an area moves: by itself, on another, corrected by hand; and what is polled while it is followed. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, ref } from 'vue';
import type { Follow, Motions, MotionKey } from '../../resources/app/api/types';
import { apply, type Matrix } from '../../resources/app/bench/outline/geometry';
import type { RecipeStore } from '../../resources/app/bench/recipe/useRecipe';
import { area, bench, ellipse } from './bench';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: (words: string) => said.push(words), fail: (words: string) => said.push(`▲ ${words}`) }) }));
const { api } = await import('../../resources/app/api/client');
const { useFollowing } = await import('../../resources/app/bench/follow/useFollowing');
const { useMotions, weakFrames } = await import('../../resources/app/bench/follow/useMotions');
const { useOutlines } = await import('../../resources/app/bench/outline/useOutlines');

beforeEach(() => {
  said.length = 0;
  vi.restoreAllMocks();
});
afterEach(() => vi.useRealTimers());

function follower(motion: Parameters<typeof area>[2] = {}, matrix?: Matrix) {
  const on = bench([area('a', [ellipse('s')], motion), area('b', [ellipse('r')], { by: 'follow', start: 4, track: { sha256: 'b' } })], 'a', matrix);
  Object.assign(on.motions, { confidence: () => [] });
  const outlines = useOutlines(1, on.store, on.motions, on.playhead, on.areas);
  return { ...on, following: useFollowing(on.store, on.motions, on.playhead, on.areas, outlines) };
}

describe('following', () => {
  it('begins on the frame that is shown, about the middle of the outline, and then asks for it', async () => {
    const { following, the, followed, labels } = follower();
    await following.follow(0, 83);
    expect(the('a').motion).toMatchObject({ by: 'follow', start: 10, span: [0, 83], model: 'similarity', look: { by: 'outline', margin: 0 }, pivot: [0.8, 0.5], track: null });
    expect([followed, labels]).toEqual([[['a', null, 10, 0, 83]], ['A: follow']]);
  });

  it('of what is followed already changes nothing before it asks again', async () => {
    const { following, the, followed, labels } = follower({ by: 'follow', start: 3, track: { sha256: 'x' } });
    await following.follow(10, 83);
    expect([the('a').motion.start, the('a').motion.track, followed, labels]).toEqual([3, { sha256: 'x' }, [['a', null, 10, 10, 83]], []]);
  });

  it('of an area without an outline does nothing', async () => {
    const { following, the, followed } = follower();
    the('a').outline.shapes = [];
    await following.follow(0, 83);
    expect(followed).toEqual([]);
  });

  it('gives way to riding and to standing still, which take its track with them', () => {
    const { following, the } = follower({ by: 'follow', start: 3, track: { sha256: 'x' } });
    following.by('ride', 'b');
    expect(the('a').motion).toMatchObject({ by: 'ride', on: 'b' });
    expect('track' in the('a').motion).toBe(false);
    following.by('none');
    expect([the('a').motion.by, 'on' in the('a').motion]).toEqual(['none', false]);
    following.by('follow');
    expect(the('a').motion).toMatchObject({ by: 'follow', start: 10, track: null });
  });

  it('takes another area’s motion as a copy about its own middle', () => {
    const { following, the } = follower();
    following.copyFrom('b');
    expect(the('a').motion).toMatchObject({ by: 'follow', start: 4, track: { sha256: 'b' }, pivot: [0.8, 0.5] });
    (the('b').motion.keys as MotionKey[]).push({ frame: 1 } as MotionKey);
    expect(the('a').motion.keys).toEqual([]);
  });

  it('uses the parts of the motion that are wanted, in the order they act', () => {
    const { following, the } = follower();
    the('a').motion.use = ['position', 'rotation', 'scale', 'shear', 'perspective'];
    following.toggleChannel('rotation');
    expect(the('a').motion.use).toEqual(['position', 'scale', 'shear', 'perspective']);
    following.toggleChannel('rotation');
    expect(the('a').motion.use).toEqual(['position', 'rotation', 'scale', 'shear', 'perspective']);
  });

  it('keeps spots where the outline is stated, two at most', () => {
    const shifted: Matrix = [1, 0, 0.1, 0, 1, -0.2, 0, 0, 1];
    const { following, the } = follower({ by: 'follow', start: 3 }, shifted);
    for (const at of [[0.5, 0.5], [0.6, 0.5], [0.7, 0.5]] as [number, number][]) following.addSpot(at);
    expect(the('a').motion.look).toEqual({ by: 'spots', spots: [[0.5, 0.7], [0.6, 0.7]], radius: 0.03 });
  });
});

describe('a correction', () => {
  it('keys this frame and the frame it all started from, where nothing may move', () => {
    const { following, the, frame, labels } = follower({ by: 'follow', start: 3 });
    frame.value = 40;
    following.correct({ move: [0.01, 0], turn: 2, scale: 1.1 });
    following.correct({ move: [0.02, 0.01], turn: 5, scale: 1.2 });
    following.corrected();
    expect(the('a').motion.keys).toEqual([
      { frame: 3, move: [0, 0], turn: 0, scale: 1, shear: 0, ease: 'smooth' },
      { frame: 40, move: [0.02, 0.01], turn: 5, scale: 1.2, shear: 0, ease: 'smooth' },
    ]);
    expect(labels).toEqual(['A: correct frame 40']);
  });

  it('goes on top of what was keyed, counted from where the drag began', () => {
    const { following, the, frame } = follower({ by: 'follow', start: 3 });
    frame.value = 40;
    following.correct({ move: [0.1, 0], turn: 0, scale: 2 });
    following.corrected();
    following.correct({ move: [0.05, 0], turn: 0, scale: 1.5 });
    following.correct({ move: [0.1, 0.1], turn: 0, scale: 1.5 });
    following.corrected();
    expect(the('a').motion.keys.at(-1)).toMatchObject({ frame: 40, move: [0.2, 0.1], scale: 3 });
    following.removeKey(40);
    expect(the('a').motion.keys.map((k) => k.frame)).toEqual([3]);
  });

  it('is seen while it is dragged: the whole turns about its own place and moves', () => {
    const { following } = follower({ by: 'follow', start: 3 });
    following.correct({ move: [0.1, 0], turn: 90, scale: 2 });
    const seen = following.withLive([1, 0, 0, 0, 1, 0, 0, 0, 1], [0.5, 0.5]);
    const [cx, cy] = apply(seen, [0.5, 0.5]);
    expect([cx.toFixed(6), cy.toFixed(6)]).toEqual(['0.600000', '0.500000']);
    const [x, y] = apply(seen, [0.6, 0.5]);
    expect([x.toFixed(6), y.toFixed(6)]).toEqual(['0.600000', '0.700000']);
  });
});

describe('the blink guard', () => {
  it('is keyed by hand on this frame, in order, and left to the lids again', () => {
    const { following, the, frame } = follower();
    following.toggleGuard();
    following.keyGuard(0);
    frame.value = 5;
    following.keyGuard(1);
    following.keyGuard(0);
    expect([the('a').blinkGuard.on, the('a').blinkGuard.keys.map((k) => [k.frame, k.value])]).toEqual([true, [[5, 0], [10, 0]]]);
    following.keyGuard(null);
    expect(the('a').blinkGuard.keys.map((k) => k.frame)).toEqual([10]);
  });
});

describe('motions', () => {
  const motions = (): Motions => ({ from: 10, to: 13, areas: { a: { matrices: [[1], [2], [3], [4]], confidence: [1, 0.9, 0.8, 0.7], states: ['set', 'followed', 'followed', 'followed'], open: [1, 1, 0.2, 1], shapes: { s: { matrices: [[5], [6], [7], [8]], shifts: { 11: [[0.1, 0.2]] } } } } } }) as unknown as Motions;
  const followOf = (state: Follow['state'], steps: [number, number, string][] = []): Follow => ({ id: 1, area: 'a', shape: null, state, steps, message: null, person: null }) as unknown as Follow;
  function moving() {
    vi.useFakeTimers();
    const loads = vi.fn(() => Promise.resolve());
    const store = { saved: ref(null), unsaved: ref(false), settled: () => Promise.resolve(), load: loads } as unknown as RecipeStore;
    const scope = effectScope();
    return { own: scope.run(() => useMotions(1, store)) as ReturnType<typeof useMotions>, scope, loads };
  }

  it('are told by frame, of the area or of a shape that has its own', async () => {
    vi.spyOn(api, 'motions').mockResolvedValue(motions());
    const { own } = moving();
    expect(own.matrix('a', 11)).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1]);
    await own.load();
    expect([own.matrix('a', 11), own.shapeMatrix('a', 's', 12), own.shapeMatrix('a', 'other', 12)]).toEqual([[2], [7], [3]]);
    expect([own.shifts('a', 's', 11), own.shifts('a', 's', 12), own.open('a')[2]]).toEqual([[[0.1, 0.2]], null, 0.2]);
  });

  it('while they are looked for show what has been found so far, five times a second', async () => {
    vi.spyOn(api, 'motions').mockResolvedValue(motions());
    vi.spyOn(api, 'follow').mockResolvedValue(undefined as never);
    const polled = vi.spyOn(api, 'follows').mockResolvedValue([followOf('following', [[11, 0.3, 'followed']])]);
    const { own, scope } = moving();
    await own.load();
    await own.follow('a', null, 10, 10, 13);
    expect([own.confidence('a'), own.openFor('a')?.id]).toEqual([[1, 0.3, 0.8, 0.7], 1]);
    polled.mockResolvedValue([followOf('following', [[11, 0.3, 'followed'], [12, 0, 'lost']])]);
    await vi.advanceTimersByTimeAsync(210);
    expect([own.confidence('a')[2], own.states('a')[2]]).toEqual([0, 'lost']);
    scope.stop();
  });

  it('are read again once it is over, and polling ends; what went wrong is said', async () => {
    vi.spyOn(api, 'follow').mockResolvedValue(undefined as never);
    const polled = vi.spyOn(api, 'follows').mockResolvedValue([followOf('following')]);
    const { own, loads } = moving();
    await own.follow('a', null, 10, 10, 13);
    polled.mockRejectedValueOnce(new Error('away'));
    await vi.advanceTimersByTimeAsync(210);
    expect(own.openFor('a')).not.toBeNull();
    polled.mockResolvedValue([followOf('stopped')]);
    await vi.advanceTimersByTimeAsync(210);
    const times = polled.mock.calls.length;
    await vi.advanceTimersByTimeAsync(2000);
    expect([loads.mock.calls.length, polled.mock.calls.length, said, own.openFor('a')]).toEqual([1, times, ['Stopped'], null]);
    vi.spyOn(api, 'follow').mockRejectedValue(new Error('no'));
    await own.follow('a', null, 10, 10, 13);
    expect(said.at(-1)).toBe('▲ Following cannot start');
  });

  it('of a person are told once, when the last part is over; until then as one share', async () => {
    vi.spyOn(api, 'followPerson').mockResolvedValue(undefined);
    const part = (id: number, area: string, state: Follow['state'], found: number, message: string | null = null): Follow => ({ id, area, shape: null, state, start: 0, from: 0, to: 10, steps: Array(found).fill([0, 1, 'followed']), message, person: 'p' }) as Follow;
    const polled = vi.spyOn(api, 'follows').mockResolvedValue([part(1, 'face', 'following', 5), part(2, 'lips', 'waiting', 0)]);
    const { own } = moving();
    said.length = 0;
    await own.followPerson('face', 0, 0, 10);
    expect(own.personFor('lips')).toMatchObject({ done: 5, of: 20, follow: { person: 'p' } });
    expect(own.personFor('other')).toBeNull();
    polled.mockResolvedValue([part(1, 'face', 'done', 10), part(2, 'lips', 'following', 4)]);
    await vi.advanceTimersByTimeAsync(210);
    expect([own.personFor('face')?.done, said]).toEqual([14, []]);
    polled.mockResolvedValue([part(1, 'face', 'done', 10, 'Nothing is weak.'), part(2, 'lips', 'failed', 4, 'No edge.')]);
    await vi.advanceTimersByTimeAsync(210);
    expect([own.personFor('face'), said]).toEqual([null, ['▲ Not everything could be followed', 'The person is followed']]);
  });

  it('weak frames are the deepest dips, apart from each other', () => {
    const confidence = Array.from({ length: 40 }, () => 0.9);
    Object.assign(confidence, { 5: 0.3, 7: 0.2, 20: 0.35, 30: 0.1, 39: 0.39 });
    expect(weakFrames(confidence, 100)).toEqual([130, 107, 120]);
    expect(weakFrames(confidence, 100, 0.4, 9, 1)).toEqual([130, 107, 105, 120, 139]);
    expect(weakFrames([null, null], 0)).toEqual([]);
  });
});
