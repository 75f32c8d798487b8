import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick } from 'vue';
import type { Picture, Sent } from '../../resources/app/api/client';
import type { PictureRequest } from '../../resources/app/api/types';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: vi.fn(), fail: (words: string) => said.push(words) }) }));
const { api, ApiError } = await import('../../resources/app/api/client');
const { usePictures } = await import('../../resources/app/bench/picture/usePictures');
const { sourceOf, useReels } = await import('../../resources/app/bench/picture/useReels');
const { usePace } = await import('../../resources/app/bench/time/usePace');
const { runOf, usePlayback } = await import('../../resources/app/bench/time/usePlayback');
const { usePlayhead } = await import('../../resources/app/bench/time/usePlayhead');

const request: PictureRequest = { frame: 5, view: 'result', area: null, height: 90 };
const source = (revision = 1, view: PictureRequest['view'] = 'result') => sourceOf(1, revision, { ...request, view });
/** What was sent, by name; without a name nothing differed. */
const sent = (name: string, whole: boolean): Sent => ({ file: { name, size: name.length } as unknown as Blob, place: [0, 0, 1, 1], whole });
const names = (layers: Picture[]): string[] => layers.map((p) => (p.image as unknown as { of: string }).of);
const settled = () => new Promise((done) => setTimeout(done));

beforeEach(() => {
  vi.restoreAllMocks();
  said.length = 0;
  sessionStorage.clear();
  vi.stubGlobal('createImageBitmap', (file: { name: string }) => Promise.resolve({ of: file.name }));
});
afterEach(() => vi.useRealTimers());

describe('reels', () => {
  it('keep a whole through edits and lay over it what differs', async () => {
    const reels = useReels();
    expect([reels.ready(source(), 5), reels.standing(source(), 5)]).toEqual([false, null]);
    reels.take(source(1), 5, sent('whole', true), null, 1);
    expect([reels.coarse(source(1), 5), reels.ready(source(2), 5), reels.standing(source(2), 5)?.of]).toEqual([1, false, 1]);
    reels.take(source(2), 5, sent('patch', false), 1, 2);
    expect([reels.coarse(source(2), 5), names(await reels.layers(source(2), 5))]).toEqual([2, ['whole', 'patch']]);
    // Taken back: the whole alone is right again, at once and sharp.
    expect([reels.coarse(source(1), 5), names(await reels.layers(source(1), 5))]).toEqual([1, ['whole']]);
    reels.take(source(3), 5, sent('', false), 1, 3);
    expect([reels.coarse(source(3), 5), names(await reels.layers(source(3), 5))]).toEqual([1, ['whole']]);
    await expect(reels.layers(source(2), 5)).rejects.toThrow();
  });

  it('let a new whole take the place of the old one, but a coarse one only lie over it', async () => {
    const reels = useReels();
    reels.take(source(1), 5, sent('whole', true), null, 1);
    reels.take(source(2), 5, sent('coarse', true), 1, 3);
    expect([reels.standing(source(2), 5)?.of, names(await reels.layers(source(2), 5))]).toEqual([1, ['coarse']]);
    reels.take(source(2), 5, sent('new', true), 1, 1);
    expect([reels.standing(source(2), 5)?.of, names(await reels.layers(source(2), 5))]).toEqual([2, ['new']]);
    // What was made against a whole that is gone by now is of no use.
    reels.take(source(3), 5, sent('late', false), 1, 1);
    expect(reels.ready(source(3), 5)).toBe(false);
  });

  it('know the original as the same through all revisions, and versions by theirs', () => {
    expect([source(4, 'original').revision, source(4).revision, sourceOf(1, 4, { ...request, revision: 2 }).revision]).toEqual([0, 4, 2]);
    expect(source(4).key).toBe(source(7).key);
  });
});

