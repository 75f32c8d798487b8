<script setup lang="ts">
/** Handles of touches that act in a direction or from an offset: where the light comes from, what a spot is covered with. */
import { computed } from 'vue';
import type { Pair } from '../../api/types';
import { useArrows } from '../../widgets/useArrows';
import { useBench } from '../bench';
import { apply, minus, plus } from '../outline/geometry';
import { drag } from '../picture/drag';
import type { TouchHandle } from './useTreating';

const props = defineProps<{ handle: TouchHandle }>();
const { stage, treating, areas, store } = useBench();
const { onScreen } = stage;
const stated = (at: Pair): Pair => stage.stated(at, props.handle.matrix);
const change = (values: Record<string, number>): void => treating.pullHandle(props.handle.id, values);
const commit = (what: string): void => void store.commit(`${areas.chosen.value?.name ?? ''}, ${what}`);
const what = computed(() => (props.handle.kind === 'sidelight' ? 'direction' : 'place to cover from'));
const arrows = useArrows(() => commit(what.value));
const centre = computed(() => onScreen(apply(props.handle.matrix, props.handle.centre)));
const along = (u: number, v = 0): Pair => {
  const { centre: c, half, values, matrix } = props.handle;
  const a = ((values.direction ?? 0) * Math.PI) / 180;
  return onScreen(apply(matrix, [c[0] + half[0] * (u * Math.cos(a) - v * Math.sin(a)), c[1] + half[1] * (u * Math.sin(a) + v * Math.cos(a))]));
};
const lamp = computed(() => along(1.15));
const falls = computed(() => [-(props.handle.values.width ?? 1), 0, props.handle.values.width ?? 1].map((w) => {
  const u = (props.handle.values.position ?? 0) + w;
  return [along(u, -0.7), along(u, 0.7)] as [Pair, Pair];
}));
const source = computed(() => onScreen(apply(props.handle.matrix, plus(props.handle.centre, [props.handle.values.offsetX ?? 0, props.handle.values.offsetY ?? 0]))));
const radius = computed(() => Math.hypot(...minus(onScreen(apply(props.handle.matrix, plus(props.handle.centre, [props.handle.half[0], 0]))), centre.value)));
const round = (v: number, digits: number): number => Math.round(v * 10 ** digits) / 10 ** digits;

function turn(e: PointerEvent): void {
  drag(e, (at) => {
    const p = minus(stated(at), props.handle.centre);
    change({ direction: round((Math.atan2(p[1] / props.handle.half[1], p[0] / props.handle.half[0]) * 180) / Math.PI, 1) });
  }, (moved) => moved && commit('direction'));
}
function move(e: PointerEvent): void {
  const grab = minus(source.value, [e.clientX, e.clientY]);
  const stage = ((e.currentTarget as Element).closest('[data-stage]') as Element).getBoundingClientRect();
  drag(e, (at) => {
    const p = minus(stated(plus(at, plus(grab, [stage.left, stage.top]))), props.handle.centre);
    change({ offsetX: round(p[0], 5), offsetY: round(p[1], 5) });
  }, (moved) => moved && commit('place to cover from'));
}
function keyTurn(e: KeyboardEvent): void {
  arrows.press(e, (x, y) => change({ direction: round(((((props.handle.values.direction ?? 0) + (x - y) * (e.shiftKey ? 10 : 1) + 540) % 360) - 180), 1) }));
}
function keyMove(e: KeyboardEvent): void {
  const by = (e.shiftKey ? 10 : 1) / stage.rows;
  arrows.press(e, (x, y) => change({ offsetX: round((props.handle.values.offsetX ?? 0) + x * by, 5), offsetY: round((props.handle.values.offsetY ?? 0) + y * by, 5) }));
}
</script>

<template>
  <g v-if="handle.kind === 'sidelight'" class="handle">
    <template v-for="pass in ['dark', 'light']" :key="pass">
      <path :class="pass" :d="`M${centre.join(' ')}L${lamp.join(' ')}`" />
      <path v-for="(f, i) in falls" :key="i" :class="[pass, i === 1 ? 'mid' : 'end']" :d="`M${f[0].join(' ')}L${f[1].join(' ')}`" />
    </template>
    <circle class="grip" data-handle="sidelight" r="7" :cx="lamp[0]" :cy="lamp[1]" tabindex="0" role="slider" aria-label="Where the light comes from" :aria-valuenow="handle.values.direction ?? 0" aria-valuemin="-180" aria-valuemax="180" :aria-valuetext="`${handle.values.direction ?? 0} degrees`" @pointerdown="turn" @keydown="keyTurn" @blur="arrows.settle()" />
  </g>
  <g v-else class="handle">
    <template v-for="pass in ['dark', 'light']" :key="pass">
      <path :class="pass" :d="`M${centre.join(' ')}L${source.join(' ')}`" />
      <circle :class="pass" :r="Math.max(4, radius)" :cx="source[0]" :cy="source[1]" />
    </template>
    <circle class="grip ring" data-handle="conceal" :r="Math.max(8, radius)" :cx="source[0]" :cy="source[1]" tabindex="0" role="button" aria-label="Place to cover from: move it by the arrow keys" @pointerdown="move" @keydown="keyMove" @blur="arrows.settle()" />
  </g>
</template>

<style scoped>
.dark,
.light {
  fill: none;
  pointer-events: none;
}

.dark {
  stroke: #000;
  stroke-opacity: 0.55;
  stroke-width: 2.8;
}

.light {
  stroke: #fff;
  stroke-width: 1.1;
}

.end {
  stroke-dasharray: 2 5;
}

.grip {
  fill: #000;
  fill-opacity: 0.35;
  stroke: #fff;
  stroke-width: 1.4;
  cursor: grab;
  pointer-events: all;
}

.ring {
  fill-opacity: 0;
  stroke: none;
  cursor: move;
}
</style>
