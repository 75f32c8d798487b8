<script setup lang="ts">
/** The hue band: pull a point up or down over the hue it concerns. The area's own hues stand behind. */
import { computed, ref } from 'vue';
import type { Pair } from '../../../api/types';
import PillChoice from '../../../widgets/PillChoice.vue';
import { useArrows } from '../../../widgets/useArrows';
import { useBench } from '../../bench';
import { hold } from '../../picture/drag';
import { useTouch } from '../useTouch';
import { round } from './spline';

type BandName = 'saturation' | 'hue' | 'lightness';
const { treating } = useBench();
const { touch, change, commit, range: rangeOf } = useTouch();
const bands = computed(() => touch.value as unknown as Record<BandName, Pair[]>);
const arrows = useArrows(() => commit('hue band'));

const NAMES: { value: BandName; label: string; unit: string; scale: number }[] = [
  { value: 'saturation', label: 'Saturation', unit: '%', scale: 100 },
  { value: 'hue', label: 'Hue', unit: '°', scale: 1 },
  { value: 'lightness', label: 'Lightness', unit: '%', scale: 100 },
];
const W = 340;
const H = 108;
const COLOURS = `linear-gradient(90deg, ${Array.from({ length: 37 }, (_, i) => `oklch(0.62 0.09 ${i * 10})`).join(', ')})`;
/** Hues half this far from a new point are held where they are. */
const REACH = 35;
const MOST = 30;
const name = ref<BandName>('saturation');
const box = ref<SVGElement>();
const tabs = computed(() => NAMES.map((n) => ({ ...n, marked: bands.value[n.value].length > 0 })));
const points = computed(() => bands.value[name.value]);
const range = computed(() => rangeOf(name.value));
const put = (list: Pair[]): void => change({ [name.value]: list });
const middle = H / 2;
/** Up and down have their own scale, so that nothing changed is in the middle. */
const toY = (v: number): number => middle - (v >= 0 ? v / range.value[1] : -v / range.value[0]) * (middle - 4);
const toValue = (y: number): number => {
  const share = (middle - y) / (middle - 4);
  const v = share >= 0 ? share * range.value[1] : -share * range.value[0];
  return Math.round(Math.min(range.value[1], Math.max(range.value[0], v)) * 1e4) / 1e4;
};
const line = computed(() => {
  const curve = round(points.value, 360);
  return Array.from({ length: 121 }, (_, i) => `${((i / 120) * W).toFixed(1)} ${toY(curve(i * 3)).toFixed(1)}`).join('L');
});
const own = computed(() => {
  const shares = treating.colours.value?.shares.hue;
  if (!shares) return '';
  return `M0 ${H}` + shares.map((n, i) => `L${((i + 0.5) / shares.length) * W} ${H - n * 0.8 * H}`).join('') + `L${W} ${H}Z`;
});
const words = computed(() => NAMES.find((n) => n.value === name.value) as (typeof NAMES)[number]);

const at = (e: PointerEvent): Pair => {
  const r = (box.value as SVGElement).getBoundingClientRect();
  return [Math.min(359.9, Math.max(0, ((e.clientX - r.left) / r.width) * 360)), ((e.clientY - r.top) / r.height) * H];
};

