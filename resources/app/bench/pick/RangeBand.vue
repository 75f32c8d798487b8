<script setup lang="ts">
/** A range with its softness on a band, over where the area's own pixels lie: drag its ends, their soft tips, or the whole. */
import { computed, ref } from 'vue';
import type { Triple } from '../../api/types';
import { useArrows } from '../../widgets/useArrows';
import { hold } from '../picture/drag';

/** `round` bands hold a centre, a width and a softness; others least, most and softness. */
const props = defineProps<{ label: string; range: Triple; most: number; round?: boolean; shares: number[] | null; digits: number; scale?: number; unit?: string; colours?: string; shift?: number }>();
const emit = defineEmits<{ change: [range: Triple]; commit: [] }>();

type Part = 'low' | 'high' | 'soft low' | 'soft high' | 'whole';

const W = 300;
const H = 46;
const box = ref<SVGElement>();
const shift = computed(() => props.shift ?? 0);
/** Ends of the range along the band, as it acts on this frame. */
const ends = computed<[number, number]>(() => (props.round ? [props.range[0] - props.range[1] / 2, props.range[0] + props.range[1] / 2] : [props.range[0] + shift.value, props.range[1] + shift.value]));
const soft = computed(() => props.range[2]);
const all = computed(() => props.round === true && props.range[1] >= 360);
const x = (v: number): number => (v / props.most) * W;
const copies = computed(() => (props.round && !all.value ? [-props.most, 0, props.most] : [0]));
const shape = (off: number): string => {
  const [a, b] = ends.value;
  return `M${x(a - soft.value + off)} ${H}L${x(a + off)} 2H${x(b + off)}L${x(b + soft.value + off)} ${H}Z`;
};
const own = computed(() => (props.shares ? `M0 ${H}` + props.shares.map((n, i) => `L${((i + 0.5) / (props.shares as number[]).length) * W} ${H - n * (H - 6)}`).join('') + `L${W} ${H}Z` : ''));
const words = computed(() => {
  const f = (v: number): string => (v * (props.scale ?? 1)).toFixed(props.digits);
  if (all.value) return 'every';
  return props.round ? `${f(((props.range[0] % 360) + 360) % 360)} ± ${f(props.range[1] / 2)}${props.unit ?? ''}` : `${f(props.range[0])}–${f(props.range[1])}${props.unit ?? ''}`;
});

function down(e: PointerEvent): void {
  if (e.button !== 0) return;
  const r = (box.value as SVGElement).getBoundingClientRect();
  const at = (p: { clientX: number }): number => ((p.clientX - r.left) / r.width) * props.most;
  const start = at(e);
  const top = (e.clientY - r.top) / r.height < 0.5;
  const near = (v: number): number => {
    const d = Math.abs(start - v);
    return props.round ? Math.min(d, Math.abs(d - props.most)) : d;
  };
  const [a, b] = ends.value;
  const parts: [Part, number][] = [['low', near(a) + (top ? 0 : props.most * 0.02)], ['high', near(b) + (top ? 0 : props.most * 0.02)], ['soft low', near(a - soft.value) + (top ? props.most * 0.02 : 0)], ['soft high', near(b + soft.value) + (top ? props.most * 0.02 : 0)]];
  const closest = parts.sort((p, q) => p[1] - q[1])[0] as [Part, number];
  const inside = props.round ? Math.abs(((start - props.range[0] + 540) % 360) - 180) < props.range[1] / 2 : start > a && start < b;
  const part: Part = closest[1] < props.most * 0.035 ? closest[0] : inside ? 'whole' : closest[0];
  const before: Triple = [...props.range];
  hold(e, (m) => emit('change', moved(part, before, at(m) - start)), () => emit('commit'));
}
function moved(part: Part, [p, q, s]: Triple, by: number): Triple {
  const clamp = (v: number, low: number, high: number): number => Math.round(Math.min(high, Math.max(low, v)) * 1e4) / 1e4;
  if (props.round) {
    const turn = (v: number): number => clamp(((v % 360) + 360) % 360, 0, 360);
    if (part === 'whole') return [turn(p + by), q, s];
    if (part === 'low') return [turn(p + by / 2), clamp(q - by, 0, 360), s];
    if (part === 'high') return [turn(p + by / 2), clamp(q + by, 0, 360), s];
    return [p, q, clamp(s + (part === 'soft low' ? -by : by), 0, 180)];
  }
  const top = props.label === 'Lightness' ? 1.5 : 0.5;
  if (part === 'whole') return [clamp(p + by, 0, q), clamp(q + by, p, top), s];
  if (part === 'low') return [clamp(p + by, 0, q), q, s];
  if (part === 'high') return [p, clamp(q + by, p, top), s];
  return [p, q, clamp(s + (part === 'soft low' ? -by : by), 0, 0.5)];
}

/** By the keyboard: each end and how softly it fades, one after the other. */
const HANDLES = computed(() => {
  const [a, b] = ends.value;
  const list: { part: Part; words: string; at: number; value: number }[] = [
    { part: 'low', words: 'from', at: a, value: a },
    { part: 'high', words: 'to', at: b, value: b },
    { part: 'soft high', words: 'softness', at: b + soft.value, value: soft.value },
  ];
  return list.map((h) => ({ ...h, x: (x(((h.at % props.most) + props.most) % props.most || (h.at >= props.most ? props.most : 0)) / W) * 100 }));
});
const arrows = useArrows(() => emit('commit'));
const shown = (v: number): string => `${(v * (props.scale ?? 1)).toFixed(props.digits)}${props.unit ?? ''}`;
function key(e: KeyboardEvent, part: Part): void {
  arrows.press(e, (right, down_) => emit('change', moved(part, [...props.range], (right - down_) * (e.shiftKey ? 0.2 : 1) * props.most * 0.01)));
}
</script>

<template>
  <div class="range" :data-range="label">
    <div class="row"><span>{{ label }}</span><span class="grow"></span><span class="mono dim">{{ words }}</span></div>
    <div class="band" role="group" :aria-label="`${label}: ${words}`">
    <svg ref="box" :viewBox="`0 0 ${W} ${H}`" preserveAspectRatio="none" aria-hidden="true" @pointerdown="down">
      <path class="own" :d="own" />
      <path v-for="off in copies" :key="off" class="taken" :d="all ? `M0 ${H}V2H${W}V${H}Z` : shape(off)" />
    </svg>
    <i v-for="h in HANDLES" :key="h.part" class="handle" role="slider" tabindex="0" :style="{ left: `${h.x}%` }" :aria-label="`${label}, ${h.words}`" :aria-valuenow="h.value" :aria-valuemin="0" :aria-valuemax="most" :aria-valuetext="shown(h.value)" @keydown="key($event, h.part)" @blur="arrows.settle()"></i>
    </div>
    <i v-if="colours" class="colours" :style="{ background: colours }"></i>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  font-size: 12px;
}

svg {
  display: block;
  width: 100%;
  height: 46px;
  background: #191919;
  cursor: ew-resize;
  touch-action: none;
}

.band {
  position: relative;
}

.handle {
  position: absolute;
  top: 0;
  width: 8px;
  height: 46px;
  margin-left: -4px;
  pointer-events: none;
}

.own {
  fill: #4d4d4d;
}

.taken {
  fill: #fff;
  fill-opacity: 0.14;
  stroke: var(--t1);
  vector-effect: non-scaling-stroke;
}

.colours {
  display: block;
  height: 4px;
}
</style>
