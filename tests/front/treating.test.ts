/** Treating and picking: colours that are read, handles on the picture, eyes as one, samples; the stage and its split line. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick, ref } from 'vue';
import type { AreaColours, ColourPick, Touch } from '../../resources/app/api/types';
import type { Layout } from '../../resources/app/bench/judge/useCompare';
import type { Playback } from '../../resources/app/bench/time/usePlayback';
import { area, bench, ellipse } from './bench';

const said: string[] = [];
vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: (words: string) => said.push(words), fail: (words: string) => said.push(`▲ ${words}`) }) }));
const size = { width: ref(1000), height: ref(640) };
vi.mock('@vueuse/core', async (original) => ({ ...(await original<typeof import('@vueuse/core')>()), useElementSize: () => size, useDevicePixelRatio: () => ({ pixelRatio: ref(1) }) }));
const { api } = await import('../../resources/app/api/client');
const { useOutlines } = await import('../../resources/app/bench/outline/useOutlines');
const { usePicking } = await import('../../resources/app/bench/pick/usePicking');
const { useSplit } = await import('../../resources/app/bench/picture/useSplit');
const { useStage } = await import('../../resources/app/bench/picture/useStage');
const { useTreating } = await import('../../resources/app/bench/treat/useTreating');

const touch = (id: string, kind: string, more: Record<string, unknown> = {}): Touch => ({ id, kind, on: true, amount: 1, side: 'inside', ...more });
const settle = () => new Promise((done) => setTimeout(done));
beforeEach(() => {
  said.length = 0;
  vi.restoreAllMocks();
  vi.spyOn(api, 'colours').mockResolvedValue({} as AreaColours);
});

function treater(touches: Touch[] = [], more: Partial<ReturnType<typeof area>> = {}) {
  const on = bench([{ ...area('a', [ellipse('s')]), touches, ...more }, { ...area('b', [ellipse('r')]), touches: [touch('t9', 'iris', { saturation: 1.4 })] }], 'a');
  Object.assign(on.store, { revision: ref(1), unsaved: ref(false), asked: () => ({}) });
  const playing = ref(false);
  const outlines = useOutlines(1, on.store, on.motions, on.playhead, on.areas);
  on.areas.step.value = 4;
  return { ...on, playing, outlines, treating: useTreating(1, on.store, on.playhead, on.areas, on.motions, outlines, { playing } as unknown as Playback) };
}

describe('colours of the area', () => {
  it('are read on this frame once, where a panel shows them, and not while something is held or plays', async () => {
    const read = vi.spyOn(api, 'colours').mockImplementation((_shot, id, r) => Promise.resolve({ mean: [r.frame], id } as unknown as AreaColours));
    const { treating, frame, held, playing, areas } = treater();
    await settle();
    expect([read.mock.calls.length, treating.colours.value?.mean]).toEqual([1, [10]]);
    held.value = true;
    frame.value = 11;
    await settle();
    held.value = null;
    playing.value = true;
    await settle();
    expect(read).toHaveBeenCalledTimes(1);
    playing.value = false;
    await settle();
    expect([read.mock.calls.length, treating.colours.value?.mean]).toEqual([2, [11]]);
    areas.step.value = 2;
    frame.value = 12;
    await settle();
    expect(read).toHaveBeenCalledTimes(2);
  });
});

describe('handles of touches', () => {
  const light = (id: string) => touch(id, 'sidelight', { direction: 30, position: 0, width: 0.4, light: 1 });

  it('are those of one unfolded touch: the one taken up last', () => {
    const { treating } = treater([light('t1'), touch('t2', 'conceal', { offsetX: 0.1, offsetY: -0.05 }), touch('t3', 'exposure')]);
    expect(treating.handles.value.map((h) => h.id)).toEqual(['t1']);
    expect(treating.handles.value[0]).toMatchObject({ centre: [0.8, 0.5], half: [0.2, 0.1], values: { direction: 30, position: 0, width: 0.4 } });
    treating.unfold('t2');
    expect(treating.handles.value.map((h) => [h.id, h.values])).toEqual([['t2', { offsetX: 0.1, offsetY: -0.05 }]]);
    treating.fold('t2');
    treating.fold('t1');
    expect(treating.handles.value).toEqual([]);
  });

  it('are gone with the step, and where the touch is off', () => {
    const { treating, areas, the } = treater([light('t1')]);
    areas.step.value = 5;
    expect(treating.handles.value).toEqual([]);
    areas.step.value = 4;
    Object.assign(the('a').touches[0] as Touch, { on: false });
    expect(treating.handles.value).toEqual([]);
  });

  it('pull the touch, which is then what is held; a keyed value is keyed on this frame', () => {
    const { treating, the, held } = treater([light('t1')]);
    treating.pullHandle('t1', { direction: -12 });
    expect([the('a').touches[0]?.direction, (held.value as Touch).id]).toEqual([-12, 't1']);
    Object.assign(the('a').touches[0] as Touch, { direction: { keys: [{ frame: 0, value: 0, ease: 'linear' }] } });
    treating.pullHandle('t1', { direction: 20 });
    expect(JSON.stringify(the('a').touches[0]?.direction)).toContain('"frame":10,"value":20');
  });
});

describe('two eyes', () => {

  it('are one treatment until they are unlinked, which copies it under ids of its own', () => {
    const { treating, the, areas, recipe } = treater([], { part: 'iris', pair: { with: 'b', linked: true } });
    expect(areas.treated.value?.id).toBe('b');
    treating.link(false);
    expect(the('a').touches).toEqual([{ ...the('b').touches[0], id: the('a').touches[0]?.id }]);
    expect(new Set(recipe.value.areas.flatMap((a) => a.touches.map((t) => t.id))).size).toBe(2);
    expect(areas.treated.value?.id).toBe('a');
    treating.link(true);
    expect([the('a').touches, areas.treated.value?.id]).toEqual([[], 'b']);
  });

  it('the other one is made beside it, chosen, and followed where it is to be followed', async () => {
    const { treating, recipe, areas, followed, labels } = treater([], { part: 'iris' });
    expect(treating.canPair.value).toBe(true);
    vi.spyOn(api, 'other').mockResolvedValue({ ...area('c', [ellipse('q')], { by: 'follow' }), name: 'Other iris', pair: { with: 'a', linked: true } });
    await treating.makeOther();
    expect([recipe.value.areas.map((a) => a.id), areas.tab.value, followed, labels]).toEqual([['a', 'c', 'b'], 'c', [['c', null, 10, 0, 83]], ['Other iris, linked to A']]);
    areas.choose('a');
    expect(treating.canPair.value).toBe(false);
  });

  it('where none is found that is said, and nothing is changed', async () => {
    const { treating, recipe } = treater([], { part: 'iris' });
    vi.spyOn(api, 'other').mockRejectedValue(new Error('none'));
    await treating.makeOther();
    expect([recipe.value.areas.length, said]).toEqual([2, ['▲ The other one was not made']]);
  });
});

describe('picking', () => {
  const pick = (more: Partial<ColourPick> = {}): ColourPick => ({ space: 'oklch', samples: [], hue: [0, 360, 0], chroma: [0, 0.5, 0], light: [0, 1.5, 0], follow: null, clean: { specks: 0, holes: 0 }, blur: 0, invert: false, ...more });
  function picker() {
    const on = treater();
    return { ...on, picking: usePicking(1, on.store, on.playhead, on.areas) };
  }

  it('asks the server what a sample makes of the pick, and keeps whether it follows the light', async () => {
    const { picking, the, labels } = picker();
    const proposed = pick({ samples: [{ sign: '+', frame: 10 }] as ColourPick['samples'] });
    const asked = vi.spyOn(api, 'pick').mockResolvedValue(proposed);
    await picking.sample(true, [0.5, 0.5], [0.6, 0.6]);
    expect(asked.mock.lastCall).toEqual([1, 'a', { frame: 10, follow: false, sign: '+', from: [0.5, 0.5], to: [0.6, 0.6] }]);
    expect([the('a').pick, labels]).toEqual([proposed, ['A, pick: sample +']]);
    Object.assign(the('a').pick as ColourPick, { follow: [1, 0, 0] });
    await picking.sample(false, [0.1, 0.1], [0.1, 0.1]);
    expect(asked.mock.lastCall?.[2]).toMatchObject({ follow: true, sign: '-' });
  });

  it('shows the places sampled on this frame, while the pick is open', () => {
    const { picking, areas, the, frame } = picker();
    the('a').pick = pick({ samples: [{ frame: 10 }, { frame: 40 }] as ColourPick['samples'] });
    expect(picking.samples.value).toEqual([]);
    areas.step.value = 3;
    expect(picking.samples.value.map((s) => s.frame)).toEqual([10]);
    frame.value = 40;
    expect(picking.samples.value.map((s) => s.frame)).toEqual([40]);
  });

  it('begins with everything, each time anew, and is cleared', () => {
    const { picking, the } = picker();
    picking.begin();
    picking.edit((own) => (own.hue[1] = 40));
    expect(the('a').pick?.hue).toEqual([0, 40, 0]);
    picking.clear();
    expect(the('a').pick).toBeNull();
    picking.begin();
    expect(the('a').pick?.hue).toEqual([0, 360, 0]);
  });

  it('says where a colour was not taken and leaves the pick alone', async () => {
    const { picking, the } = picker();
    vi.spyOn(api, 'pick').mockRejectedValue(new Error('x'));
    await picking.sample(true, [0, 0], [0, 0]);
    expect([the('a').pick, said]).toEqual([null, ['▲ The colour was not taken']]);
  });
});

describe('the stage', () => {
  const stage = (layout: Layout = null) => useStage(16 / 9, 720, ref(layout));

  it('fits the picture in the middle with a margin, and goes from screen to picture and back', () => {
    const s = stage();
    expect(s.unit.value).toBeCloseTo((1000 - 40) / (16 / 9), 6);
    expect(s.origin.value).toEqual([20, Math.round(320 - s.unit.value / 2)]);
    expect([s.seen.value, s.wanted.value]).toEqual([null, 540]);
    const [x, y] = s.inPicture(s.onScreen([0.4, 0.9]));
    expect([x.toFixed(9), y.toFixed(9)]).toEqual(['0.400000000', '0.900000000']);
  });

  it('gives each half of it when two lie side by side, and never asks for more rows than there are', () => {
    expect(stage('side').unit.value).toBeCloseTo((500 - 40) / (16 / 9), 6);
    size.width.value = 4000;
    size.height.value = 3000;
    expect(stage().wanted.value).toBe(720);
    size.width.value = 1000;
    size.height.value = 640;
  });

  it('zooms about the pointer, which stays on the same place of the picture', () => {
    const s = stage();
    s.element.value = { getBoundingClientRect: () => ({ left: 100, top: 50 }) } as HTMLElement;
    const e = { clientX: 400, clientY: 300, deltaY: -500 } as WheelEvent;
    const before = s.under(e);
    s.wheel(e);
    const after = s.under(e);
    expect(s.zoom.value).toBeGreaterThan(1);
    expect(Math.hypot(after[0] - before[0], after[1] - before[1])).toBeLessThan(0.002);
    expect(s.seen.value?.[0]).toBeGreaterThan(0);
    for (let i = 0; i < 40; ++i) s.wheel(e);
    expect(s.zoom.value).toBe(8);
    s.fit();
    expect([s.zoom.value, s.seen.value]).toEqual([null, null]);
  });

  it('the split line stays in the picture and snaps to upright and level', async () => {
    const split = useSplit(stage(), 16 / 9);
    split.moveTo(1.4, -3);
    expect(split.at.value).toMatchObject({ x: 1, y: 0 });
    split.turnTo(88);
    expect(split.at.value.angle).toBe(90);
    split.turnTo(88, false);
    expect(split.at.value.angle).toBe(88);
    split.moveTo(0.5, 0.5);
    split.turnTo(90);
    await nextTick();
    // What it is compared with lies to the left of an upright line that runs down.
    expect(split.side.value.every(([x]) => x <= split.centre.value[0] + 1e-6)).toBe(true);
  });
});
