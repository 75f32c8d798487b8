<script setup lang="ts">
/** The line that parts the picture from what it is compared with: moved by its grip, turned by the smaller one, or by arrow keys. */
import { computed } from 'vue';
import { useBench } from '../bench';
import { hold } from './drag';
import type { SplitPlace } from './useSplit';

const { stage, aspect } = useBench();
const { split } = defineProps<{ split: SplitPlace }>();
const grip = computed(() => split.reach(60));

function drag(e: PointerEvent, turning: boolean): void {
  e.stopPropagation();
  hold(e, (m) => {
    const [x, y] = stage.under(m);
    if (turning) split.turnTo((Math.atan2(y - split.at.value.y, x - split.at.value.x * aspect) * 180) / Math.PI);
    else split.moveTo(x / aspect, y);
  }, () => undefined);
}
function key(e: KeyboardEvent, turning: boolean): void {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
  if (!by) return;
  e.preventDefault();
  e.stopPropagation();
  const [dx = 0, dy = 0] = by;
  const fine = e.shiftKey ? 0.2 : 1;
  if (turning) split.turnTo(split.at.value.angle + 5 * fine * (dx + dy), false);
  else split.moveTo(split.at.value.x + 0.02 * fine * dx, split.at.value.y + 0.02 * fine * dy);
}
</script>

<template>
  <g class="split">
    <line :x1="split.ends.value[0][0]" :y1="split.ends.value[0][1]" :x2="split.ends.value[1][0]" :y2="split.ends.value[1][1]" />
    <circle
      class="grip" data-handle="split" r="7" :cx="split.centre.value[0]" :cy="split.centre.value[1]" tabindex="0" role="slider" aria-label="Split line, place" :aria-valuenow="Math.round(split.at.value.x * 100)" aria-valuemin="0" aria-valuemax="100"
      :aria-valuetext="`${Math.round(split.at.value.x * 100)} % across, ${Math.round(split.at.value.y * 100)} % down`" @pointerdown="drag($event, false)" @keydown="key($event, false)"
    />
    <circle
      class="grip turn" data-handle="split-turn" r="5" :cx="grip[0]" :cy="grip[1]" tabindex="0" role="slider" aria-label="Split line, angle" :aria-valuenow="Math.round(split.at.value.angle)" aria-valuemin="-180" aria-valuemax="180"
      :aria-valuetext="`${Math.round(split.at.value.angle)} degrees`" @pointerdown="drag($event, true)" @keydown="key($event, true)"
    />
  </g>
</template>

<style scoped>
line {
  stroke: #c8c8c8;
  stroke-width: 1;
}

.grip {
  cursor: move;
  fill: #2d2d2d;
  pointer-events: all;
  stroke: #c8c8c8;
}

.turn {
  cursor: grab;
}
</style>
