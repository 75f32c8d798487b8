<script setup lang="ts">
/**
 * The outline of the chosen area on the picture and everything on it that can be dragged: edge crosses, feather hairs
 * by their tips, the letter flag to turn, the inside to move.
 */
import { computed } from 'vue';
import type { Ellipse, Pair } from '../api/types';
import { apply, edge, inverse, placed, rounded, type Matrix } from './geometry';

const props = defineProps<{
  shape: Ellipse;
  matrix: Matrix;
  /** Screen pixels of one picture height, and the picture's top left. */
  unit: number;
  origin: Pair;
  letter: string;
  chosen: boolean;
  dash: string;
}>();
const emit = defineEmits<{ change: [what: string, change: Partial<Ellipse>]; commit: [what: string]; choose: [] }>();

const HAIRS = 24;
const TIP = 9;

const on = computed(() => placed(props.shape, props.matrix));
const grown = computed<Pair>(() => {
  const g = props.shape.grow * on.value.scale;
  return [Math.max(0.001, on.value.radii[0] + g), Math.max(0.001, on.value.radii[1] + g)];
});
const centre = computed<Pair>(() => [props.origin[0] + on.value.centre[0] * props.unit, props.origin[1] + on.value.centre[1] * props.unit]);
const radii = computed<Pair>(() => [grown.value[0] * props.unit, grown.value[1] * props.unit]);

const point = (t: number): { at: Pair; normal: Pair } => {
  const { at, normal } = edge(radii.value, on.value.turn, t);
  return { at: [centre.value[0] + at[0], centre.value[1] + at[1]], normal };
};
const feather = computed(() => ({ inner: props.shape.featherIn * on.value.scale * props.unit, outer: props.shape.featherOut * on.value.scale * props.unit }));

const hairs = computed(() =>
  Array.from({ length: HAIRS }, (_, i) => {
    const { at, normal } = point((i / HAIRS) * 2 * Math.PI);
    const main = i % (HAIRS / 4) === 0;
    const inner = Math.max(feather.value.inner, main ? TIP : 3);
    const outer = Math.max(feather.value.outer, main ? TIP : 3);
    return { i, main, x1: at[0] - normal[0] * inner, y1: at[1] - normal[1] * inner, x2: at[0] + normal[0] * outer, y2: at[1] + normal[1] * outer };
  }),
);
const crosses = computed(() => [0, 1, 2, 3].map((i) => ({ i, ...point((i * Math.PI) / 2) })));
const flag = computed(() => point(-Math.PI / 4).at);

/** Follows the pointer until it is let go; `move` gets where it is, in screen pixels of the stage. */
function drag(e: PointerEvent, what: string, move: (at: Pair) => Partial<Ellipse>): void {
  if (e.button !== 0) return;
  e.stopPropagation();
  e.preventDefault();
  const handle = e.currentTarget as SVGElement;
  const stage = (handle.ownerSVGElement as SVGSVGElement).getBoundingClientRect();
  handle.setPointerCapture(e.pointerId);
  let moved = false;
  const onMove = (m: PointerEvent): void => {
    moved = true;
    emit('change', what, move([m.clientX - stage.left, m.clientY - stage.top]));
  };
  const onUp = (): void => {
    handle.removeEventListener('pointermove', onMove);
    handle.removeEventListener('pointerup', onUp);
    handle.removeEventListener('pointercancel', onUp);
    if (moved) emit('commit', what);
  };
  handle.addEventListener('pointermove', onMove);
  handle.addEventListener('pointerup', onUp);
  handle.addEventListener('pointercancel', onUp);
}

/** From the screen to where the outline is stated. */
const stated = ([x, y]: Pair): Pair => apply(inverse(props.matrix), [(x - props.origin[0]) / props.unit, (y - props.origin[1]) / props.unit]);

function move(e: PointerEvent): void {
  const stage = ((e.currentTarget as SVGElement).ownerSVGElement as SVGSVGElement).getBoundingClientRect();
  const from = stated([e.clientX - stage.left, e.clientY - stage.top]);
  const was = props.shape.centre;
  drag(e, 'Move outline', (at) => {
    const to = stated(at);
    return { centre: [rounded(was[0] + to[0] - from[0]), rounded(was[1] + to[1] - from[1])] };
  });
}

function size(e: PointerEvent, axis: 0 | 1): void {
  drag(e, 'Resize outline', ([x, y]) => {
    const r = (on.value.turn * Math.PI) / 180;
    const dx = x - centre.value[0];
    const dy = y - centre.value[1];
    const along = axis === 0 ? dx * Math.cos(r) + dy * Math.sin(r) : dy * Math.cos(r) - dx * Math.sin(r);
    const length = Math.max(0.002, Math.abs(along) / props.unit / on.value.scale - props.shape.grow);
    const next: Pair = [...props.shape.radii];
    next[axis] = rounded(length);
    return { radii: next };
  });
}

function feathered(e: PointerEvent, i: number, side: 'featherIn' | 'featherOut'): void {
  const t = (i / HAIRS) * 2 * Math.PI;
  drag(e, side === 'featherIn' ? 'Inner feather' : 'Outer feather', ([x, y]) => {
    const { at, normal } = point(t);
    const along = ((x - at[0]) * normal[0] + (y - at[1]) * normal[1]) * (side === 'featherIn' ? -1 : 1);
    const value = along <= TIP + 1 ? 0 : along / props.unit / on.value.scale;
    return { [side]: rounded(Math.min(1, value)) };
  });
}

