/** Comparing, going back, tell-tales and their cures: what is asked for, when, and what is shown of it. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { computed, effectScope, nextTick, ref } from 'vue';
import type { Cure, Finding, PictureRequest, Recipe, RecipeState, Revision, Shot, Telltales, Version } from '../../resources/app/api/types';
import type { Panel } from '../../resources/app/bench/bench';
import type { RecipeStore } from '../../resources/app/bench/recipe/useRecipe';
import { area, bench, ellipse } from './bench';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: (words: string) => said.push(words), fail: (words: string) => said.push(`▲ ${words}`) }) }));
const { api } = await import('../../resources/app/api/client');
const { useCompare } = await import('../../resources/app/bench/judge/useCompare');
const { useCures } = await import('../../resources/app/bench/judge/useCures');
const { useHistory } = await import('../../resources/app/bench/judge/useHistory');
const { useTelltales } = await import('../../resources/app/bench/judge/useTelltales');

const place: [number, number, number, number] = [0, 0, 1, 1];
const settle = () => new Promise((done) => setTimeout(done));
beforeEach(() => {
  said.length = 0;
  vi.restoreAllMocks();
  vi.stubGlobal('createImageBitmap', (file: unknown) => Promise.resolve(file));
});
afterEach(() => vi.useRealTimers());

/** A store whose revision and saved state are turned by hand. */
function stored(revision = 5) {
  const at = ref(revision);
  const unsaved = ref(false);
  const edits = ref(0);
  const adopted: RecipeState[] = [];
  const store = { revision: computed(() => at.value), unsaved, edits, recipe: ref({ areas: [{ touches: [{}] }] }), settled: () => Promise.resolve(), adopt: (s: RecipeState) => adopted.push(s), restore: async (move: (shot: number, base: number) => Promise<RecipeState>) => adopted.push(await move(1, at.value)) } as unknown as RecipeStore;
  return { store, at, unsaved, edits, adopted };
}

describe('what a picture is compared with', () => {
  const request: PictureRequest = { frame: 40, view: 'result', area: 'a', height: 540, window: [0, 0, 1, 1], recipe: {} as Recipe, revision: 3 };

  it('is the original by itself: no recipe, no earlier revision', () => {
    const compare = useCompare(1, stored().store);
    expect(compare.asked(request, 'a')).toEqual({ shot: 1, request: { frame: 40, view: 'original', area: null, height: 540, window: [0, 0, 1, 1] } });
    expect(compare.words.value).toBe('the original');
  });

  it('is the base or the shot without the area as the recipe on screen has them', () => {
    const compare = useCompare(1, stored().store);
    compare.choose('base');
    expect(compare.asked(request, 'a').request).toMatchObject({ view: 'base', area: null, recipe: {} });
    compare.choose('without');
    expect(compare.asked(request, 'a').request).toMatchObject({ view: 'without', area: 'a', recipe: {} });
    expect([compare.layout.value, compare.words.value]).toEqual(['split', 'without this area']);
  });

  it('is a kept version by its revision, and the original again once that is removed', async () => {
    const version: Version = { id: 9, name: 'Approved', revision: 4 } as Version;
    vi.spyOn(api, 'versions').mockResolvedValueOnce([version]).mockResolvedValueOnce([]);
    vi.spyOn(api, 'removeVersion').mockResolvedValue(undefined as never);
    const compare = useCompare(1, stored().store);
    await compare.load();
    compare.choose(9);
    expect(compare.asked(request, 'a').request).toEqual({ frame: 40, view: 'result', area: null, height: 540, window: [0, 0, 1, 1], revision: 4 });
    expect(compare.words.value).toBe('Approved');
    await compare.remove(9);
    expect([compare.against.value, compare.versions.value]).toEqual(['original', []]);
  });

  it('is another shot on its own frame, never this one or one that is still read', () => {
    const compare = useCompare(1, stored().store);
    compare.meet([{ id: 1, state: 'ready' }, { id: 2, name: 'laugh', state: 'ready', from: 3, to: 60, revision: 7 }, { id: 3, state: 'reading' }] as Shot[]);
    expect(compare.neighbours.value.map((n) => n.id)).toEqual([2]);
    compare.choose('shot 2');
    compare.turn(33);
    expect(compare.asked(request, 'a')).toEqual({ shot: 2, request: { frame: 33, view: 'result', area: null, height: 540 } });
    expect(compare.words.value).toBe('laugh');
  });

  it('is asked for once, again when what it shows has changed, and again after it failed', async () => {
    const asked = vi.spyOn(api, 'picture').mockResolvedValue({ file: new Blob(['x']), place, whole: true });
    const compare = useCompare(1, stored().store);
    await compare.show(request, 5, 'a');
    expect(asked).not.toHaveBeenCalled();
    compare.toggle('split');
    await compare.show(request, 5, 'a');
    await compare.show(request, 5, 'a');
    await compare.show(request, 6, 'a');
    expect(asked).toHaveBeenCalledTimes(1);
    compare.choose('base');
    await compare.show(request, 6, 'a');
    await compare.show(request, 7, 'a');
    expect(asked).toHaveBeenCalledTimes(3);
    asked.mockRejectedValueOnce(new Error('away'));
    await compare.show(request, 8, 'a');
    await compare.show(request, 8, 'a');
    expect([asked.mock.calls.length, said]).toEqual([5, ['▲ What it is compared with cannot be shown']]);
  });

  it('keeps the newest of two answers', async () => {
    const answers: ((name: string) => void)[] = [];
    vi.spyOn(api, 'picture').mockImplementation(() => new Promise((done) => answers.push((name) => done({ file: { name } as unknown as Blob, place, whole: true }))));
    const compare = useCompare(1, stored().store);
    compare.toggle('side');
    const first = compare.show({ ...request, frame: 1 }, 5, 'a');
    const second = compare.show({ ...request, frame: 2 }, 5, 'a');
    answers[1]?.('newer');
    answers[0]?.('older');
    await Promise.all([first, second]);
    expect(compare.other.value.map((p) => (p.image as unknown as { name: string }).name)).toEqual(['newer']);
  });
});

