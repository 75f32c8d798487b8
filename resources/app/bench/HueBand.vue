<script setup lang="ts">
/** The hue band: pull a point up or down over the hue it concerns. The area's own hues stand behind. */
import { computed, ref } from 'vue';
import type { AreaColours, Pair } from '../api/types';
import { hold } from './drag';
import { round } from './spline';

export type BandName = 'saturation' | 'hue' | 'lightness';
const props = defineProps<{ bands: Record<BandName, Pair[]>; ranges: Record<BandName, Pair>; colours: AreaColours | null }>();
const emit = defineEmits<{ change: [name: BandName, points: Pair[]]; commit: [] }>();

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
const name = ref<BandName>('saturation');
const box = ref<SVGElement>();
const points = computed(() => props.bands[name.value]);
const range = computed(() => props.ranges[name.value]);
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
  const shares = props.colours?.shares.hue;
  if (!shares) return '';
  return `M0 ${H}` + shares.map((n, i) => `L${((i + 0.5) / shares.length) * W} ${H - n * 0.8 * H}`).join('') + `L${W} ${H}Z`;
});
const words = computed(() => NAMES.find((n) => n.value === name.value) as (typeof NAMES)[number]);

const at = (e: PointerEvent): Pair => {
  const r = (box.value as SVGElement).getBoundingClientRect();
  return [Math.min(359.9, Math.max(0, ((e.clientX - r.left) / r.width) * 360)), ((e.clientY - r.top) / r.height) * H];
};

function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  const [hue, y] = at(e);
  let list = points.value.map((q) => [...q] as Pair);
  let index = list.findIndex((q) => Math.abs(q[0] - hue) < 6 && Math.abs(toY(q[1]) - y) < 12);
  if (index < 0) {
    if (list.length > 29) return;
    // With two still points beside it, so that a pull concerns one hue and not all.
    const added: Pair[] = [[hue, toValue(y)]];
    const curve = round(list, 360);
    for (const beside of [hue - REACH, hue + REACH]) {
      const h = (beside + 360) % 360;
      if (!list.some((q) => Math.abs(((q[0] - h + 540) % 360) - 180) < REACH * 0.8)) added.push([h, Math.round(curve(h) * 1e4) / 1e4]);
    }
    list = [...list, ...added.map(([h, v]) => [Math.round(h * 10) / 10, v] as Pair)].sort((a, b) => a[0] - b[0]).filter((q, i, all) => i === 0 || q[0] > (all[i - 1] as Pair)[0]);
    index = list.findIndex((q) => Math.abs(q[0] - hue) < 0.06);
    emit('change', name.value, list);
  }
  hold(e, (m) => {
    const [h, py] = at(m);
    const low = index === 0 ? 0 : (list[index - 1] as Pair)[0] + 1;
    const high = index === list.length - 1 ? 360 : (list[index + 1] as Pair)[0] - 1;
    emit('change', name.value, list.map((q, i) => (i === index ? [Math.round(Math.min(high, Math.max(low, h)) * 10) / 10, toValue(py)] : q)));
  }, () => emit('commit'));
}
function remove(index: number): void {
  emit('change', name.value, points.value.filter((_, i) => i !== index));
  emit('commit');
}
</script>

<template>
  <div class="band">
    <div class="row">
      <span class="pills" role="group" aria-label="What changes with the hue"><button v-for="n in NAMES" :key="n.value" type="button" :aria-pressed="name === n.value" @click="name = n.value">{{ n.label }}<sup v-if="bands[n.value].length">•</sup></button></span>
      <span class="grow"></span>
      <button type="button" class="plain dim" :disabled="points.length === 0" @click="emit('change', name, []); emit('commit')">None</button>
    </div>
    <svg ref="box" :viewBox="`0 0 ${W} ${H}`" preserveAspectRatio="none" :aria-label="`${words.label} by hue`" data-hue-band @pointerdown="down">
      <path class="own" :d="own" />
      <path class="still" :d="`M0 ${middle}H${W}`" />
      <path class="line" :d="`M${line}`" />
      <g v-for="(p, i) in points" :key="i" :transform="`translate(${(p[0] / 360) * W} ${toY(p[1])})`" @dblclick.stop="remove(i)"><title>{{ (p[1] * words.scale).toFixed(0) }} {{ words.unit }} at {{ p[0].toFixed(0) }}°</title><path class="mark" d="M-4 -4L4 4M-4 4L4 -4" /></g>
    </svg>
    <i class="colours" :style="{ background: COLOURS }"></i>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  padding: 2px 0 6px;
}

sup {
  line-height: 0;
}

.pills button {
  padding: 1px 8px;
  font-size: 12px;
}

svg {
  display: block;
  width: 100%;
  height: 108px;
  background: #191919;
  cursor: crosshair;
  touch-action: none;
}

.own {
  fill: #303030;
}

.still {
  stroke: #444;
  stroke-dasharray: 2 4;
  vector-effect: non-scaling-stroke;
}

.line {
  fill: none;
  stroke: var(--t1);
  stroke-width: 1.4;
  vector-effect: non-scaling-stroke;
}

.mark {
  stroke: #fff;
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}

.colours {
  display: block;
  height: 10px;
}

.plain:disabled {
  visibility: hidden;
}
</style>
