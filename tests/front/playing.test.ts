import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick } from 'vue';
import type { PictureRequest } from '../../resources/app/api/types';

vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: vi.fn(), fail: vi.fn() }) }));
const { api } = await import('../../resources/app/api/client');
const { usePictures } = await import('../../resources/app/bench/picture/usePictures');
const { runOf, usePlayback } = await import('../../resources/app/bench/time/usePlayback');
const { usePlayhead } = await import('../../resources/app/bench/time/usePlayhead');

const place: [number, number, number, number] = [0, 0, 1, 1];
const source = (revision = 1) => ({ key: `s${revision}`, shot: 1, request: { view: 'result', height: 90 } as Omit<PictureRequest, 'frame'> });

beforeEach(() => {
  vi.restoreAllMocks();
  sessionStorage.clear();
  vi.stubGlobal('createImageBitmap', (file: { name: string }) => Promise.resolve({ of: file.name }));
});
afterEach(() => vi.useRealTimers());

describe('pictures on the stage', () => {
  it('are made one at a time; of those asked for meanwhile only the newest', async () => {
    const asked: number[] = [];
    const answers: (() => void)[] = [];
    vi.spyOn(api, 'picture').mockImplementation((_shot, r) => {
      asked.push(r.frame);
      return new Promise((done) => answers.push(() => done({ image: { frame: r.frame } as unknown as ImageBitmap, place })));
    });
    const pictures = usePictures(1);
    for (const frame of [1, 2, 3, 4]) pictures.want({ frame, view: 'result', height: 90 });
    expect([asked, pictures.busy.value]).toEqual([[1], true]);
    answers[0]?.();
    await new Promise((done) => setTimeout(done));
    expect(asked).toEqual([1, 4]);
    answers[1]?.();
    await new Promise((done) => setTimeout(done));
    expect([(pictures.main.value?.image as unknown as { frame: number }).frame, pictures.busy.value]).toEqual([4, false]);
  });

  it('keep the old one and say what is wrong when one cannot be made; a part lies over the whole until the next whole', async () => {
    vi.spyOn(api, 'picture').mockResolvedValueOnce({ image: {} as ImageBitmap, place }).mockRejectedValueOnce(new Error('gone')).mockResolvedValueOnce({ image: {} as ImageBitmap, place });
    const pictures = usePictures(1);
    pictures.want({ frame: 1, view: 'result', height: 90 });
    await new Promise((done) => setTimeout(done));
    const old = pictures.main.value;
    pictures.want({ frame: 2, view: 'result', height: 90 });
    await new Promise((done) => setTimeout(done));
    expect([pictures.main.value, pictures.failure.value]).toEqual([old, 'gone']);
    pictures.want({ frame: 2, view: 'result', height: 90 }, true);
    await new Promise((done) => setTimeout(done));
    expect([pictures.main.value, pictures.patch.value === null, pictures.failure.value]).toEqual([old, false, null]);
    pictures.show({ image: {} as ImageBitmap, place });
    expect(pictures.patch.value).toBeNull();
  });
});

/** Playback of ten frames at 10 a second, with animation frames every 20 ms of a clock that is turned by hand. */
function player() {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance', 'requestAnimationFrame', 'cancelAnimationFrame'] });
  const made: number[] = [];
  vi.spyOn(api, 'pictureFile').mockImplementation((_shot, r) => {
    made.push(r.frame);
    return Promise.resolve({ file: { name: String(r.frame) } as unknown as Blob, place });
  });
  const shown: string[] = [];
  const scope = effectScope();
  const all = scope.run(() => {
    const playhead = usePlayhead({ id: 9, from: 0, to: 9 });
    playhead.go(3);
    const playback = usePlayback(1, playhead, 10, (picture) => shown.push((picture.image as unknown as { of: string }).of));
    return { playhead, playback };
  });
  if (!all) throw new Error('no scope');
  return { ...all, made, shown, scope };
}

describe('playing', () => {
  it('prepares from the playhead on, then shows frames by the clock, round and round', async () => {
    const { playback, playhead, made, shown, scope } = player();
    playback.aim('1', runOf(source(), [0, 9], null), false);
    const playing = playback.play();
    await vi.advanceTimersByTimeAsync(1);
    await playing;
    expect(made.slice(0, 2)).toEqual([3, 4]);
    expect([...made].sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
    await vi.advanceTimersByTimeAsync(1050);
    expect(shown.slice(0, 10)).toEqual(['3', '4', '5', '6', '7', '8', '9', '0', '1', '2']);
    expect([playback.dropped.value, playback.playing.value]).toEqual([0, true]);
    playback.halt();
    const rest = playhead.frame.value;
    await vi.advanceTimersByTimeAsync(500);
    expect(playhead.frame.value).toBe(rest);
    scope.stop();
  });

  it('shows the right frame for its time and counts those it could not show', async () => {
    const { playback, shown, scope } = player();
    playback.aim('1', runOf(source(), [0, 9], null), false);
    const playing = playback.play();
    await vi.advanceTimersByTimeAsync(20);
    await playing;
    await vi.advanceTimersByTimeAsync(30);
    // Decoding takes three tenths of a second: each picture comes late, and the clock goes on.
    vi.stubGlobal('createImageBitmap', (file: { name: string }) => new Promise((done) => setTimeout(() => done({ of: file.name }), 300)));
    await vi.advanceTimersByTimeAsync(1500);
    expect(playback.dropped.value).toBeGreaterThan(4);
    const frames = shown.map(Number);
    frames.slice(1).forEach((f, i) => expect((f - (frames[i] as number) + 10) % 10).toBeGreaterThan(0));
    scope.stop();
  });

  it('throws away what was made for another revision and keeps it for another view', async () => {
    const { playback, made, scope } = player();
    playback.aim('1', runOf(source(), [0, 9], null), false);
    void playback.play();
    await vi.advanceTimersByTimeAsync(10);
    playback.halt();
    expect(playback.share.value).toBe(1);
    playback.aim('1', runOf({ ...source(), key: 'matte' }, [0, 9], null), false);
    expect(playback.share.value).toBe(0);
    playback.aim('1', runOf(source(), [0, 9], null), false);
    expect(playback.share.value).toBe(1);
    playback.aim('2', runOf(source(2), [0, 9], null), false);
    playback.aim('1', runOf(source(), [0, 9], null), false);
    expect(playback.share.value).toBe(0);
    expect(made.length).toBe(10);
    scope.stop();
  });

  it('makes ready in the background once nothing has changed for a while, and stops when it may not', async () => {
    const { playback, made, scope } = player();
    playback.aim('1', runOf(source(), [0, 9], null), true);
    await vi.advanceTimersByTimeAsync(3900);
    expect(made).toEqual([]);
    await vi.advanceTimersByTimeAsync(200);
    expect(made.length).toBe(10);
    playback.aim('2', runOf(source(2), [0, 9], null), true);
    playback.aim('2', runOf(source(2), [0, 9], null), false);
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