function turn(e: PointerEvent): void {
  const stage = ((e.currentTarget as SVGElement).ownerSVGElement as SVGSVGElement).getBoundingClientRect();
  const angle = ([x, y]: Pair): number => (Math.atan2(y - centre.value[1], x - centre.value[0]) * 180) / Math.PI;
  const from = angle([e.clientX - stage.left, e.clientY - stage.top]);
  const was = props.shape.turn;
  drag(e, 'Turn outline', (at) => ({ turn: rounded(((((was + angle(at) - from + 180) % 360) + 360) % 360) - 180) }));
}
</script>

<template>
  <g :class="{ chosen }">
    <ellipse
      v-if="chosen"
      class="inside"
      :cx="centre[0]" :cy="centre[1]" :rx="radii[0]" :ry="radii[1]"
      :transform="`rotate(${on.turn} ${centre[0]} ${centre[1]})`"
      @pointerdown="move"
    />
    <template v-if="chosen">
      <g v-for="h in hairs" :key="h.i" class="hair" :class="{ main: h.main }">
        <line class="under" :x1="h.x1" :y1="h.y1" :x2="h.x2" :y2="h.y2" />
        <line class="over" :x1="h.x1" :y1="h.y1" :x2="h.x2" :y2="h.y2" />
      </g>
    </template>
    <ellipse class="under" :cx="centre[0]" :cy="centre[1]" :rx="radii[0]" :ry="radii[1]" :stroke-dasharray="dash" :transform="`rotate(${on.turn} ${centre[0]} ${centre[1]})`" />
    <ellipse class="over" :cx="centre[0]" :cy="centre[1]" :rx="radii[0]" :ry="radii[1]" :stroke-dasharray="dash" :transform="`rotate(${on.turn} ${centre[0]} ${centre[1]})`" />
    <template v-if="chosen">
      <g v-for="c in crosses" :key="`c${c.i}`" class="cross" :data-handle="`edge-${c.i}`" :transform="`translate(${c.at[0]} ${c.at[1]}) rotate(${on.turn})`" @pointerdown="size($event, c.i % 2 === 0 ? 0 : 1)">
        <circle r="8" class="grip" />
        <path class="under" d="M-5 0h10M0 -5v10" />
        <path class="over" d="M-5 0h10M0 -5v10" />
      </g>
      <template v-for="h in hairs.filter((hair) => hair.main)" :key="`t${h.i}`">
        <g class="tip" :data-handle="`inner-${h.i}`" :transform="`translate(${h.x1} ${h.y1})`" @pointerdown="feathered($event, h.i, 'featherIn')"><circle r="7" class="grip" /><circle r="2.8" /></g>
        <g class="tip" :data-handle="`outer-${h.i}`" :transform="`translate(${h.x2} ${h.y2})`" @pointerdown="feathered($event, h.i, 'featherOut')"><circle r="7" class="grip" /><circle r="2.8" /></g>
      </template>
    </template>
    <g class="flag" :class="{ chosen }" data-handle="flag" :transform="`translate(${flag[0]} ${flag[1]})`" @pointerdown="chosen ? turn($event) : (emit('choose'), $event.stopPropagation())">
      <path :d="chosen ? 'M0 0l9 -22h22v20h-20z' : 'M0 0l6 -15h15v13h-14z'" />
      <text :x="chosen ? 20 : 13.5" :y="chosen ? -7.5 : -4.8" :font-size="chosen ? 13 : 10">{{ letter }}</text>
    </g>
  </g>
</template>

<style scoped>
ellipse,
line,
path {
  fill: none;
  pointer-events: none;
}

.under {
  stroke: #000;
  stroke-opacity: 0.55;
  stroke-width: 2.6;
}

.over {
  stroke: #d8d8d8;
  stroke-width: 1;
}

.chosen > .over {
  stroke: #fff;
  stroke-width: 1.2;
}

.inside {
  cursor: move;
  fill: transparent;
  pointer-events: all;
}

.hair .under {
  stroke-width: 1.8;
  stroke-opacity: 0.4;
}

.hair .over {
  stroke: #fff;
  stroke-opacity: 0.5;
  stroke-width: 0.7;
}

.hair.main .under {
  stroke-width: 2.6;
}

.hair.main .over {
  stroke-opacity: 1;
  stroke-width: 1.1;
}

.grip {
  fill: transparent;
  pointer-events: all;
}

.cross {
  cursor: nwse-resize;
}

.cross .over {
  stroke-width: 1.6;
}

.cross .under {
  stroke-width: 3.6;
}

.tip {
  cursor: crosshair;
}

.tip circle:last-child {
  fill: #fff;
  pointer-events: none;
  stroke: #000;
  stroke-opacity: 0.7;
}

.flag {
  cursor: pointer;
}

.flag.chosen {
  cursor: grab;
}

.flag path {
  fill: #c8c8c8;
  pointer-events: all;
  stroke: #000;
  stroke-opacity: 0.6;
}

.flag text {
  fill: #111;
  font-weight: 700;
  pointer-events: none;
  text-anchor: middle;
}
</style>