describe('pictures on the stage', () => {
  const stage = () => {
    const reels = useReels();
    const playhead = usePlayhead({ id: 8, from: 0, to: 9 });
    return { reels, playhead, pictures: usePictures(1, reels, playhead) };
  };

  it('are made one at a time; of those asked for meanwhile only the newest', async () => {
    const asked: number[] = [];
    const answers: (() => void)[] = [];
    vi.spyOn(api, 'picture').mockImplementation((_shot, r) => {
      asked.push(r.frame);
      return new Promise((done) => answers.push(() => done(sent(`frame ${r.frame}`, true))));
    });
    const { pictures } = stage();
    for (const frame of [1, 2, 3, 4]) pictures.want({ ...request, frame }, 90, 1);
    await settled();
    expect([asked, pictures.busy.value]).toEqual([[1], true]);
    answers[0]?.();
    await settled();
    expect(asked).toEqual([1, 4]);
    answers[1]?.();
    await settled();
    expect([names(pictures.layers.value), pictures.busy.value]).toEqual([['frame 4'], false]);
  });

  it('are asked for again by themselves while what they need is being measured', async () => {
    const answers = [() => Promise.reject(new ApiError(503, '26 of 84 are.', null, 0.01)), () => Promise.resolve(sent('there', true)), () => Promise.reject(new ApiError(503, 'Too busy.'))];
    vi.spyOn(api, 'picture').mockImplementation(() => (answers.shift() ?? (() => Promise.reject(new Error('asked too often'))))());
    const { pictures } = stage();
    pictures.want({ ...request, frame: 1 }, 90, 1);
    await settled();
    expect([pictures.waits.value, pictures.busy.value, said]).toEqual(['26 of 84 are.', true, []]);
    await vi.waitFor(() => expect(pictures.busy.value).toBe(false));
    expect([names(pictures.layers.value), pictures.waits.value]).toEqual([['there'], null]);
    pictures.want({ ...request, frame: 3 }, 90, 1);
    await settled();
    expect([pictures.failure.value, pictures.waits.value, said]).toEqual(['Too busy.', null, ['The picture cannot be made']]);
  });

  it('bring the frame of what lies over them; until they are there that stays', async () => {
    let answer = (): void => undefined;
    vi.spyOn(api, 'picture').mockImplementation((_shot, r) => new Promise((done) => (answer = () => done(sent(`frame ${r.frame}`, true)))));
    const { pictures, playhead } = stage();
    playhead.go(2);
    pictures.want({ ...request, frame: 2 }, 90, 1);
    answer();
    await settled();
    playhead.go(7);
    pictures.want({ ...request, frame: 7 }, 90, 1);
    await settled();
    expect([playhead.frame.value, playhead.shown.value, playhead.late.value]).toEqual([7, 2, true]);
    answer();
    await settled();
    expect([playhead.shown.value, playhead.late.value]).toEqual([7, false]);
    // What is kept is shown at once, and its frame with it.
    playhead.go(2);
    pictures.want({ ...request, frame: 2 }, 90, 1);
    await settled();
    expect([playhead.shown.value, names(pictures.layers.value)]).toEqual([2, ['frame 2']]);
  });

  it('are asked for against what stands; while something is dragged reduced, and the whole stays', async () => {
    const asked: (number | undefined)[][] = [];
    const answer: Sent[] = [sent('whole', true), sent('drag', false), sent('all', true), sent('patch', false), sent('', false)];
    vi.spyOn(api, 'picture').mockImplementation((_shot, r) => {
      asked.push([r.standing, r.height]);
      return Promise.resolve(answer.shift() as Sent);
    });
    const { pictures, reels } = stage();
    const want = async (height: number, saved: number | null): Promise<string[]> => {
      pictures.want({ ...request, height, ...(saved === null ? { recipe: {} as never } : {}) }, 90, saved);
      await settled();
      return names(pictures.layers.value);
    };
    expect(await want(90, 1)).toEqual(['whole']);
    expect(await want(45, null)).toEqual(['whole', 'drag']);
    expect(await want(45, null)).toEqual(['all']);
    expect(await want(90, 2)).toEqual(['whole', 'patch']);
    expect(await want(90, 3)).toEqual(['whole']);
    // What stands of a revision is not asked for again.
    expect(await want(90, 1)).toEqual(['whole']);
    expect(asked).toEqual([[undefined, 90], [1, 45], [1, 45], [1, 90], [1, 90]]);
    expect(reels.ready(source(3), 5)).toBe(true);
  });

  it('are coarser for as long as one drags, where they would lag behind the hand', async () => {
    let takes = 20;
    let now = 0;
    vi.spyOn(performance, 'now').mockImplementation(() => now);
    vi.spyOn(api, 'picture').mockImplementation(() => {
      now += takes;
      return Promise.resolve(sent('drag', false));
    });
    const { pictures } = stage();
    const drag = async (height = pictures.dragged(540)): Promise<number> => {
      pictures.want({ ...request, height }, 540, null);
      await settled();
      return height;
    };
    expect([await drag(), await drag()]).toEqual([270, 270]);
    takes = 90;
    expect([await drag(), await drag()]).toEqual([270, 180]);
    takes = 20;
    expect([await drag(), await drag(540), await drag()]).toEqual([180, 540, 270]);
  });

  it('are of the very revision they are kept as, and the original of none', async () => {
    const asked: (number | undefined)[] = [];
    vi.spyOn(api, 'picture').mockImplementation((_shot, r) => {
      asked.push(r.revision, r.standing);
      return Promise.resolve(sent(r.view, true));
    });
    const { pictures } = stage();
    const want = async (view: PictureRequest['view'], height: number, saved: number | null): Promise<string[]> => {
      pictures.want({ ...request, view, height }, 90, saved);
      await settled();
      return names(pictures.layers.value);
    };
    await want('result', 90, 7);
    expect(asked).toEqual([7, undefined]);
    expect([source(7).request.revision, source(7, 'original').request.revision]).toEqual([7, undefined]);
    // Dragged while the original is looked at: it stands, of no revision that could be asked against.
    expect([await want('original', 90, 7), await want('original', 45, null), asked.length]).toEqual([['original'], ['original'], 4]);
  });

  it('keep the old one and say what is wrong when one cannot be made', async () => {
    vi.spyOn(api, 'picture').mockResolvedValueOnce(sent('one', true)).mockRejectedValueOnce(new Error('gone')).mockResolvedValueOnce(sent('two', true));
    const { pictures } = stage();
    pictures.want({ ...request, frame: 1 }, 90, 1);
    await settled();
    pictures.want({ ...request, frame: 2 }, 90, 1);
    await settled();
    expect([names(pictures.layers.value), pictures.failure.value]).toEqual([['one'], 'gone']);
    pictures.want({ ...request, frame: 2 }, 90, 1);
    await settled();
    expect([names(pictures.layers.value), pictures.failure.value]).toEqual([['two'], null]);
  });
});

