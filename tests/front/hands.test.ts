/** Controls mounted and worked by the keyboard and the pointer. */
import { mount } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { apart } from '../../resources/app/bench/outline/useShapeOnStage';
import { combOf, keyframesOf } from '../../resources/app/bench/time/lanes';
import { witnessMiddle } from '../../resources/app/bench/time/useWitnesses';
import RangeBand from '../../resources/app/bench/pick/RangeBand.vue';
import { useArrows } from '../../resources/app/widgets/useArrows';
import { useObjectUrls } from '../../resources/app/widgets/useObjectUrls';
import RulerSlider from '../../resources/app/widgets/RulerSlider.vue';
import { area, ellipse } from './bench';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

/** A ruler whose value is kept, as by whoever mounts it. */
function ruler(more: Record<string, unknown> = {}) {
  const wrapper = mount(RulerSlider, { attachTo: document.body, props: { label: 'Light', value: 0, least: -6, most: 6, neutral: 0, digits: 2, unit: 'st', sign: true, ...more, onChange: (value: number) => wrapper.setProps({ value }) } });
  const track = wrapper.find('.track');
  return { wrapper, track, value: () => wrapper.props('value') as number, commits: () => wrapper.emitted('commit')?.length ?? 0 };
}

describe('a ruler', () => {
  it('tells a screen reader what it is and where it stands', () => {
    const { track } = ruler({ value: 0.5 });
    expect(track.attributes()).toMatchObject({ role: 'slider', tabindex: '0', 'aria-label': 'Light', 'aria-valuenow': '0.5', 'aria-valuemin': '-6', 'aria-valuemax': '6', 'aria-valuetext': '+0.50 st' });
  });

  it('twenty presses of an arrow are one change', async () => {
    const { track, value, commits } = ruler();
    for (let i = 0; i < 20; ++i) await track.trigger('keydown', { key: 'ArrowRight' });
    expect([value(), commits()]).toEqual([1, 0]);
    vi.advanceTimersByTime(700);
    expect(commits()).toBe(1);
    await track.trigger('keydown', { key: 'ArrowDown', shiftKey: true });
    expect(value()).toBe(0.99);
    await track.trigger('blur');
    expect(commits()).toBe(2);
    vi.advanceTimersByTime(5000);
    expect(commits()).toBe(2);
  });

  it('arrows on it move nothing else', async () => {
    const outside = vi.fn();
    window.addEventListener('keydown', outside);
    const { track } = ruler();
    await track.trigger('keydown', { key: 'ArrowLeft' });
    expect(outside).not.toHaveBeenCalled();
    await track.trigger('keydown', { key: 'o' });
    expect(outside).toHaveBeenCalledOnce();
    window.removeEventListener('keydown', outside);
  });

  it('the wheel moves it only while it has the focus or Alt is held', async () => {
    const { track, value, commits } = ruler();
    await track.trigger('wheel', { deltaY: -100 });
    expect(value()).toBe(0);
    await track.trigger('wheel', { deltaY: -100, altKey: true });
    expect(value()).toBe(0.05);
    (track.element as HTMLElement).focus();
    await track.trigger('wheel', { deltaY: 100 });
    await track.trigger('wheel', { deltaY: 100 });
    expect(value()).toBe(-0.05);
    vi.advanceTimersByTime(700);
    expect(commits()).toBe(1);
  });

  it('is typed into by Enter, takes a comma and a true minus, and keeps to its ends', async () => {
    const { wrapper, track, value, commits } = ruler({ scale: 100, least: -1, most: 1, digits: 0 });
    await track.trigger('keydown', { key: 'Enter' });
    await vi.advanceTimersByTimeAsync(1);
    const field = wrapper.find('input');
    await field.setValue('−40,4');
    await field.trigger('keydown', { key: 'Enter' });
    expect([value(), commits()]).toEqual([-0.4, 1]);
    await track.trigger('keydown', { key: 'Enter' });
    await wrapper.find('input').setValue('900');
    await wrapper.find('input').trigger('keydown', { key: 'Escape' });
    expect(value()).toBe(-0.4);
    await track.trigger('keydown', { key: 'Enter' });
    await wrapper.find('input').setValue('900');
    await wrapper.find('input').trigger('keydown', { key: 'Enter' });
    expect(value()).toBe(1);
    await track.trigger('keydown', { key: 'Home' });
    expect(value()).toBe(0);
  });
});