describe('the history', () => {
  const line = (revision: number): Revision => ({ revision, label: `step ${revision}`, createdAt: '2026-01-01T00:00:00Z' }) as Revision;
  function open() {
    const { store, at, edits, adopted } = stored(6);
    const panel = ref<Panel | null>(null);
    const history = useHistory(1, store, panel);
    return { history, panel, at, edits, adopted };
  }

  it('is read when it is opened, again after each step, and further back when asked', async () => {
    const read = vi.spyOn(api, 'history').mockImplementation((_shot, before) => Promise.resolve(before === undefined ? [line(6), line(5)] : [line(4), line(1)]));
    const { history, panel, at } = open();
    panel.value = 'history';
    await nextTick();
    await settle();
    expect([history.list.value.map((r) => r.revision), history.complete.value]).toEqual([[6, 5], false]);
    await history.more();
    expect([history.list.value.map((r) => r.revision), history.complete.value, read.mock.lastCall]).toEqual([[6, 5, 4, 1], true, [1, 5]]);
    at.value = 7;
    await nextTick();
    expect(read).toHaveBeenCalledTimes(3);
  });

  it('looks at one state, lets go of it by a second click, an edit or when it is closed', async () => {
    vi.spyOn(api, 'history').mockResolvedValue([line(6), line(5), line(4)]);
    const { history, panel, edits } = open();
    panel.value = 'history';
    await nextTick();
    await settle();
    history.look(4);
    expect([history.looked.value, history.words.value]).toEqual([4, 'step 4']);
    history.look(4);
    expect(history.looked.value).toBeNull();
    history.look(6);
    expect(history.looked.value).toBeNull();
    history.look(5);
    edits.value++;
    await nextTick();
    expect(history.looked.value).toBeNull();
    history.look(5);
    panel.value = null;
    await nextTick();
    expect(history.looked.value).toBeNull();
  });

  it('restores as a step of its own, and says so where that failed', async () => {
    const back = { revision: 7 } as RecipeState;
    vi.spyOn(api, 'restoreRevision').mockResolvedValueOnce(back).mockRejectedValueOnce(new Error('gone'));
    const { history, adopted } = open();
    await history.restore(4);
    expect([adopted, said]).toEqual([[back], ['Back to 4']]);
    expect(api.restoreRevision).toHaveBeenCalledWith(1, 6, 4);
    await history.restore(3);
    expect([adopted.length, said.at(-1)]).toEqual([1, '▲ It was not gone back to']);
  });
});

