/** Editors of touches and what stands under the picture, mounted and worked by the keyboard. */
import { mount } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { computed, defineComponent, h, nextTick, reactive, ref, type Component } from 'vue';
import type { Area, Kind, Pair, Touch } from '../../resources/app/api/types';
import { useOutlines } from '../../resources/app/bench/outline/useOutlines';
import { area, bench, ellipse } from './bench';

vi.mock('../../resources/app/useNotices', () => ({ useNotices: () => ({ say: vi.fn(), fail: vi.fn() }) }));
vi.mock('@vueuse/core', async (original) => ({ ...(await original<typeof import('@vueuse/core')>()), useElementSize: () => ({ width: ref(956), height: ref(26) }) }));
let on: ReturnType<typeof onBench>;
vi.mock('../../resources/app/bench/bench', () => ({ useBench: () => on }));
const { provideTouch } = await import('../../resources/app/bench/treat/useTouch');
const { provideLanes } = await import('../../resources/app/bench/time/useLanes');
const AreaTabs = (await import('../../resources/app/bench/areas/AreaTabs.vue')).default;
const BalanceRulers = (await import('../../resources/app/bench/treat/controls/BalanceRulers.vue')).default;
const CurveEditor = (await import('../../resources/app/bench/treat/controls/CurveEditor.vue')).default;
const FollowLane = (await import('../../resources/app/bench/time/FollowLane.vue')).default;
const FrameRuler = (await import('../../resources/app/bench/time/FrameRuler.vue')).default;
const HueBand = (await import('../../resources/app/bench/treat/controls/HueBand.vue')).default;
const SplitLine = (await import('../../resources/app/bench/picture/SplitLine.vue')).default;

function onBench() {
  const own = bench([area('a', [ellipse('s')]), area('b', [ellipse('r')])], 'a');
  const span = ref<Pair | null>(null);
  return {
    ...own,
    aspect: 16 / 9,
    goTo: (frame: number) => (own.frame.value = Math.min(83, Math.max(0, frame))),
    panel: ref<string | null>(null),
    outlines: useOutlines(1, own.store, own.motions, own.playhead, own.areas),
    playback: { ready: (frame: number) => [0, 1, 40].includes(frame) },
    following: { span, chooseSpan: (frames: Pair | null) => (span.value = frames) },
    telltales: { open: ref([]) },
    treating: { colours: ref({ levels: {}, shares: { hue: [0, 0, 1, 0, 0, 0] } }) },
    stage: { height: ref(600) },
    motions: { ...own.motions, confidence: () => [], states: () => [], open: () => [], openFor: () => null },
  };
}
const global = { directives: { tooltip: {} }, stubs: { PillChoice: { props: ['options'], emits: ['choose'], template: '<span><button v-for="o in options" type="button" :data-pill="o.value" @click="$emit(`choose`, o.value)">{{ o.label }}</button></span>' } } };

beforeEach(() => {
  on = onBench();
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  document.body.innerHTML = '';
});

/** A control on the card of a touch whose settings are kept. */
function card(control: Component, settings: Record<string, unknown>, kind: Partial<Kind> = {}) {
  const touch = reactive<Touch>({ id: 't', kind: 'curves', on: true, amount: 1, ...settings });
  const commits: string[] = [];
  const Card = defineComponent(() => {
    provideTouch({ touch: computed(() => touch), kind: computed(() => ({ name: 'x', parameters: [], ...kind }) as unknown as Kind), change: (s) => void Object.assign(touch, s), commit: (what) => commits.push(what) });
    return () => h(control);
  });
  const wrapper = mount(Card, { attachTo: document.body, global });
  const slider = (name: string) => wrapper.find(`[role=slider][aria-label="${name}"]`);
  const press = async (name: string, key: string, times = 1, more = {}) => {
    for (let i = 0; i < times; ++i) await slider(name).trigger('keydown', { key, ...more });
  };
  return { touch, commits, wrapper, slider, press };
}

