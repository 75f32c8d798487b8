import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { area, bench, ellipse } from './bench';

const said: { words: string; act?: { words: string; act: () => void } }[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: (words: string, _detail: string, act?: { words: string; act: () => void }) => said.push({ words, ...(act ? { act } : {}) }), fail: vi.fn() }) }));
beforeEach(() => (said.length = 0));

const touch = (id: string) => ({ id, kind: 'exposure', on: true, amount: 1, stops: 0.5 });

describe('areas', () => {
  it('are added with the part their name tells, live over the shot', async () => {
    const { areas, recipe, labels } = bench([area('a')], 'a');
    await areas.add('left iris');
    expect(recipe.value.areas[1]).toMatchObject({ id: 'a1', name: 'left iris', part: 'iris', live: { from: 0, to: 83 }, outline: { at: 10 } });
    expect([areas.tab.value, areas.step.value, labels.at(-1)]).toEqual(['a1', 1, 'Add left iris']);
    await areas.add('Hat');
    expect(recipe.value.areas[2]?.part).toBe('other');
  });

  it('are duplicated beside themselves, with ids of their own; with or without their motion', () => {
    const own = { ...area('a', [ellipse('s1'), ellipse('s2')], { by: 'follow', track: { sha256: 'x' }, start: 3, pivot: [0.3, 0.4] }), touches: [touch('t1'), touch('t2')] };
    const { areas, recipe } = bench([own, area('b')], 'a');
    areas.duplicate(true);
    const copy = recipe.value.areas[1];
    expect(recipe.value.areas.map((a) => a.name)).toEqual(['A', 'A copy', 'B']);
    expect(copy?.motion).toMatchObject({ by: 'follow', track: { sha256: 'x' } });
    const ids = recipe.value.areas.flatMap((a) => [a.id, ...a.outline.shapes.map((s) => s.id), ...a.touches.map((t) => t.id)]);
    expect(new Set(ids).size).toBe(ids.length);
    areas.choose('a');
    areas.duplicate(false);
    expect(recipe.value.areas[1]?.motion).toMatchObject({ by: 'none', keys: [], pivot: [0.3, 0.4] });
  });

  it('stay while another rides on them or is made of them; gone, undo is offered at once', () => {
    const { areas, recipe, store } = bench([area('a'), area('b', [], { by: 'ride', on: 'a' }), area('c', [{ id: 's', kind: 'area', join: 'keep', of: 'b', opacity: 1, keys: [] }])], 'a');
    areas.remove();
    areas.choose('b');
    areas.remove();
    expect(said.map((s) => s.words)).toEqual(['▲ A cannot be removed', '▲ B cannot be removed']);
    areas.choose('c');
    const undo = vi.spyOn(store, 'undo');
    areas.remove();
    expect(recipe.value.areas.map((a) => a.id)).toEqual(['a', 'b']);
    expect([areas.tab.value, said.at(-1)?.words, said.at(-1)?.act?.words]).toEqual(['a', 'C is removed', 'Undo']);
    said.at(-1)?.act?.act();
    expect(undo).toHaveBeenCalledOnce();
  });

  it('take another place in the order they act in, and no further than its ends', () => {
    const { areas, recipe, labels } = bench([area('a'), area('b'), area('c')], 'a');
    areas.arrange('a', 1);
    areas.arrange('a', 9);
    expect(recipe.value.areas.map((a) => a.id)).toEqual(['b', 'c', 'a']);
    areas.arrange('a', 9);
    areas.arrange('nobody', 0);
    expect(labels).toEqual(['A: order', 'A: order']);
    expect(areas.letters.value).toEqual({ b: 'A', c: 'B', a: 'C' });
  });

  it('keep their live span in order and their fades within it', () => {
    const { areas, the } = bench([area('a')], 'a');
    areas.live('from', 20);
    areas.live('to', 10);
    expect(the('a').live).toMatchObject({ from: 20, to: 20 });
    areas.live('to', 500);
    areas.live('fadeIn', 50);
    areas.live('fadeOut', 50);
    expect(the('a').live).toEqual({ from: 20, to: 83, fadeIn: 50, fadeOut: 13 });
    areas.live('from', 60);
    expect(the('a').live).toEqual({ from: 60, to: 83, fadeIn: 23, fadeOut: 0 });
    areas.live('from', -3);
    expect(the('a').live.from).toBe(0);
  });

  it('have a strength that is keyed on frames', () => {
    const { areas, the, frame, labels } = bench([area('a')], 'a');
    areas.setStrength(0.5);
    expect(the('a').strength).toBe(0.5);
    areas.keyStrength();
    frame.value = 40;
    areas.setStrength(0);
    expect(the('a').strength).toMatchObject({ value: 0.5, keys: [{ frame: 10, value: 0.5 }, { frame: 40, value: 0 }] });
    expect(labels).toContain('A: strength, keyframe 10');
  });

  it('are renamed, given to somebody and switched off, each a step with its words', () => {
    const { areas, the, labels } = bench([area('a')], 'a');
    areas.rename('Forehead');
    areas.rename('Forehead');
    areas.rename('');
    areas.setPerson('wren', 'Wren');
    areas.setPart('skin');
    areas.toggle();
    expect(the('a')).toMatchObject({ name: 'Forehead', person: 'wren', part: 'skin', on: false });
    expect(labels).toEqual(['A: now Forehead', 'Forehead: of Wren', 'Forehead: part skin', 'Forehead: off']);
  });

  it('another is chosen where the chosen one is gone by undo', async () => {
    const { areas, recipe } = bench([area('a'), area('b')], 'b');
    recipe.value.areas.pop();
    await nextTick();
    expect(areas.tab.value).toBe('a');
    recipe.value.areas.pop();
    await nextTick();
    expect(areas.tab.value).toBe('base');
  });
});