describe('a range on a band', () => {
  const band = (props: Record<string, unknown>) => {
    const wrapper = mount(RangeBand, { attachTo: document.body, props: { label: 'Hue', range: [40, 30, 10] as [number, number, number], most: 360, round: true, shares: null, digits: 0, unit: '°', ...props, onChange: (range: unknown) => wrapper.setProps({ range: range as [number, number, number] }) } });
    return wrapper;
  };

  it('has both ends and its softness to move by arrow keys, each with its name and value', async () => {
    const wrapper = band({});
    const handles = wrapper.findAll('[role=slider]');
    expect(handles.map((h) => [h.attributes('aria-label'), h.attributes('aria-valuetext')])).toEqual([['Hue, from', '25°'], ['Hue, to', '55°'], ['Hue, softness', '10°']]);
    await handles[1]?.trigger('keydown', { key: 'ArrowRight' });
    const [centre, width, soft] = wrapper.props('range') as number[];
    expect((centre as number) - (width as number) / 2).toBeCloseTo(25, 9);
    expect((centre as number) + (width as number) / 2).toBeCloseTo(58.6, 9);
    expect(soft).toBe(10);
    await handles[2]?.trigger('keydown', { key: 'ArrowUp' });
    expect((wrapper.props('range') as number[])[2]).toBe(13.6);
    expect(wrapper.emitted('commit')).toBeUndefined();
    vi.advanceTimersByTime(700);
    expect(wrapper.emitted('commit')?.length).toBe(1);
  });

  it('ends of a straight one do not cross', async () => {
    const wrapper = band({ label: 'Chroma', range: [0.1, 0.102, 0], most: 0.3, round: false, digits: 3, unit: '' });
    for (let i = 0; i < 5; ++i) await wrapper.findAll('[role=slider]')[0]?.trigger('keydown', { key: 'ArrowRight' });
    expect(wrapper.props('range')).toEqual([0.102, 0.102, 0]);
  });
});

describe('arrow keys on a handle', () => {
  it('are done when they pause, when the focus goes, and when the handle goes', () => {
    const done = vi.fn();
    const scope = effectScope();
    const arrows = scope.run(() => useArrows(done)) as ReturnType<typeof useArrows>;
    const moved: [number, number][] = [];
    const press = (key: string, more: KeyboardEventInit = {}): boolean => arrows.press(new KeyboardEvent('keydown', { key, ...more }), (x, y) => moved.push([x, y]));
    expect([press('ArrowUp'), press('ArrowLeft'), press('a'), press('ArrowUp', { ctrlKey: true })]).toEqual([true, true, false, false]);
    expect(moved).toEqual([[0, -1], [-1, 0]]);
    expect(done).not.toHaveBeenCalled();
    arrows.settle();
    arrows.settle();
    expect(done).toHaveBeenCalledOnce();
    press('ArrowDown');
    scope.stop();
    expect(done).toHaveBeenCalledTimes(2);
  });
});

describe('addresses of pictures', () => {
  it('are given back when another takes their place, when they are not wanted and when nobody looks any more', () => {
    let n = 0;
    const given: string[] = [];
    vi.stubGlobal('URL', { createObjectURL: () => `blob:${++n}`, revokeObjectURL: (url: string) => given.push(url) });
    const scope = effectScope();
    const crops = scope.run(() => useObjectUrls<number>()) as ReturnType<typeof useObjectUrls<number>>;
    const file = {} as Blob;
    crops.put(1, file);
    crops.put(2, file);
    crops.put(1, file);
    expect(given).toEqual(['blob:1']);
    crops.keep((key) => key === 1);
    expect(given).toEqual(['blob:1', 'blob:2']);
    for (let i = 0; i < 500; ++i) crops.put(i % 9, file);
    expect(n - given.length).toBe(9);
    scope.stop();
    expect(n - given.length).toBe(0);
    vi.unstubAllGlobals();
  });
});

describe('lanes and flags', () => {
  it('where frames are narrower than ticks, a column shows the worst it covers', () => {
    const confidence = Array.from({ length: 1000 }, (_, i) => (i === 517 ? 0.1 : 0.9));
    const comb = combOf(confidence, 1000, 0.3);
    expect(comb.length).toBe(100);
    expect(comb.filter((t) => t.weak).map((t) => t.c)).toEqual([0.1]);
    expect(combOf([null, 0.8, null], 3, 10).map((t) => t.c)).toEqual([0.8]);
  });

  it('frames set by hand are told once each, whatever was set', () => {
    const own = { ...area('a', [{ ...ellipse('s1'), keys: [{ frame: 7, turn: 3 }] } as never]), strength: { value: 1, keys: [{ frame: 7, value: 0 }, { frame: 20, value: 1 }] } };
    own.motion.keys = [{ frame: 3, move: [0, 0], turn: 0, scale: 1, shear: 0 }];
    expect(keyframesOf(own)).toEqual([3, 7, 20]);
  });

  it('letters never lie on each other, and the first keeps its place', () => {
    const flags = Array.from({ length: 12 }, (_, i) => ({ at: [100 + (i % 3), 80 - (i % 2)] as [number, number], width: 24, height: 18 }));
    const places = apart(flags);
    expect(places[0]).toEqual([100, 80]);
    places.forEach(([x, y], i) => places.slice(0, i).forEach(([u, v]) => expect(Math.abs(x - u) >= 24 || Math.abs(y - v) >= 18).toBe(true)));
  });

  it('hairlines end in the middle of their witness', () => {
    const width = 876;
    const each = (width - 32 - 72 - 9 * 8) / 9;
    expect(witnessMiddle(0, 9, width)).toBeCloseTo(16 + each / 2, 9);
    expect(witnessMiddle(8, 9, width) + each / 2).toBeCloseTo(width - 16 - 72 - 8, 9);
  });
});
