import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { computed, ref } from 'vue';
import type { Alike, Cure, Recipe, Shot } from '../../resources/app/api/types';
import { counts, EVERYTHING, filtered } from '../../resources/app/jobs/filters';

vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ fail: () => null, say: () => null }) }));
const { api } = await import('../../resources/app/api/client');
const { useAnother } = await import('../../resources/app/bench/judge/useAnother');
const { useTakenIn } = await import('../../resources/app/jobs/useTakenIn');

beforeEach(() => {
  vi.restoreAllMocks();
  vi.useFakeTimers();
});

describe('the shots of a job', () => {
  const shot = (name: string, more: Partial<Shot> = {}, person: string | null = null): Shot =>
    ({ id: 1, name, notes: '', archived: false, openNotes: 0, progress: { done: false, telltales: [], areas: [{ person }] }, ...more }) as unknown as Shot;
  const shots = [
    shot('gh010', { notes: 'Warmer' }, 'ione'),
    shot('gh020', { progress: { done: true, telltales: [], areas: [] } as never }),
    shot('gh030', { openNotes: 2, progress: { done: false, telltales: [{}], areas: [{ person: 'ione' }] } as never }),
    shot('gh040', { archived: true }, 'ione'),
    shot('gh050', { progress: null }),
  ];
  const names = (change: object): string[] => filtered(shots, { ...EVERYTHING, ...change }).map((s) => s.name);

  it('are listed by what is left to do, by who is in them and by words', () => {
    expect(names({})).toEqual(['gh010', 'gh020', 'gh030', 'gh050']);
    expect(names({ which: 'todo' })).toEqual(['gh010', 'gh030', 'gh050']);
    expect(names({ which: 'telltales' })).toEqual(['gh030']);
    expect(names({ which: 'notes' })).toEqual(['gh030']);
    expect(names({ which: 'done' })).toEqual(['gh020']);
    expect(names({ which: 'away' })).toEqual(['gh040']);
    expect(names({ person: 'ione' })).toEqual(['gh010', 'gh030']);
    expect(names({ words: ' WARM' })).toEqual(['gh010']);
    expect(names({ which: 'todo', person: 'ione', words: 'gh03' })).toEqual(['gh030']);
    expect(counts(shots)).toEqual({ all: 4, todo: 3, telltales: 1, notes: 1, done: 1, away: 1 });
  });
});

describe('a shot beside another', () => {
  const pair = (area: string, apart: number): Alike => ({ area, name: area, other: 'x', here: { mean: [0, 0, 0], contrast: 0, cloud: [] }, there: { mean: [0, 0, 0], contrast: 0, cloud: [] }, apart });
  function make() {
    const near = ref<{ id: number; name: string; frame: number } | null>({ id: 7, name: 'gh020', frame: 3 });
    const previewed = ref<Cure | null>(null);
    const recipe = { base: [] } as unknown as Recipe;
    const edits = ref(0);
    const store = { edits, held: ref<true | null>(null), asked: () => ({}), edit: vi.fn((change: (r: Recipe) => void) => { change(recipe); ++edits.value; }), commit: vi.fn(() => Promise.resolve()) };
    const cures = { previewed, preview: (c: Cure | null) => (previewed.value = c) };
    const another = useAnother(1, store as never, { frame: ref(5) } as never, { neighbour: computed(() => near.value) } as never, cures as never);
    return { near, previewed, recipe, store, edits, another };
  }

  it('is read anew when it rests, and what was ticked away stays so', async () => {
    const read = vi.spyOn(api, 'beside').mockResolvedValue([pair('face', 4), pair('lips', 1)]);
    const { another, edits, near, store } = make();
    await vi.advanceTimersByTimeAsync(500);
    expect(read).toHaveBeenCalledWith(1, { frame: 5, other: 7, otherFrame: 3 });
    expect([...another.ticked.value]).toEqual(['face', 'lips']);
    another.tick('lips');
    for (let i = 0; i < 5; ++i) {
      ++edits.value;
      await vi.advanceTimersByTimeAsync(100);
    }
    await vi.advanceTimersByTimeAsync(500);
    expect(read).toHaveBeenCalledTimes(2);
    expect([[...another.ticked.value], another.cloud.value?.area]).toEqual([['face'], 'face']);
    store.held.value = true;
    ++edits.value;
    await vi.advanceTimersByTimeAsync(500);
    expect(read).toHaveBeenCalledTimes(2);
    store.held.value = null;
    await vi.advanceTimersByTimeAsync(500);
    expect(read).toHaveBeenCalledTimes(3);
    near.value = null;
    await flushPromises();
    expect(another.pairs.value).toEqual([]);
  });

  it('shows what would bring it there before it is taken, as one step', async () => {
    vi.spyOn(api, 'beside').mockResolvedValue([pair('face', 4)]);
    const match = vi.spyOn(api, 'matchTo').mockResolvedValue({ recipe: { base: ['trim'] } as unknown as Recipe, misses: [{ area: 'face', before: 4, after: 0.3 }] });
    const { another, previewed, recipe, store } = make();
    await vi.advanceTimersByTimeAsync(500);
    await another.propose(true);
    expect(match).toHaveBeenCalledWith(1, { frame: 5, other: 7, otherFrame: 3, areas: ['face'], base: true });
    expect([previewed.value?.words, recipe.base]).toEqual(['to gh020', []]);
    await another.take();
    expect([recipe.base, store.commit.mock.calls, previewed.value, another.proposal.value]).toEqual([['trim'], [['Base matched to gh020']], null, null]);
    // What brings it no nearer is not offered.
    match.mockResolvedValue({ recipe: recipe, misses: [{ area: 'face', before: 0.2, after: 0.2 }] });
    await another.propose(false);
    expect([another.proposal.value, previewed.value]).toEqual([null, null]);
  });
});

describe('a bundle', () => {
  const file = { name: 'night.bundle.zip', size: 10, slice: () => new Blob() } as unknown as File;
  it('is sent, taken in, and tells what came of it', async () => {
    vi.spyOn(api, 'beginUpload').mockResolvedValue({ id: 'u', received: 0, size: 10, told: null });
    vi.spyOn(api, 'sendPiece').mockResolvedValue({ received: 10 });
    vi.spyOn(api, 'takeBundle').mockResolvedValue({ id: 'u', received: 10, size: 10, told: { state: 'reading' } });
    const ask = vi.spyOn(api, 'upload').mockResolvedValueOnce({ id: 'u', received: 10, size: 10, told: { state: 'reading' } }).mockResolvedValueOnce({ id: 'u', received: 10, size: 10, told: { state: 'done', job: 4, told: ['gh010 came in.'] } });
    const done = vi.fn();
    const bundle = useTakenIn(null, api.takeBundle, done);
    const sent = bundle.send(file);
    await vi.advanceTimersByTimeAsync(3000);
    await sent;
    expect([ask.mock.calls.length, done.mock.calls, bundle.told.value, bundle.problem.value]).toEqual([2, [[4]], ['gh010 came in.'], null]);
    ask.mockResolvedValue({ id: 'u', received: 10, size: 10, told: { state: 'failed', message: 'This bundle cannot be taken in.' } });
    const again = bundle.send(file);
    await vi.advanceTimersByTimeAsync(3000);
    await again;
    expect([bundle.problem.value, done.mock.calls.length]).toEqual(['This bundle cannot be taken in.', 1]);
  });
});
