import { beforeEach, describe, expect, it, vi } from 'vitest';
import { computed, ref } from 'vue';
import { api } from '../../resources/app/api/client';
import type { Area, Carry } from '../../resources/app/api/types';
import type { Areas } from '../../resources/app/bench/areas/useAreas';
import { useCarrying } from '../../resources/app/bench/carry/useCarrying';
import type { RecipeStore } from '../../resources/app/bench/recipe/useRecipe';
import { area, ellipse } from './bench';

vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ fail: () => null, say: () => null }) }));

const touch = { id: 't', kind: 'exposure', side: 'inside', on: true, amount: 1, stops: 1 } as never;
const treated = (id: string, person: string | null): Area => ({ ...area(id, [ellipse('s')]), person, touches: [touch] });
const all = ref<Area[]>([]);
const settled = vi.fn(() => Promise.resolve());
const base = [{ ...(touch as object), id: 'b1' }, { ...(touch as object), id: 'b2' }];
const store = { settled, recipe: ref({ base, finish: [] }) } as unknown as RecipeStore;
const areas = { all: computed(() => all.value), chosen: computed(() => all.value[0] ?? null) } as unknown as Areas;
const carry = (id: number, state: Carry['state']): Carry => ({ id, batch: 'b', shot: { id: 10 + id, name: `s${id}` }, state, message: null, words: [], misses: [], frame: 3 });
const make = () => useCarrying(1, 1, store, areas);

beforeEach(() => {
  all.value = [treated('face', 'maren'), { ...treated('lids', 'maren'), touches: [] }, treated('iris', 'maren'), treated('other', null)];
  vi.restoreAllMocks();
  vi.spyOn(api, 'carryTargets').mockResolvedValue([{ id: 2, name: 'two', knows: true, likely: false, apart: 3 }, { id: 3, name: 'three', knows: false, likely: true, apart: 20 }]);
  vi.spyOn(api, 'carries').mockResolvedValue([]);
});

describe('carrying to other shots', () => {
  it('offers what is done to the person of the chosen area, to the shots that know them', async () => {
    const c = make();
    await c.begin();
    expect([c.person.value, [...c.chosen.value], [...c.shots.value]]).toEqual(['maren', ['face', 'iris'], [2]]);
    expect(api.carryTargets).toHaveBeenCalledWith(1, 'maren');
    await c.choosePerson(null);
    expect([...c.chosen.value]).toEqual(['other']);
  });

  it('goes to the shots that were chosen before, and to what is known of the person last asked for', async () => {
    const c = make();
    c.wanted.value = new Set([3]);
    await c.begin();
    expect([[...c.shots.value], c.looking.value]).toEqual([[3], false]);
    let late: (all: never[]) => void = () => null;
    vi.spyOn(api, 'carryTargets').mockImplementationOnce(() => new Promise((take) => (late = take)));
    const first = c.choosePerson(null);
    expect(c.looking.value).toBe(true);
    await c.choosePerson('maren');
    late([]);
    await first;
    expect([c.targets.value.length, c.looking.value]).toEqual([2, false]);
    // Once asked for they are no more than any others.
    vi.spyOn(api, 'carry').mockResolvedValue([]);
    await c.propose();
    await c.begin();
    expect([...c.shots.value]).toEqual([2]);
  });

  it('is ready when something is chosen and there is somewhere to go', async () => {
    const c = make();
    await c.begin();
    expect(c.ready.value).toBe(true);
    c.tickShot(2);
    expect(c.ready.value).toBe(false);
    c.tickShot(3);
    c.tick('face');
    c.tick('iris');
    expect(c.ready.value).toBe(false);
    c.base.value = true;
    expect(c.ready.value).toBe(true);
  });

  it('asks for proposals of what is saved, and takes each by itself', async () => {
    const asked = vi.spyOn(api, 'carry').mockResolvedValue([carry(1, 'proposed'), carry(2, 'proposed')]);
    vi.spyOn(api, 'takeCarry').mockImplementation((id) => (id === 1 ? Promise.reject(new Error('gone')) : Promise.resolve(carry(id, 'taken'))));
    const c = make();
    await c.begin();
    await c.propose();
    expect(settled).toHaveBeenCalled();
    expect(asked).toHaveBeenCalledWith(1, { areas: ['face', 'iris'], touches: null, base: false, finish: false, replace: false, match: true, shots: [2] });
    await c.take(c.proposed.value);
    expect(c.carries.value.map((x) => x.state)).toEqual(['proposed', 'taken']);
    c.rest();
  });

  it('leaves single touches behind, and nothing at all is nothing to carry', async () => {
    const two = { ...(touch as object), id: 't2' } as never;
    all.value = [{ ...treated('face', 'maren'), touches: [touch, two] }];
    const c = make();
    await c.begin();
    expect(c.only.value).toBeNull();
    c.base.value = true;
    c.leaveTouch('t2');
    c.leaveTouch('b1');
    expect(c.only.value).toEqual(['b2', 't']);
    c.leaveTouch('t2');
    c.leaveTouch('b1');
    expect(c.only.value).toBeNull();
    for (const id of ['t', 't2', 'b1', 'b2']) c.leaveTouch(id);
    expect([c.only.value, c.ready.value]).toEqual([[], false]);
  });

  it('shows what is still open or waits to be looked at, and nothing that is settled', async () => {
    vi.spyOn(api, 'carries').mockResolvedValue([carry(1, 'taken'), carry(2, 'left')]);
    const settledOnes = make();
    await settledOnes.begin();
    expect(settledOnes.carries.value).toEqual([]);
    vi.spyOn(api, 'carries').mockResolvedValue([carry(1, 'taken'), carry(2, 'proposed')]);
    const c = make();
    await c.begin();
    expect(c.carries.value).toHaveLength(2);
    c.again();
    expect(c.carries.value).toEqual([]);
  });
});
