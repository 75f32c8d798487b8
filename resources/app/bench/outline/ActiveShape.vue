<script setup lang="ts">
/**
 * The shape being worked on and everything on it that can be dragged or moved by arrow keys: edge crosses or path points,
 * feather hairs by their tips, the letter to turn, the inside to move. Where the motion is being corrected, the same drags
 * move, turn and scale the whole on this frame.
 */
import { computed, toRef } from 'vue';
import type { Area, DrawnShape, Pair } from '../../api/types';
import { useBench } from '../bench';
import { useArrows } from '../../widgets/useArrows';
import { useCorrecting } from '../follow/useCorrecting';
import type { Matrix } from './geometry';
import PathPoints from './PathPoints.vue';
import { useShapeDrags } from './useShapeDrags';
import { useShapeOnStage } from './useShapeOnStage';

const props = defineProps<{ shape: DrawnShape; matrix: Matrix; letter: string; flag: Pair; area: Area }>();
const { stage, following } = useBench();
const shape = toRef(props, 'shape');
const matrix = toRef(props, 'matrix');
const onStage = useShapeOnStage(shape, matrix, stage);
const { line, hairs, crosses, turn } = onStage;
const drags = useShapeDrags(shape, matrix, onStage);
const correcting = following.correcting;
const corrections = useCorrecting(toRef(() => props.area.motion.pivot), matrix);
const acts = computed(() => (correcting.value ? corrections : drags));
const arrows = useArrows(() => (correcting.value ? corrections.settle() : drags.settle()));

const name = computed(() => `${props.area.name}, ${props.shape.kind}`);
const main = computed(() => hairs.value.filter((h) => h.main));
const percent = (v: number): number => Math.round(v * 1000) / 10;
/** One focusable handle for each value; the others at the other sides do the same. */
const SIDES = ['Width', 'Height'];

function key(e: KeyboardEvent, move: (x: number, y: number) => void): void {
  const steps = e.shiftKey ? 10 : 1;
  arrows.press(e, (x, y) => move(x * steps, y * steps));
}
</script>

<template>
  <g class="chosen" role="group" :aria-label="`Outline of ${name}`">
    <path class="inside" :d="line" fill-rule="evenodd" tabindex="0" role="button" :aria-label="`Move ${name} by the arrow keys`" @pointerdown="acts.move" @keydown="key($event, acts.moveBy)" @blur="arrows.settle()" />
    <template v-if="!correcting">
      <g v-for="h in hairs" :key="h.i" class="hair" :class="{ main: h.main }" aria-hidden="true">
        <line class="under" :x1="h.inner[0]" :y1="h.inner[1]" :x2="h.outer[0]" :y2="h.outer[1]" />
        <line class="over" :x1="h.inner[0]" :y1="h.inner[1]" :x2="h.outer[0]" :y2="h.outer[1]" />
      </g>
    </template>
    <path class="under" :d="line" />
    <path class="over" :d="line" />
    <path v-if="shape.kind === 'path' && !correcting" class="along" data-handle="edge" :d="line" aria-hidden="true" @pointerdown="$event.ctrlKey ? drags.pointHere($event) : drags.move($event)" @dblclick="drags.pointHere" />
    <g
      v-for="c in crosses" :key="`c${c.i}`" class="cross" :data-handle="`edge-${c.i}`" :transform="`translate(${c.at[0]} ${c.at[1]}) rotate(${turn})`"
      v-bind="c.i < 2 && 'radii' in shape ? { tabindex: 0, role: 'slider', 'aria-label': SIDES[c.i], 'aria-valuenow': percent(2 * (shape.radii[c.i] ?? 0)), 'aria-valuetext': `${percent(2 * (shape.radii[c.i] ?? 0))} % of the picture’s height` } : { 'aria-hidden': true }"
      @pointerdown="acts.size($event, c.i % 2 === 0 ? 0 : 1)" @keydown="key($event, (x, y) => acts.sizeBy(c.i % 2 === 0 ? 0 : 1, x - y))" @blur="arrows.settle()"
    >
      <circle r="8" class="grip" />
      <path class="under" d="M-5 0h10M0 -5v10" />
      <path class="over" d="M-5 0h10M0 -5v10" />
    </g>
    <template v-if="!correcting">
      <template v-for="h in main" :key="`t${h.i}`">
        <g
          v-for="side in (['inner', 'outer'] as const)" :key="side" class="tip" :data-handle="`${side}-${h.i}`" :transform="`translate(${h[side][0]} ${h[side][1]})`"
          v-bind="h.i === 0 ? { tabindex: 0, role: 'slider', 'aria-label': side === 'inner' ? 'Feather inside' : 'Feather outside', 'aria-valuenow': percent(side === 'inner' ? shape.featherIn : shape.featherOut), 'aria-valuetext': `${percent(side === 'inner' ? shape.featherIn : shape.featherOut)} %` } : { 'aria-hidden': true }"
          @pointerdown="drags.feather($event, h, side)" @keydown="key($event, (x, y) => drags.featherBy(side, x - y))" @blur="arrows.settle()"
        >
          <circle r="7" class="grip" /><circle r="2.8" />
        </g>
      </template>
      <PathPoints v-if="shape.kind === 'path'" :shape="shape" :matrix="matrix" :drags="drags" />
    </template>
    <g
      class="flag chosen" data-handle="flag" tabindex="0" role="slider" :aria-label="`Turn ${name}`" :aria-valuenow="Math.round(turn * 10) / 10" :aria-valuetext="`${Math.round(turn * 10) / 10} degrees`"
      :transform="`translate(${flag[0]} ${flag[1]})`" @pointerdown="acts.turn" @keydown="key($event, (x, y) => acts.turnBy(x - y))" @blur="arrows.settle()"
    >
      <rect class="target" x="-2" y="-25" width="36" height="27" />
      <path d="M0 0l9 -22h22v20h-20z" />
      <text x="20" y="-7.5" font-size="13">{{ letter }}</text>
    </g>
  </g>
</template>

<style scoped src="./outline.css"></style>
