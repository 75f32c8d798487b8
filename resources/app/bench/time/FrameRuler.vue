<script setup lang="ts">
/** The frame ruler: drag it to move through frames; under it, what can be played at once. */
import { computed } from 'vue';
import { useBench } from '../bench';
import { hold } from '../picture/drag';
import { LEFT, useLanes } from './useLanes';

const { playhead, playback, goTo } = useBench();
const { width, at, marks, runs, frameAt, from, to } = useLanes();
const { frame } = playhead;
const ready = computed(() => runs((i) => playback.ready(from + i)));
const LEAP = 10;

function scrub(e: PointerEvent): void {
  if (e.button !== 0) return;
  goTo(frameAt(e));
  hold(e, (m) => goTo(frameAt(m)), () => undefined);
}
function key(e: KeyboardEvent): void {
  const to_ = { ArrowLeft: frame.value - 1, ArrowDown: frame.value - 1, ArrowRight: frame.value + 1, ArrowUp: frame.value + 1, PageDown: frame.value - LEAP, PageUp: frame.value + LEAP, Home: from, End: to }[e.key];
  if (to_ === undefined || e.shiftKey || e.altKey || e.ctrlKey) return;
  goTo(to_);
  e.preventDefault();
  e.stopPropagation();
}
</script>

<template>
  <svg
    class="ruler" :width="width" height="26" data-ruler :data-left="LEFT" role="slider" tabindex="0" aria-label="Frame" :aria-valuenow="frame" :aria-valuemin="from" :aria-valuemax="to" :aria-valuetext="`frame ${frame} of ${from} to ${to}`"
    @pointerdown="scrub" @keydown="key"
  >
    <rect class="hit" :width="width" height="26" />
    <rect v-for="(r, i) in ready" :key="`r${i}`" class="ready" :x="r.x1" y="23" :width="r.x2 - r.x1" height="2" />
    <g v-for="m in marks" :key="m.frame">
      <line :class="{ major: m.major }" :x1="at(m.frame)" :x2="at(m.frame)" :y1="m.major ? 9 : 16" y2="21" />
      <text v-if="m.major" :x="at(m.frame) + 3" y="15">{{ m.frame }}</text>
    </g>
    <rect class="flag" :x="at(frame) - 14" y="2" width="28" height="15" />
    <text class="now" :x="at(frame)" y="13.5">{{ frame }}</text>
    <line class="head" :x1="at(frame)" :x2="at(frame)" y1="17" y2="26" />
  </svg>
</template>

<style scoped src="./time.css"></style>
<style scoped>
.ruler {
  flex: none;
  cursor: ew-resize;
}

.ready {
  fill: #8a8a8a;
}

line {
  stroke: #6e6e6e;
}

line.major {
  stroke: #9a9a9a;
}

.flag {
  fill: #c8c8c8;
}

text.now {
  fill: #111;
  font-size: 11px;
  font-weight: 600;
  text-anchor: middle;
}

.ruler .head {
  stroke: #c8c8c8;
}
</style>