describe('curves', () => {
  const straight = { luma: [], red: [], green: [], blue: [] };

  it('a point is added half-way on the line by Enter, moved by arrows between its neighbours, and taken away', async () => {
    const { touch, press, slider, commits } = card(CurveEditor, straight);
    await press('Point 1 of 2', 'Enter');
    expect(touch.luma).toEqual([[0, 0], [0.5, 0.5], [1, 1]]);
    await press('Point 2 of 3', 'ArrowUp', 10);
    await press('Point 2 of 3', 'ArrowRight', 2, { shiftKey: true });
    expect(touch.luma).toEqual([[0, 0], [0.504, 0.6], [1, 1]]);
    expect(slider('Point 2 of 3').attributes('aria-valuetext')).toBe('50.4 to 60.0');
    vi.advanceTimersByTime(700);
    expect(commits).toEqual(['Curves: curve', 'Curves: curve']);
    await press('Point 2 of 3', 'ArrowRight', 90);
    expect((touch.luma as Pair[])[1]).toEqual([0.99, 0.6]);
    await press('Point 2 of 3', 'Delete');
    expect(touch.luma).toEqual([[0, 0], [1, 1]]);
    await press('Point 1 of 2', 'Delete');
    expect(touch.luma).toEqual([[0, 0], [1, 1]]);
  });

  it('each channel has its own', async () => {
    const { touch, press, wrapper } = card(CurveEditor, straight);
    await wrapper.find('[data-pill=red]').trigger('click');
    await press('Point 2 of 2', 'ArrowDown', 20);
    expect([touch.red, touch.luma]).toEqual([[[0, 0], [1, 0.8]], []]);
    await wrapper.findAll('button').find((b) => b.text() === 'Straight')?.trigger('click');
    expect(touch.red).toEqual([]);
  });

  it('keys on a point do not reach the bench', async () => {
    const outside = vi.fn();
    window.addEventListener('keydown', outside);
    const { press } = card(CurveEditor, straight);
    for (const key of ['ArrowLeft', 'Delete', 'Enter']) await press('Point 1 of 2', key);
    expect(outside).not.toHaveBeenCalled();
    window.removeEventListener('keydown', outside);
  });
});

describe('the hue band', () => {
  const kind = { parameters: ['saturation', 'hue', 'lightness'].map((name) => ({ type: 'points', name, x: [0, 360], y: name === 'hue' ? [-30, 30] : [-1, 1], neutral: [] })) } as unknown as Partial<Kind>;

  it('begins on the hue the area has most of, held still on both sides', async () => {
    const { touch, wrapper, press } = card(HueBand, { kind: 'hues', saturation: [], hue: [], lightness: [] }, kind);
    await wrapper.find('[aria-label="Add a point to the hue band"]').trigger('click');
    expect((touch.saturation as Pair[]).map((p) => p[0])).toEqual([115, 150, 185]);
    await press('Point 2 of 3', 'ArrowUp', 10);
    expect((touch.saturation as Pair[]).map((p) => p[1])).toEqual([0, 0.2, 0]);
    await press('Point 2 of 3', 'ArrowRight', 90);
    expect((touch.saturation as Pair[])[1]?.[0]).toBe(184);
    await press('Point 2 of 3', 'Backspace');
    expect((touch.saturation as Pair[]).length).toBe(2);
  });

  it('keeps to the range of what it changes', async () => {
    const { touch, wrapper, press } = card(HueBand, { kind: 'hues', saturation: [], hue: [[100, 0]], lightness: [] }, kind);
    await wrapper.find('[data-pill=hue]').trigger('click');
    await press('Point 1 of 1', 'ArrowDown', 70);
    expect((touch.hue as Pair[])[0]).toEqual([100, -30]);
  });
});

describe('balance', () => {
  const names = ['shadows', 'mids', 'highlights'].flatMap((z) => [`${z}Red`, `${z}Yellow`]);
  const kind = { parameters: names.map((name) => ({ type: 'number', name, least: -0.1, most: 0.1, neutral: 0, unit: '' })) } as unknown as Partial<Kind>;

  it('moves one zone along one axis; Home puts it back', async () => {
    const { touch, press, slider, commits } = card(BalanceRulers, { kind: 'balance', ...Object.fromEntries(names.map((n) => [n, 0])) }, kind);
    await press('mids, green to red', 'ArrowRight', 5);
    await press('mids, green to red', 'ArrowLeft', 1, { shiftKey: true });
    expect([touch.midsRed, touch.midsYellow, slider('mids, green to red').attributes('aria-valuetext')]).toEqual([0.0095, 0, '9.5']);
    await press('shadows, blue to yellow', 'ArrowLeft', 90);
    expect(touch.shadowsYellow).toBe(-0.1);
    await press('mids, green to red', 'Home');
    expect([touch.midsRed, commits.length > 0]).toEqual([0, true]);
  });
});

/** Something on the lanes. */
function onLanes(what: Component, props: () => Record<string, unknown> = () => ({})) {
  const Lanes = defineComponent(() => {
    provideLanes();
    return () => h('div', [h(what, props())]);
  });
  return mount(Lanes, { attachTo: document.body, global });
}

describe('the frame ruler', () => {
  it('is a slider that tells the frame and keeps to the span', async () => {
    const ruler = onLanes(FrameRuler).find('[role=slider]');
    expect(ruler.attributes()).toMatchObject({ 'aria-label': 'Frame', 'aria-valuenow': '10', 'aria-valuetext': 'frame 10 of 0 to 83' });
    for (const [key, frame] of [['ArrowRight', 11], ['ArrowDown', 10], ['PageUp', 20], ['End', 83], ['ArrowRight', 83], ['PageDown', 73], ['Home', 0], ['ArrowLeft', 0]] as [string, number][]) {
      await ruler.trigger('keydown', { key });
      expect([key, on.frame.value]).toEqual([key, frame]);
    }
    await ruler.trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    expect(on.frame.value).toBe(0);
  });

  it('shows in one piece each what can be played at once', () => {
    expect(onLanes(FrameRuler).findAll('rect.ready').map((r) => Number(r.attributes('width')).toFixed(2))).toEqual([(2 * 824 / 84).toFixed(2), (824 / 84).toFixed(2)]);
  });
});