/** The points with one put on a hue, and two still ones beside it, so that a pull concerns one hue and not all. */
function withPoint(hue: number, value: number): Pair[] {
  const added: Pair[] = [[hue, value]];
  const curve = round(points.value, 360);
  for (const beside of [hue - REACH, hue + REACH]) {
    const h = (beside + 360) % 360;
    if (!points.value.some((q) => Math.abs(((q[0] - h + 540) % 360) - 180) < REACH * 0.8)) added.push([h, Math.round(curve(h) * 1e4) / 1e4]);
  }
  return [...points.value.map((q) => [...q] as Pair), ...added.map(([h, v]) => [Math.round(h * 10) / 10, v] as Pair)].sort((a, b) => a[0] - b[0]).filter((q, i, all) => i === 0 || q[0] > (all[i - 1] as Pair)[0]);
}
/** One of the points moved, kept between its neighbours. */
function moved(list: Pair[], index: number, hue: number, value: number): Pair[] {
  const low = index === 0 ? 0 : (list[index - 1] as Pair)[0] + 1;
  const high = index === list.length - 1 ? 360 : (list[index + 1] as Pair)[0] - 1;
  return list.map((q, i) => (i === index ? [Math.round(Math.min(high, Math.max(low, hue)) * 10) / 10, Math.round(Math.min(range.value[1], Math.max(range.value[0], value)) * 1e4) / 1e4] : q));
}
function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  const [hue, y] = at(e);
  let list = points.value.map((q) => [...q] as Pair);
  let index = list.findIndex((q) => Math.abs(q[0] - hue) < 6 && Math.abs(toY(q[1]) - y) < 12);
  if (index < 0) {
    if (list.length >= MOST) return;
    list = withPoint(hue, toValue(y));
    index = list.findIndex((q) => Math.abs(q[0] - hue) < 0.06);
    put(list);
  }
  hold(e, (m) => {
    const [h, py] = at(m);
    put(moved(list, index, h, toValue(py)));
  }, () => commit('hue band'));
}
function remove(index: number): void {
  put(points.value.filter((_, i) => i !== index));
  commit('hue band');
}
function clear(): void {
  put([]);
  commit('hue band');
}
/** By the keyboard: on the hue the area has most of, or half-way to the next point. */
function add(after: number | null): void {
  if (points.value.length >= MOST) return;
  const shares = treating.colours.value?.shares.hue ?? [1];
  const [a, b] = after === null ? [null, null] : [points.value[after], points.value[after + 1]];
  const hue = a && b ? (a[0] + b[0]) / 2 : (shares.indexOf(Math.max(...shares)) + 0.5) * (360 / shares.length);
  put(withPoint(Math.round(hue * 10) / 10, round(points.value, 360)(hue)));
  commit('hue band');
}
function key(e: KeyboardEvent, index: number): void {
  const by = e.shiftKey ? 0.2 : 1;
  const p = points.value[index] as Pair;
  if (arrows.press(e, (x, y) => put(moved(points.value, index, p[0] + x * by * 2, p[1] - (y * by * (range.value[1] - range.value[0])) / 100)))) return;
  if (e.key === 'Delete' || e.key === 'Backspace') remove(index);
  else if (e.key === 'Insert' || e.key === 'Enter') add(index);
  else return;
  e.preventDefault();
  e.stopPropagation();
}
</script>

<template>
  <div class="band">
    <div class="row">
      <PillChoice :options="tabs" :value="name" label="What changes with the hue" @choose="$event && (name = $event)" />
      <span class="grow"></span>
      <button type="button" class="plain dim" aria-label="Add a point to the hue band" @click="add(null)">Add</button>
      <button type="button" class="plain dim" :disabled="points.length === 0" @click="clear">None</button>
    </div>
    <svg ref="box" :viewBox="`0 0 ${W} ${H}`" preserveAspectRatio="none" role="group" :aria-label="`${words.label} by hue: Enter on a point adds one after it, Delete takes it away`" data-hue-band @pointerdown="down">
      <path class="own" :d="own" />
      <path class="still" :d="`M0 ${middle}H${W}`" />
      <path class="line" :d="`M${line}`" />
      <g
        v-for="(p, i) in points" :key="i" tabindex="0" role="slider" :aria-label="`Point ${i + 1} of ${points.length}`" :aria-valuenow="p[1]" :aria-valuemin="range[0]" :aria-valuemax="range[1]" :aria-valuetext="`${(p[1] * words.scale).toFixed(0)} ${words.unit} at ${p[0].toFixed(0)} degrees`"
        :transform="`translate(${(p[0] / 360) * W} ${toY(p[1])})`" @dblclick.stop="remove(i)" @keydown="key($event, i)" @blur="arrows.settle()"
      >
        <title>{{ (p[1] * words.scale).toFixed(0) }} {{ words.unit }} at {{ p[0].toFixed(0) }}°</title><circle class="target" r="12" /><path class="mark" d="M-4 -4L4 4M-4 4L4 -4" />
      </g>
    </svg>
    <i class="colours" :style="{ background: COLOURS }"></i>
  </div>
</template>

<style scoped src="./graph.css"></style>
<style scoped>
svg {
  height: 108px;
}

.own {
  fill: #303030;
}

.still {
  stroke: #444;
  stroke-dasharray: 2 4;
  vector-effect: non-scaling-stroke;
}

.colours {
  display: block;
  height: 10px;
}
</style>
