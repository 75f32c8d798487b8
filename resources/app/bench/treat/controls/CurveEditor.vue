<script setup lang="ts">
/**
 * Curves through points that are dragged, with the area's levels behind them. Click adds a point, double-click or dragging
 * it out takes it away. The line drawn is the server's curve in shape: straight pieces between the points would mislead,
 * so it uses the same monotone cubic.
 */
import { computed, ref } from 'vue';
import type { Pair } from '../../../api/types';
import PillChoice from '../../../widgets/PillChoice.vue';
import { useArrows } from '../../../widgets/useArrows';
import { useBench } from '../../bench';
import { hold } from '../../picture/drag';
import { useTouch } from '../useTouch';
import { monotone } from './spline';

type CurveName = 'luma' | 'red' | 'green' | 'blue';
const { treating } = useBench();
const { touch, change, commit } = useTouch();
const curves = computed(() => touch.value as unknown as Record<CurveName, Pair[]>);
const arrows = useArrows(() => commit('curve'));

const NAMES: { value: CurveName; label: string }[] = [
  { value: 'luma', label: 'Luma' },
  { value: 'red', label: 'Red' },
  { value: 'green', label: 'Green' },
  { value: 'blue', label: 'Blue' },
];
const W = 320;
const H = 168;
const ENDS: Pair[] = [[0, 0], [1, 1]];
const name = ref<CurveName>('luma');
const box = ref<SVGElement>();
const tabs = computed(() => NAMES.map((n) => ({ ...n, marked: curves.value[n.value].length > 0 })));
const points = computed<Pair[]>(() => (curves.value[name.value].length ? curves.value[name.value] : ENDS));
const line = computed(() => {
  const curve = monotone(points.value);
  return Array.from({ length: 81 }, (_, i) => `${((i / 80) * W).toFixed(1)} ${(H - Math.min(1.02, Math.max(-0.02, curve(i / 80))) * H).toFixed(1)}`).join('L');
});
const levels = computed(() => {
  const counts = treating.colours.value?.levels[name.value];
  if (!counts) return '';
  const peak = Math.max(1, ...counts.slice(1, -1));
  return `M0 ${H}` + counts.map((n, i) => `L${((i + 0.5) / counts.length) * W} ${H - Math.min(1, n / peak) * 0.85 * H}`).join('') + `L${W} ${H}Z`;
});

const at = (e: PointerEvent): Pair => {
  const r = (box.value as SVGElement).getBoundingClientRect();
  return [Math.min(1, Math.max(0, (e.clientX - r.left) / r.width)), 1 - (e.clientY - r.top) / r.height];
};
const round = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * 1e4) / 1e4;

const put = (list: Pair[]): void => change({ [name.value]: list });

/** The points with one of them moved, kept between its neighbours. */
function moved(list: Pair[], index: number, p: Pair): Pair[] {
  const low = index === 0 ? 0 : (list[index - 1] as Pair)[0] + 0.01;
  const high = index === list.length - 1 ? 1 : (list[index + 1] as Pair)[0] - 0.01;
  return list.map((q, i) => (i === index ? [round(Math.min(high, Math.max(low, p[0]))), round(p[1])] : q));
}

function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  const p = at(e);
  let list = points.value.map((q) => [...q] as Pair);
  const r = (box.value as SVGElement).getBoundingClientRect();
  let index = list.findIndex((q) => Math.hypot((q[0] - p[0]) * r.width, (q[1] - p[1]) * r.height) < 11);
  if (index < 0) {
    if (list.length >= 32) return;
    list = [...list, [round(p[0]), round(p[1])] as Pair].sort((a, b) => a[0] - b[0]);
    index = list.findIndex((q) => q[0] === round(p[0]));
    list = moved(list, index, p);
    put(list);
  }
  hold(e, (m) => {
    const q = at(m);
    const out = q[1] < -0.25 || q[1] > 1.25;
    const next = out && list.length > 2 ? list.filter((_, i) => i !== index) : moved(list, index, q);
    put(next);
  }, () => commit('curve'));
}

function remove(index: number): void {
  if (points.value.length <= 2) return;
  put(points.value.filter((_, i) => i !== index));
  commit('curve');
}
function clear(): void {
  put([]);
  commit('curve');
}
/** By the keyboard: half-way to the next point, on the line. */
function add(after: number): void {
  const [a, b] = [points.value[after], points.value[after + 1]];
  if (!a || !b || points.value.length >= 32) return;
  const x = round((a[0] + b[0]) / 2);
  put([...points.value.slice(0, after + 1), [x, round(monotone(points.value)(x))], ...points.value.slice(after + 1)]);
  commit('curve');
}
function key(e: KeyboardEvent, index: number): void {
  const by = e.shiftKey ? 0.002 : 0.01;
  const p = points.value[index] as Pair;
  if (arrows.press(e, (x, y) => put(moved(points.value, index, [p[0] + x * by, p[1] - y * by])))) return;
  if (e.key === 'Delete' || e.key === 'Backspace') remove(index);
  else if (e.key === 'Insert' || e.key === 'Enter') add(index);
  else return;
  e.preventDefault();
  e.stopPropagation();
}
</script>

<template>
  <div class="curves">
    <div class="row">
      <PillChoice :options="tabs" :value="name" label="Curve" @choose="$event && (name = $event)" />
      <span class="grow"></span>
      <button type="button" class="plain dim" :disabled="curves[name].length === 0" @click="clear">Straight</button>
    </div>
    <svg ref="box" :viewBox="`0 0 ${W} ${H}`" preserveAspectRatio="none" role="group" :aria-label="`${name} curve: Enter on a point adds one after it, Delete takes it away`" data-curve @pointerdown="down">
      <path class="levels" :d="levels" />
      <path class="grid" :d="[0.25, 0.5, 0.75].map((v) => `M${v * W} 0V${H}M0 ${v * H}H${W}`).join('')" />
      <path class="straight" :d="`M0 ${H}L${W} 0`" />
      <path class="line" :d="`M${line}`" />
      <g
        v-for="(p, i) in points" :key="i" tabindex="0" role="slider" :aria-label="`Point ${i + 1} of ${points.length}`" :aria-valuenow="Math.round(p[1] * 1000) / 1000" aria-valuemin="0" aria-valuemax="1" :aria-valuetext="`${(p[0] * 100).toFixed(1)} to ${(p[1] * 100).toFixed(1)}`"
        :transform="`translate(${p[0] * W} ${H - p[1] * H})`" @dblclick.stop="remove(i)" @keydown="key($event, i)" @blur="arrows.settle()"
      >
        <circle class="target" r="12" /><path class="mark" d="M-4 -4L4 4M-4 4L4 -4" />
      </g>
    </svg>
  </div>
</template>

<style scoped src="./graph.css"></style>
<style scoped>
svg {
  overflow: visible;
  height: 168px;
}

.levels {
  fill: #303030;
}

.grid,
.straight {
  fill: none;
  stroke: #3a3a3a;
  vector-effect: non-scaling-stroke;
}

.straight {
  stroke-dasharray: 2 4;
}
</style>
