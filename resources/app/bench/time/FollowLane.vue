<script setup lang="ts">
/**
 * The lane of an area: a comb of confidence, keyframes, closed lids, where it was lost, where tell-tales ring. On the chosen
 * one a drag chooses the frames to follow, and the ends of the live span with their fades can be dragged.
 */
import { computed } from 'vue';
import type { Area } from '../../api/types';
import { useArrows } from '../../widgets/useArrows';
import { useBench } from '../bench';
import { isFound } from '../outline/shapes';
import { hold } from '../picture/drag';
import LiveSpan from './LiveSpan.vue';
import { bellsOf, combOf, keyframesOf } from './lanes';
import { LEFT, useLanes } from './useLanes';

const props = defineProps<{ area: Area }>();
const { areas, motions, following, telltales, playhead, goTo } = useBench();
const { width, right, at, start, runs, frameAt, step, count, from, to } = useLanes();

const FULL = 28;
const SLIM = 14;
/** Lids closer than this are hatched. */
const SHUT = 0.3;
/** Pixels a press on a lane may move and still be a click. */
const STILL = 4;

const chosen = computed(() => areas.chosen.value?.id === props.area.id);
/** What can be pressed is at least so high; in a slim lane the name stands in what is seen of it. */
const TARGET = 24;
/** With many areas only the chosen lane keeps its full height. */
const height = computed(() => (areas.all.value.length > 4 && !chosen.value ? SLIM : FULL));
const letter = computed(() => areas.letters.value[props.area.id]);
const comb = computed(() => combOf(motions.confidence(props.area.id), count, step.value));
const lost = computed(() => runs((i) => ['lost', 'bridged'].includes(motions.states(props.area.id)[i] ?? '')));
const shut = computed(() => runs((i) => (motions.open(props.area.id)[i] ?? 1) < SHUT));
const notches = computed(() => keyframesOf(props.area).filter((f) => f >= from && f <= to));
const bells = computed(() => bellsOf(props.area, telltales.open.value));
const span = computed(() => (chosen.value ? following.span.value : null));
const words = computed(() => {
  if (height.value !== FULL || motions.openFor(props.area.id)) return '';
  const { by, keys, on } = props.area.motion;
  if (isFound(props.area.outline.shapes)) return 'found on every frame';
  if (by === 'ride') return `rides on ${areas.nameOf(on)}`;
  return by === 'none' && keys.length === 0 ? 'not followed: it stays where it was drawn' : '';
});

/** A drag chooses the frames to follow; a click goes there. */
function choose(e: PointerEvent): void {
  if (e.button !== 0) return;
  areas.choose(props.area.id);
  const first = frameAt(e);
  let dragged = false;
  hold(e, (m) => {
    if (!dragged && Math.abs(m.clientX - e.clientX) < STILL) return;
    dragged = true;
    const now = frameAt(m);
    following.chooseSpan([Math.min(first, now), Math.max(first, now)]);
  }, () => {
    if (dragged) return;
    following.chooseSpan(null);
    goTo(first);
  });
}
/** The same by the keyboard: the two ends of the chosen frames. */
const arrows = useArrows(() => undefined);
const ends = computed(() => [{ words: 'first', at: span.value?.[0] ?? from }, { words: 'last', at: span.value?.[1] ?? to }]);
function key(e: KeyboardEvent, end: number): void {
  const by = e.shiftKey ? 10 : 1;
  arrows.press(e, (x, y) => {
    const next: [number, number] = [span.value?.[0] ?? from, span.value?.[1] ?? to];
    next[end] = Math.min(to, Math.max(from, (next[end] as number) + (x - y) * by));
    following.chooseSpan(next[0] <= next[1] ? next : [next[1], next[0]]);
  });
  if (e.key === 'Delete') following.chooseSpan(null);
}
</script>

