import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import type { Recipe, RecipeState } from '../../resources/app/api/types';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: (words: string) => said.push(words), fail: (words: string, why: Error) => said.push(`${words}: ${why.message}`) }) }));

const { ApiError, api } = await import('../../resources/app/api/client');
const { useRecipe } = await import('../../resources/app/bench/recipe/useRecipe');

const recipe = (stops = 0): Recipe => ({ cossel: 'recipe/1', space: 'bt709', source: { sha256: 'a'.repeat(64), span: [0, 83], rate: '24/1', size: [1280, 720] }, assets: {}, base: [{ id: 'b', kind: 'exposure', on: true, amount: 1, stops }], areas: [], finish: [] });
const state = (revision: number, r: Recipe, parent: number | null = revision - 1): RecipeState => ({ revision, parent, undo: 'Light', redo: null, judged: [], recipe: r });
const stopsOf = (r: Recipe | null): unknown => r?.base[0]?.stops;

const light = (r: Recipe, stops: number): void => void Object.assign(r.base[0] ?? {}, { stops });

/** A server that answers saves when it is told to. */
function server() {
  const saves: { base: number; recipe: Recipe; label: string; answer: (s: RecipeState) => void; refuse: (why: unknown) => void }[] = [];
  vi.spyOn(api, 'recipe').mockImplementation(() => Promise.resolve(state(1, recipe(), null)));
  vi.spyOn(api, 'saveRecipe').mockImplementation((_shot, base, r, label) => new Promise((answer, refuse) => saves.push({ base, recipe: JSON.parse(JSON.stringify(r)) as Recipe, label, answer, refuse })));
  return saves;
}
/** A recipe on screen, and how often it had changed until then. */
async function loaded() {
  const saves = server();
  const store = useRecipe(1);
  await store.load();
  return { saves, store, before: store.edits.value };
}
const settled = () => new Promise((done) => setTimeout(done));

beforeEach(() => {
  said.length = 0;
  vi.restoreAllMocks();
});