describe('the pace', () => {
  it('asks for as sharp pictures as can be made in time', () => {
    const pace = usePace();
    expect([pace.coarse('a', 12), pace.takes('a', 1)]).toEqual([3, null]);
    pace.tell('a', 1, 40);
    expect(pace.takes('a', 2)).toBe(16);
    expect(pace.coarse('a', 12)).toBe(1);
    for (let i = 0; i < 8; ++i) pace.tell('a', 1, 150);
    expect(pace.coarse('a', 12)).toBe(2);
    for (let i = 0; i < 8; ++i) pace.tell('a', 2, 150);
    expect(pace.coarse('a', 12)).toBe(3);
    for (let i = 0; i < 8; ++i) pace.tell('a', 3, 12);
    expect(pace.coarse('a', 12)).toBe(1);
    expect(pace.coarse('b', 12)).toBe(3);
  });
});

/** Playback of ten frames at 10 a second, with animation frames of a clock that is turned by hand; a picture takes so long to make. */
function player(takes = 0) {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance', 'requestAnimationFrame', 'cancelAnimationFrame'] });
  const made: { frame: number; height: number; standing: number | undefined }[] = [];
  vi.spyOn(api, 'pictures').mockImplementation(async (_shot, r, take, signal) => {
    for (const frame of r.frames) {
      if (takes > 0) await new Promise((done) => setTimeout(done, takes / (90 / r.height) ** 2));
      if (signal?.aborted) return;
      made.push({ frame, height: r.height, standing: r.standing });
      take(frame, sent(`${frame}`, r.standing === undefined), false);
    }
  });
  const shown: string[] = [];
  const reels = useReels();
  const scope = effectScope();
  const all = scope.run(() => {
    const playhead = usePlayhead({ id: 9, from: 0, to: 9 });
    playhead.go(3);
    const playback = usePlayback(1, playhead, 10, reels, (layers) => shown.push(names(layers).join('+')));
    return { playhead, playback };
  });
  if (!all) throw new Error('no scope');
  return { ...all, made, shown, scope, reels };
}