<template>
  <div class="lane" :class="{ chosen, off: !area.on }" :style="{ height: `${height}px` }">
    <button v-tooltip.right="area.name" type="button" class="plain name" :style="{ paddingBottom: `${Math.max(0, TARGET - height)}px` }" :aria-pressed="chosen" :aria-label="`Area ${letter}, ${area.name}`" @click="areas.choose(area.id)"><b>{{ letter }}</b> {{ area.name }}</button>
    <svg :width="width" :height="height" :data-lane="area.id" role="group" :aria-label="`Lane of ${area.name}`">
      <rect class="hit" :x="LEFT" :width="Math.max(0, width - LEFT)" :height="height" @pointerdown="choose" />
      <rect v-if="span" class="span" :x="start(span[0])" :width="start(span[1] + 1) - start(span[0])" y="1" :height="height - 3" />
      <line class="whole" :x1="LEFT" :x2="right" :y1="height - 4" :y2="height - 4" />
      <rect v-for="(run, i) in shut" :key="`s${i}`" class="shut" fill="url(#shut)" :x="run.x1" y="1" :width="run.x2 - run.x1" :height="height - 6" />
      <line v-for="(run, i) in lost" :key="`l${i}`" class="lost" :x1="run.x1" :x2="run.x2" :y1="height / 2" :y2="height / 2" />
      <line v-for="tick in comb" :key="tick.x" class="tick" :class="{ weak: tick.weak }" :x1="tick.x" :x2="tick.x" :y1="height - 5" :y2="height - 5 - (height - 9) * Math.max(0.06, tick.c)" :stroke-width="tick.w" />
      <g v-for="b in bells" :key="b.key" class="bell"><title>{{ b.word }}</title><line :x1="start(b.first)" :x2="start(b.last + 1)" y1="1.5" y2="1.5" /><path :d="`M${at(b.worst) - 4} 9L${at(b.worst) + 4} 9L${at(b.worst)} 2Z`" /></g>
      <path v-for="f in notches" :key="`n${f}`" class="notch" :d="`M${at(f) - 5} 0L${at(f) + 5} 0L${at(f)} 8Z`" />
      <circle v-if="area.motion.by === 'follow' && area.motion.track" class="start" :cx="at(area.motion.start ?? 0)" cy="6" r="4" />
      <text v-if="words" class="hint" :x="LEFT + 4" y="15">{{ words }}</text>
      <LiveSpan :area="area" :height="height" :chosen="chosen" />
      <template v-if="chosen">
        <rect v-for="(end, i) in ends" :key="end.words" class="end" :x="at(end.at) - 4" y="0" width="8" :height="height - 8" tabindex="0" role="slider" :aria-label="`Frames to follow, ${end.words}`" :aria-valuenow="end.at" :aria-valuemin="from" :aria-valuemax="to" @keydown="key($event, i)" />
      </template>
      <line class="head" :x1="at(playhead.frame.value)" :x2="at(playhead.frame.value)" y1="0" :y2="height" />
    </svg>
  </div>
</template>

<style scoped src="./time.css"></style>
<style scoped>
.lane {
  position: relative;
  width: 100%;
  overflow: hidden;
}

.name {
  position: absolute;
  z-index: 1;
  width: 108px;
  height: 100%;
  padding: 0 4px 0 10px;
  overflow: hidden;
  color: #a2a2a2;
  font-size: 11px;
  line-height: 14px;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.name b {
  display: inline-block;
  width: 16px;
  font-size: 12px;
  font-weight: 600;
}

.chosen .name {
  color: #c8c8c8;
}

.off {
  opacity: 0.6;
}

.span {
  fill: #4a4a4a;
  pointer-events: none;
}

.end {
  fill: transparent;
  pointer-events: none;
}

.end:focus-visible {
  outline: none;
  stroke: #fff;
}

.bell line {
  stroke: var(--t1);
  stroke-width: 3;
}

.bell path {
  fill: var(--t1);
  stroke: var(--g0);
}

.notch {
  fill: #c8c8c8;
  pointer-events: none;
  stroke: var(--g0);
}

.hint {
  fill: #9a9a9a;
  font-family: 'Instrument Sans Variable', sans-serif;
  font-size: 11px;
  pointer-events: none;
}

.whole {
  stroke: #383838;
}

.tick {
  pointer-events: none;
  stroke: #7a7a7a;
}

.chosen .tick {
  stroke: #a8a8a8;
}

.chosen .tick.weak {
  stroke: #c8c8c8;
}

.shut {
  pointer-events: none;
}

.lost {
  pointer-events: none;
  stroke: #a8a8a8;
  stroke-dasharray: 1 4;
}

.start {
  fill: var(--g0);
  pointer-events: none;
  stroke: #c8c8c8;
  stroke-width: 1.4;
}

.head {
  pointer-events: none;
}
</style>