describe('the recipe on screen', () => {
  it('is saved once a drag is let go, and told as held until then', async () => {
    const { saves, store, before } = await loaded();
    store.pull((r) => light(r, 0.2));
    store.pull((r) => light(r, 0.4));
    expect([store.held.value, store.unsaved.value, store.edits.value - before, saves.length]).toEqual([true, true, 2, 0]);
    expect(stopsOf(store.asked().recipe ?? null)).toBe(0.4);
    const saving = store.commit('Light');
    expect(store.held.value).toBeNull();
    expect(saves.map((s) => [s.base, stopsOf(s.recipe), s.label])).toEqual([[1, 0.4, 'Light']]);
    saves[0]?.answer(state(2, recipe(0.4)));
    await saving;
    // What was on screen is what was saved: nobody who looks at something else is sent back.
    expect([store.unsaved.value, store.revision.value, store.asked(), store.edits.value - before]).toEqual([false, 2, {}, 2]);
  });

  it('is a change of what is on screen where others had changed something meanwhile', async () => {
    const { saves, store, before } = await loaded();
    store.edit((r) => light(r, 0.4));
    const saving = store.commit('Light');
    saves[0]?.answer(state(3, recipe(0.5), 2));
    await saving;
    expect([store.edits.value - before, stopsOf(store.recipe.value)]).toEqual([2, 0.5]);
  });

  it('is kept and saved again when the answer breaks off', async () => {
    vi.spyOn(api, 'recipe').mockImplementation(() => Promise.resolve(state(1, recipe(), null)));
    const answers = ['', JSON.stringify(state(2, recipe(0.4)))];
    vi.stubGlobal('fetch', () => Promise.resolve(new Response(answers.shift(), { headers: { 'Content-Type': 'application/json' } })));
    vi.useFakeTimers();
    const store = useRecipe(1);
    await store.load();
    store.edit((r) => light(r, 0.4));
    const saving = store.commit('Light');
    await vi.advanceTimersByTimeAsync(100);
    expect([store.offline.value, stopsOf(store.recipe.value), said]).toEqual([true, 0.4, []]);
    await vi.advanceTimersByTimeAsync(5000);
    await saving;
    vi.useRealTimers();
    vi.unstubAllGlobals();
    expect([store.offline.value, store.revision.value, stopsOf(store.recipe.value)]).toEqual([false, 2, 0.4]);
  });

  it('queues what is edited while a save is on its way: the next save starts from the answer', async () => {
    const saves = server();
    const store = useRecipe(1);
    await store.load();
    store.edit((r) => light(r, 0.2));
    const saving = store.commit('First');
    store.edit((r) => light(r, 0.5));
    void store.commit('Second');
    saves[0]?.answer(state(2, recipe(0.2)));
    await settled();
    expect(stopsOf(store.recipe.value)).toBe(0.5);
    expect(saves.map((s) => [s.base, stopsOf(s.recipe), s.label])).toEqual([[1, 0.2, 'First'], [2, 0.5, 'Second']]);
    saves[1]?.answer(state(3, recipe(0.5)));
    await saving;
    expect([store.unsaved.value, store.revision.value]).toEqual([false, 3]);
  });

  it('goes back from the state on screen, and shows the newer one where somebody has gone on', async () => {
    server();
    const store = useRecipe(1);
    await store.load();
    const moves: number[][] = [];
    await store.restore((shot, base) => (moves.push([shot, base]), Promise.resolve(state(2, recipe(0.7)))));
    expect([moves, store.revision.value, stopsOf(store.recipe.value)]).toEqual([[[1, 1]], 2, 0.7]);
    await expect(store.restore(() => Promise.reject(new ApiError(409, 'changed elsewhere')))).rejects.toThrow('changed elsewhere');
    expect(store.revision.value).toBe(1);
  });

  it('keeps the old base when others’ edits came in with the answer, so that the server merges', async () => {
    const saves = server();
    const store = useRecipe(1);
    await store.load();
    store.edit((r) => light(r, 0.2));
    void store.commit('First');
    store.edit((r) => light(r, 0.5));
    void store.commit('Second');
    // Somebody else saved revision 2 meanwhile: ours became 3.
    saves[0]?.answer(state(3, recipe(0.2), 2));
    await settled();
    expect(saves[1]?.base).toBe(1);
  });

  it('keeps a change while the server is away and saves it when it is back', async () => {
    vi.useFakeTimers();
    const saves = server();
    const store = useRecipe(1);
    await store.load();
    store.edit((r) => light(r, 0.3));
    void store.commit('Light');
    saves[0]?.refuse(new ApiError(0, 'away'));
    await vi.advanceTimersByTimeAsync(10);
    expect([store.offline.value, stopsOf(store.recipe.value), said]).toEqual([true, 0.3, []]);
    await vi.advanceTimersByTimeAsync(1600);
    expect(saves.length).toBe(2);
    saves[1]?.refuse(new ApiError(503, 'broken'));
    await vi.advanceTimersByTimeAsync(1600);
    saves[2]?.answer(state(2, recipe(0.3)));
    await vi.advanceTimersByTimeAsync(10);
    expect([store.offline.value, store.unsaved.value, saves[2]?.label]).toEqual([false, false, 'Light']);
    vi.useRealTimers();
  });

  it('shows what is there when a change is refused, and says why', async () => {
    const saves = server();
    const store = useRecipe(1);
    await store.load();
    store.edit((r) => light(r, 0.3));
    const saving = store.commit('Light');
    saves[0]?.refuse(new ApiError(409, 'in the same place'));
    await saving;
    expect(said).toEqual(['Changed elsewhere: in the same place']);
    expect([stopsOf(store.recipe.value), store.unsaved.value]).toEqual([0, false]);
  });

  it('undoes from the revision it shows, and shows the newer one where that is not the present any more', async () => {
    server();
    const store = useRecipe(1);
    await store.load();
    const undo = vi.spyOn(api, 'undo').mockRejectedValueOnce(new ApiError(409, 'last by “Theirs”')).mockResolvedValueOnce(state(1, recipe(), null));
    vi.mocked(api.recipe).mockResolvedValueOnce(state(5, recipe(1)));
    await store.undo();
    expect(undo).toHaveBeenLastCalledWith(1, 1);
    expect([store.revision.value, said]).toEqual([5, ['Undo did not work: last by “Theirs”']]);
    await store.undo();
    expect(undo).toHaveBeenLastCalledWith(1, 5);
    await nextTick();
    expect(said.at(-1)).toBe('Undone: Light');
  });
});
