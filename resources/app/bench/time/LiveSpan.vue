<script setup lang="ts">
/** The frames an area acts on, as a line under its lane that rises and falls with its fades; on the chosen lane with grips. */
import { computed } from 'vue';
import type { Area } from '../../api/types';
import type { LiveEnd } from '../areas/useAreas';
import { useArrows } from '../../widgets/useArrows';
import { useBench } from '../bench';
import { hold } from '../picture/drag';
import { useLanes } from './useLanes';

const props = defineProps<{ area: Area; height: number; chosen: boolean }>();
const { areas } = useBench();
const { start, step, from, to } = useLanes();

const base = computed(() => props.height - 2);
const top = computed(() => props.height - 6);
const line = computed(() => {
  const { from: a, to: b, fadeIn, fadeOut } = props.area.live;
  return `M${start(a)} ${base.value}L${start(a + fadeIn)} ${top.value}H${start(b + 1 - fadeOut)}L${start(b + 1)} ${base.value}`;
});
const grips = computed<{ end: LiveEnd; x: number; words: string; value: number; most: number }[]>(() => {
  const { from: a, to: b, fadeIn, fadeOut } = props.area.live;
  return [
    { end: 'from', x: start(a), words: 'First live frame', value: a, most: to },
    { end: 'to', x: start(b + 1), words: 'Last live frame', value: b, most: to },
    { end: 'fadeIn', x: start(a + fadeIn), words: 'Frames it fades in', value: fadeIn, most: b - a },
    { end: 'fadeOut', x: start(b + 1 - fadeOut), words: 'Frames it fades out', value: fadeOut, most: b - a },
  ];
});
/** Ends are taken hold of from outside, fades from inside, so that both can be where they meet. */
const reach = (end: LiveEnd): number => ({ from: -12, fadeIn: 1, fadeOut: -14, to: -1 })[end];
const isFade = (end: LiveEnd): boolean => end === 'fadeIn' || end === 'fadeOut';

function drag(e: PointerEvent, end: LiveEnd): void {
  if (e.button !== 0) return;
  e.stopPropagation();
  const was = props.area.live[end];
  let moved = false;
  hold(e, (m) => {
    if (!moved && Math.abs(m.clientX - e.clientX) < 2) return;
    moved = true;
    areas.live(end, was + (end === 'fadeOut' ? -1 : 1) * Math.round((m.clientX - e.clientX) / step.value));
  }, () => moved && void areas.liveDone(end));
}
let pressed: LiveEnd = 'from';
const arrows = useArrows(() => void areas.liveDone(pressed));
function key(e: KeyboardEvent, end: LiveEnd): void {
  pressed = end;
  arrows.press(e, (x, y) => areas.live(end, props.area.live[end] + (x - y) * (e.shiftKey ? 10 : 1)));
}
</script>

<template>
  <path class="live" :d="line" />
  <template v-if="chosen">
    <g
      v-for="g in grips" :key="g.end" class="grip" :data-live="g.end" :transform="`translate(${g.x} ${top})`" tabindex="0" role="slider" :aria-label="g.words" :aria-valuenow="g.value" :aria-valuemin="isFade(g.end) ? 0 : from" :aria-valuemax="g.most"
      @pointerdown="drag($event, g.end)" @keydown="key($event, g.end)" @blur="arrows.settle()"
    >
      <rect class="target" :x="reach(g.end)" :y="8 - height" width="13" :height="height - 3" />
      <path v-if="isFade(g.end)" d="M0 -4l4 4l-4 4l-4 -4z" /><path v-else :d="g.end === 'from' ? 'M4 -3h-4v9h4' : 'M-4 -3h4v9h-4'" class="bracket" />
    </g>
  </template>
</template>

<style scoped>
.live {
  fill: none;
  pointer-events: none;
  stroke: #7a7a7a;
  stroke-width: 1.4;
}

.grip {
  cursor: ew-resize;
}

.target {
  fill: transparent;
  pointer-events: all;
}

.grip path {
  fill: #c8c8c8;
  pointer-events: none;
  stroke: #161616;
}

.grip .bracket {
  fill: none;
  stroke: #c8c8c8;
  stroke-width: 1.8;
}

.grip:focus-visible {
  outline: none;
}

.grip:focus-visible .target {
  stroke: #fff;
}
</style>