describe('playing', () => {
  it('begins at once, from the playhead on, while pictures are made ahead in the order they are shown in', async () => {
    const { playback, playhead, made, shown, scope } = player(40);
    playback.aim(runOf(source(), [0, 9], null), false);
    playback.play();
    expect(playback.playing.value).toBe(true);
    await vi.advanceTimersByTimeAsync(300);
    expect([shown[0], made.length < 10 || made.some((m) => m.height < 90)]).toEqual(['3', true]);
    await vi.advanceTimersByTimeAsync(2000);
    expect([...new Set(made.map((m) => m.frame))].slice(0, 4).sort()).toEqual([3, 4, 5, 6]);
    expect(shown.slice(0, 10)).toEqual(['3', '4', '5', '6', '7', '8', '9', '0', '1', '2']);
    expect(playback.dropped.value).toBe(0);
    playback.halt();
    const rest = playhead.frame.value;
    expect(playhead.shown.value).toBe(rest);
    await vi.advanceTimersByTimeAsync(500);
    expect(playhead.frame.value).toBe(rest);
    scope.stop();
  });

  it('is coarser where pictures take too long, says so, and sharpens while it goes round', async () => {
    const { playback, made, scope } = player(600);
    playback.aim(runOf(source(), [0, 9], null), false);
    playback.play();
    await vi.advanceTimersByTimeAsync(600);
    expect(playback.coarse.value).toBeGreaterThan(1);
    await vi.advanceTimersByTimeAsync(12_000);
    expect(made.some((m) => m.height === 30) || made.some((m) => m.height === 45)).toBe(true);
    expect(playback.coarse.value).toBe(1);
    expect(new Set(made.filter((m) => m.height === 90).map((m) => m.frame)).size).toBe(10);
    const many = made.length;
    await vi.advanceTimersByTimeAsync(2000);
    expect(made.length).toBe(many);
    scope.stop();
  });

  it('after an edit goes on with what differs laid over what stands, and never shows a frame of another state', async () => {
    const { playback, made, shown, scope } = player(20);
    playback.aim(runOf(source(1), [0, 9], null), false);
    playback.play();
    await vi.advanceTimersByTimeAsync(1500);
    playback.aim(runOf(source(2), [0, 9], null), false);
    const before = [made.length, shown.length] as const;
    await vi.advanceTimersByTimeAsync(1500);
    expect(playback.playing.value).toBe(true);
    expect(made.slice(before[0]).every((m) => m.standing === 1)).toBe(true);
    expect(shown.slice(before[1] + 1).every((s) => s === `${s.split('+')[0]}+${s.split('+')[0]}`)).toBe(true);
    scope.stop();
  });

  it('shows nothing of what was while a change is on its way, and goes on once it is known', async () => {
    const { playback, made, shown, scope } = player(10);
    playback.aim(runOf(source(1), [0, 9], null), false);
    playback.play();
    await vi.advanceTimersByTimeAsync(1500);
    playback.wait();
    const before = [made.length, shown.length] as const;
    await vi.advanceTimersByTimeAsync(700);
    expect([made.length, shown.length - before[1] <= 1, playback.playing.value]).toEqual([before[0], true, true]);
    playback.aim(runOf(source(2), [0, 9], null), false);
    await vi.advanceTimersByTimeAsync(700);
    expect([made.length > before[0], shown.at(-1)?.includes('+')]).toEqual([true, true]);
    // Pressed before it is saved: it begins with what is saved.
    playback.halt();
    playback.wait();
    playback.play();
    const then = shown.length;
    await vi.advanceTimersByTimeAsync(500);
    expect(shown.length).toBe(then);
    playback.aim(runOf(source(2), [0, 9], null), false);
    await vi.advanceTimersByTimeAsync(500);
    expect(shown.length).toBeGreaterThan(then);
    scope.stop();
  });

  it('shows the right frame for its time and counts those it could not show', async () => {
    const { playback, shown, scope } = player();
    playback.aim(runOf(source(), [0, 9], null), false);
    playback.play();
    await vi.advanceTimersByTimeAsync(50);
    // Decoding takes three tenths of a second: each picture comes late, and the clock goes on.
    vi.stubGlobal('createImageBitmap', (file: { name: string }) => new Promise((done) => setTimeout(() => done({ of: file.name }), 300)));
    await vi.advanceTimersByTimeAsync(1500);
    expect(playback.dropped.value).toBeGreaterThan(4);
    const frames = shown.map(Number);
    frames.slice(1).forEach((f, i) => expect((f - (frames[i] as number) + 10) % 10).toBeGreaterThan(0));
    scope.stop();
  });

  it('stops and says so when pictures cannot be made', async () => {
    const { playback, scope } = player();
    vi.spyOn(api, 'pictures').mockRejectedValue(new Error('gone'));
    playback.aim(runOf(source(), [0, 9], null), false);
    playback.play();
    await vi.advanceTimersByTimeAsync(50);
    expect([playback.playing.value, said.slice(0, 1)]).toEqual([false, ['It cannot be played on']]);
    scope.stop();
  });

  it('makes ready in the background once nothing has changed for a while, sharp, and stops when it may not', async () => {
    const { playback, made, scope } = player();
    playback.aim(runOf(source(), [0, 9], null), true);
    await vi.advanceTimersByTimeAsync(3900);
    expect(made).toEqual([]);
    await vi.advanceTimersByTimeAsync(200);
    expect(made.map((m) => m.frame)).toEqual([3, 4, 5, 6, 7, 8, 9, 0, 1, 2]);
    expect(made.every((m) => m.height === 90)).toBe(true);
    playback.aim(runOf(source(2), [0, 9], null), true);
    playback.aim(runOf(source(2), [0, 9], null), false);
    await vi.advanceTimersByTimeAsync(9000);
    expect(made.length).toBe(10);
    scope.stop();
  });
});

describe('the playhead', () => {
  it('keeps to whole frames of the span and is left where it was', async () => {
    const scope = effectScope();
    const playhead = scope.run(() => usePlayhead({ id: 7, from: 10, to: 20 })) as ReturnType<typeof usePlayhead>;
    expect(playhead.frame.value).toBe(15);
    playhead.go(12.6);
    playhead.go(99);
    expect(playhead.frame.value).toBe(20);
    playhead.go(13);
    await nextTick();
    scope.stop();
    const again = effectScope().run(() => usePlayhead({ id: 7, from: 10, to: 20 }));
    expect(again?.frame.value).toBe(13);
    sessionStorage.setItem('frame 7', '500');
    expect(effectScope().run(() => usePlayhead({ id: 7, from: 10, to: 20 }))?.frame.value).toBe(20);
  });
});