describe('a lane', () => {
  const lane = () => onLanes(FollowLane, () => ({ area: on.the('a') }));
  const live = (): Area['live'] => on.the('a').live;

  it('its live span is moved by keys, one step of the history for a run of them; fades keep within it', async () => {
    const wrapper = lane();
    const grip = (end: string) => wrapper.find(`[data-live=${end}]`);
    for (let i = 0; i < 12; ++i) await grip('from').trigger('keydown', { key: 'ArrowRight' });
    await grip('from').trigger('blur');
    await grip('to').trigger('keydown', { key: 'ArrowLeft', shiftKey: true });
    for (let i = 0; i < 90; ++i) await grip('fadeIn').trigger('keydown', { key: 'ArrowRight' });
    await grip('fadeOut').trigger('keydown', { key: 'ArrowRight' });
    expect(live()).toEqual({ from: 12, to: 73, fadeIn: 61, fadeOut: 0 });
    await grip('fadeOut').trigger('blur');
    vi.advanceTimersByTime(2000);
    expect(on.labels.filter((l) => l.includes('live from'))).toEqual(['A: live from 12']);
    expect(grip('from').attributes()).toMatchObject({ role: 'slider', 'aria-label': 'First live frame', 'aria-valuenow': '12' });
  });

  it('the frames to follow are chosen by keys, in order whichever end goes past the other', async () => {
    const wrapper = lane();
    const end = (name: string) => wrapper.find(`[aria-label="Frames to follow, ${name}"]`);
    await end('first').trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    expect(on.following.span.value).toEqual([10, 83]);
    for (let i = 0; i < 8; ++i) await end('last').trigger('keydown', { key: 'ArrowLeft', shiftKey: true });
    expect(on.following.span.value).toEqual([3, 10]);
    await end('last').trigger('keydown', { key: 'Delete' });
    expect(on.following.span.value).toBeNull();
  });

  it('says in words that nothing moves it', () => {
    expect(lane().text()).toContain('not followed: it stays where it was drawn');
  });
});

describe('tabs', () => {
  it('arrows go round them, with Alt they take the tab along', async () => {
    const wrapper = mount(AreaTabs, { attachTo: document.body, global });
    const list = wrapper.find('[role=tablist]');
    expect(wrapper.findAll('[role=tab]').map((t) => [t.text(), t.attributes('aria-selected'), t.attributes('tabindex')])).toEqual([['A A', 'true', '0'], ['B B', 'false', '-1'], ['Base', 'false', '-1'], ['Finish', 'false', '-1']]);
    await list.trigger('keydown', { key: 'ArrowUp' });
    expect([on.areas.tab.value, document.activeElement?.textContent]).toEqual(['finish', 'Finish']);
    await list.trigger('keydown', { key: 'ArrowDown' });
    await list.trigger('keydown', { key: 'ArrowDown', altKey: true });
    expect(on.recipe.value.areas.map((a) => a.id)).toEqual(['b', 'a']);
    await list.trigger('keydown', { key: 'ArrowDown', altKey: true });
    expect(on.recipe.value.areas.map((a) => a.id)).toEqual(['b', 'a']);
    await nextTick();
    expect(wrapper.findAll('[role=tab]')[1]?.text()).toBe('B A');
  });
});

describe('the split line', () => {
  it('is moved and turned by arrows, more finely with Shift, and tells where it is', async () => {
    const at = ref({ x: 0.5, y: 0.5, angle: 90 });
    const split = { at, centre: ref([10, 10]), reach: () => [20, 20], ends: ref([[0, 0], [1, 1]]), moveTo: (x: number, y: number) => (at.value = { ...at.value, x, y }), turnTo: (angle: number) => (at.value = { ...at.value, angle }) };
    const wrapper = mount(SplitLine, { props: { split: split as never }, global });
    const [place, angle] = wrapper.findAll('[role=slider]');
    await place?.trigger('keydown', { key: 'ArrowRight' });
    await place?.trigger('keydown', { key: 'ArrowUp', shiftKey: true });
    await angle?.trigger('keydown', { key: 'ArrowDown' });
    expect(at.value).toEqual({ x: 0.52, y: 0.496, angle: 95 });
    expect([place?.attributes('aria-valuetext'), angle?.attributes('aria-valuetext')]).toEqual(['52 % across, 50 % down', '95 degrees']);
  });
});