describe('tell-tales', () => {
  const finding = (telltale: string, rings: boolean): Finding => ({ telltale, area: 'a', rings, worst: 12, spans: [[10, 14]] }) as unknown as Finding;
  const told = (revision: number, more: Partial<Telltales> = {}): Telltales => ({ revision, begun: true, done: 0, total: 14, findings: null, message: null, ...more }) as Telltales;

  it('are looked for at once where they are awaited, after a rest elsewhere, and polled until they are known', async () => {
    vi.useFakeTimers();
    const { store, at } = stored(0);
    const awaited = ref(false);
    const asked = vi.spyOn(api, 'telltales').mockResolvedValue(told(1, { begun: false }));
    const begun = vi.spyOn(api, 'lookOver').mockResolvedValue(told(1, { done: 3 }));
    const scope = effectScope();
    const telltales = scope.run(() => useTelltales(1, store, awaited)) as ReturnType<typeof useTelltales>;
    at.value = 1;
    await vi.advanceTimersByTimeAsync(50);
    expect(begun).not.toHaveBeenCalled();
    await vi.advanceTimersByTimeAsync(8000);
    expect([begun.mock.calls.length, telltales.progress.value]).toEqual([1, { done: 3, total: 14 }]);
    asked.mockResolvedValue(told(1, { done: 14, findings: [finding('halo', true), finding('drift', false)] }));
    await vi.advanceTimersByTimeAsync(800);
    expect([telltales.known.value, telltales.open.value.map((f) => f.telltale), telltales.progress.value]).toEqual([true, ['halo'], null]);
    const polls = asked.mock.calls.length;
    await vi.advanceTimersByTimeAsync(20000);
    expect([asked.mock.calls.length, begun.mock.calls.length]).toEqual([polls, 1]);
    awaited.value = true;
    at.value = 2;
    await vi.advanceTimersByTimeAsync(10);
    expect(begun).toHaveBeenCalledTimes(2);
    scope.stop();
  });

  it('of an older revision, or of what is not saved, are not told as if they were of this one', async () => {
    const { store, at, unsaved } = stored(0);
    vi.spyOn(api, 'telltales').mockResolvedValue(told(1, { findings: [finding('halo', true)] }));
    const telltales = useTelltales(1, store, ref(false));
    at.value = 1;
    await nextTick();
    await settle();
    expect(telltales.open.value.length).toBe(1);
    unsaved.value = true;
    expect(telltales.open.value).toEqual([]);
    unsaved.value = false;
    at.value = 2;
    expect([telltales.open.value, telltales.known.value]).toEqual([[], false]);
  });

  it('say that they cannot be had instead of staying silent', async () => {
    const { store, at } = stored(0);
    vi.spyOn(api, 'telltales').mockRejectedValue(new Error('away'));
    vi.spyOn(api, 'limitTelltale').mockRejectedValue(new Error('away'));
    vi.spyOn(api, 'cures').mockRejectedValue(new Error('away'));
    const telltales = useTelltales(1, store, ref(false));
    at.value = 1;
    await nextTick();
    await settle();
    await telltales.limit('halo', 2);
    expect([telltales.failed.value, said, await telltales.cures(finding('halo', true))]).toEqual([true, ['▲ The limit was not taken'], []]);
  });
});

describe('cures', () => {
  function curing() {
    const { recipe, store, areas, labels, frame } = bench([area('a', [ellipse('s')]), area('b')], 'a');
    const followed: number[][] = [];
    Object.assign(store, { revision: ref(1) });
    const cures = useCures({ from: 0, to: 83 } as Shot, store, areas, { follow: (from: number, to: number) => Promise.resolve(followed.push([from, to])) } as never, (to) => (frame.value = to));
    return { recipe, areas, cures, labels, frame, followed };
  }
  const finding = { telltale: 'over-white', area: 'a', worst: 50 } as Finding;

  it('are one step that says what it does', async () => {
    const { recipe, cures, labels } = curing();
    const cured = JSON.parse(JSON.stringify(recipe.value)) as Recipe;
    Object.assign(cured.areas[0] ?? {}, { strength: 0.5 });
    cures.preview({ words: 'Under a ceiling', recipe: cured, followFrom: null } as Cure);
    expect(recipe.value.areas[0]?.strength).toBe(1);
    await cures.apply(cures.previewed.value as Cure, finding);
    expect([recipe.value.areas[0]?.strength, labels, cures.previewed.value]).toEqual([0.5, ['A, over-white: under a ceiling'], null]);
  });

  it('that can only be followed again go there and follow on towards the worst frame', async () => {
    const { cures, frame, followed } = curing();
    await cures.apply({ words: 'Follow again', recipe: null, followFrom: 30 } as unknown as Cure, finding);
    await cures.apply({ words: 'Follow again', recipe: null, followFrom: 60 } as unknown as Cure, finding);
    expect([frame.value, followed]).toEqual([60, [[30, 83], [0, 60]]]);
  });

  it('are no longer previewed on another area or step', async () => {
    const { areas, cures } = curing();
    cures.preview({ words: 'x', recipe: null, followFrom: 1 } as unknown as Cure);
    areas.choose('b');
    await nextTick();
    expect(cures.previewed.value).toBeNull();
  });
});
