<script setup lang="ts">
/** The frame ruler and a lane for each area: how surely it was followed, frame by frame. Below, hairlines to the witnesses. */
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Area, Finding } from '../api/types';
import type { Witness } from './useWitnesses';

const props = defineProps<{
  from: number;
  to: number;
  frame: number;
  areas: Area[];
  chosen: string | null;
  letters: Record<string, string>;
  confidence: Record<string, (number | null)[]>;
  states: Record<string, (string | null)[]>;
  following: Record<string, boolean>;
  /** How far the lids are open, by area. */
  openness: Record<string, (number | null)[]>;
  /** Frames chosen to be followed, on the chosen area's lane. */
  span: [number, number] | null;
  /** Tell-tales that ring. */
  telltales: Finding[];
  /** Frames that are ready to play. */
  ready: number[];
  witnesses: Witness[];
}>();
const emit = defineEmits<{ go: [frame: number]; choose: [area: string]; span: [span: [number, number] | null] }>();

const LEFT = 76;
const RIGHT = 16;
const FULL = 26;
const SLIM = 12;
/** With many areas only the chosen lane keeps its full height. */
const laneOf = (area: Area): number => (props.areas.length > 4 && area.id !== props.chosen ? SLIM : FULL);
/** Lids closer than this are hatched. */
const SHUT = 0.3;
const box = ref<HTMLElement>();
const { width } = useElementSize(box);

const count = computed(() => props.to - props.from + 1);
const step = computed(() => Math.max(0.0001, (width.value - LEFT - RIGHT) / count.value));
const at = (frame: number): number => LEFT + (frame - props.from + 0.5) * step.value;
const every = computed(() => [1, 2, 5, 6, 12, 24, 48, 120, 240, 600, 1200, 2400, 6000].find((n) => n * step.value >= 60) ?? 12000);
const marks = computed(() => {
  const minor = Math.max(1, every.value / (every.value % 12 === 0 ? 12 : every.value % 5 === 0 ? 5 : every.value));
  const list: { frame: number; major: boolean }[] = [];
  for (let f = Math.ceil(props.from / minor) * minor; f <= props.to; f += minor) if (minor * step.value >= 3 || f % every.value === 0) list.push({ frame: f, major: f % every.value === 0 });
  return list;
});

interface Tick { x: number; w: number; c: number; weak: boolean }
/** Where frames are narrower than ticks, a column shows the worst frame it covers. */
function comb(area: Area): Tick[] {
  const values = props.confidence[area.id] ?? [];
  const columns = Math.min(count.value, Math.max(1, Math.floor((width.value - LEFT - RIGHT) / 3)));
  const ticks: Tick[] = [];
  for (let i = 0; i < columns; ++i) {
    const first = Math.floor((i * count.value) / columns);
    const last = Math.max(first, Math.floor(((i + 1) * count.value) / columns) - 1);
    let worst: number | null = null;
    for (let k = first; k <= last; ++k) {
      const v = values[k];
      if (v !== null && v !== undefined && (worst === null || v < worst)) worst = v;
    }
    if (worst !== null) ticks.push({ x: LEFT + ((first + last + 1) / 2) * step.value, w: Math.min(5, Math.max(1.5, (last - first + 1) * step.value * 0.5)), c: worst, weak: worst < 0.4 });
  }
  return ticks;
}

/** Runs of frames for which something holds. */
function runs(holds: (i: number) => boolean): { x1: number; x2: number }[] {
  const found: { x1: number; x2: number }[] = [];
  for (let i = 0; i < count.value; ++i) {
    if (!holds(i)) continue;
    const first = i;
    while (i + 1 < count.value && holds(i + 1)) ++i;
    found.push({ x1: LEFT + first * step.value, x2: LEFT + (i + 1) * step.value });
  }
  return found;
}
const lost = (area: Area): { x1: number; x2: number }[] => runs((i) => ['lost', 'bridged'].includes(props.states[area.id]?.[i] ?? ''));
const shut = (area: Area): { x1: number; x2: number }[] => runs((i) => (props.openness[area.id]?.[i] ?? 1) < SHUT);
/** Frames on which somebody set something by hand. */
const notches = (area: Area): number[] => [...new Set([...area.motion.keys.map((k) => k.frame), ...area.outline.shapes.flatMap((s) => [...s.keys, ...(s.kind === 'area' ? [] : (s.motion?.keys ?? []))].map((k) => k.frame)), ...area.blinkGuard.keys.map((k) => k.frame)])].filter((f) => f >= props.from && f <= props.to);

/** Where a tell-tale of an area rings: the frames over its limit, and the worst. */
const bells = (area: Area): { key: string; x1: number; x2: number; worst: number; word: string }[] =>
  props.telltales.filter((f) => f.area === area.id).flatMap((f) => f.spans.map(([a, b]) => ({ key: `${f.telltale} ${a}`, x1: LEFT + (a - props.from) * step.value, x2: LEFT + (b - props.from + 1) * step.value, worst: at(f.worst), word: f.telltale })));

/** Beside them stand the buttons that choose them. */
const witnessX = (i: number): number => 16 + (i + 0.5) * ((width.value - 32 - 38) / props.witnesses.length);

function scrub(e: PointerEvent): void {
  if (e.button !== 0) return;
  const target = e.currentTarget as SVGElement;
  const left = (box.value as HTMLElement).getBoundingClientRect().left;
  const go = (m: PointerEvent): void => emit('go', props.from + Math.floor((m.clientX - left - LEFT) / step.value));
  target.setPointerCapture(e.pointerId);
  go(e);
  const up = (): void => {
    target.removeEventListener('pointermove', go);
    target.removeEventListener('pointerup', up);
  };
  target.addEventListener('pointermove', go);
  target.addEventListener('pointerup', up);
}

/** A drag on a lane chooses the frames to follow; a click goes there. */
function choose(e: PointerEvent, area: Area): void {
  if (e.button !== 0) return;
  const target = e.currentTarget as SVGElement;
  const left = (box.value as HTMLElement).getBoundingClientRect().left;
  const frameAt = (m: PointerEvent): number => Math.min(props.to, Math.max(props.from, props.from + Math.floor((m.clientX - left - LEFT) / step.value)));
  emit('choose', area.id);
  if (e.clientX - left < LEFT) return;
  const first = frameAt(e);
  let dragged = false;
  target.setPointerCapture(e.pointerId);
  const move = (m: PointerEvent): void => {
    if (!dragged && Math.abs(m.clientX - e.clientX) < 4) return;
    dragged = true;
    const now = frameAt(m);
    emit('span', [Math.min(first, now), Math.max(first, now)]);
  };
  const up = (): void => {
    target.removeEventListener('pointermove', move);
    target.removeEventListener('pointerup', up);
    if (!dragged) {
      emit('span', null);
      emit('go', first);
    }
  };
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', up);
}

const readyRuns = computed(() => {
  const runs: { x: number; w: number }[] = [];
  const frames = [...props.ready].sort((a, b) => a - b);
  for (let i = 0; i < frames.length; ++i) {
    const first = frames[i] as number;
    while (frames[i + 1] === (frames[i] as number) + 1) ++i;
    runs.push({ x: LEFT + (first - props.from) * step.value, w: ((frames[i] as number) - first + 1) * step.value });
  }
  return runs;
});
</script>

<template>
  <div ref="box" class="strips">
    <svg width="0" height="0" aria-hidden="true"><pattern id="shut" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" x2="0" y1="0" y2="5" stroke="#9a9a9a" stroke-width="1.6" /></pattern></svg>
    <svg class="ruler" :width="width" height="26" data-ruler @pointerdown="scrub">
      <rect class="hit" :width="width" height="26" />
      <rect v-for="(r, i) in readyRuns" :key="`r${i}`" class="ready" :x="r.x" y="23" :width="r.w" height="2" />
      <g v-for="m in marks" :key="m.frame">
        <line :class="{ major: m.major }" :x1="at(m.frame)" :x2="at(m.frame)" :y1="m.major ? 9 : 16" y2="21" />
        <text v-if="m.major" :x="at(m.frame) + 3" y="15">{{ m.frame }}</text>
      </g>
      <rect class="flag" :x="at(frame) - 14" y="2" width="28" height="15" />
      <text class="now" :x="at(frame)" y="13.5">{{ frame }}</text>
      <line class="head" :x1="at(frame)" :x2="at(frame)" y1="17" y2="26" />
    </svg>
    <div class="lanes">
      <button v-for="area in areas" :key="area.id" type="button" class="plain lane" :class="{ chosen: area.id === chosen, off: !area.on }" :aria-pressed="area.id === chosen" :aria-label="`Area ${letters[area.id]}, ${area.name}`" @click="emit('choose', area.id)">
        <svg :width="width" :height="laneOf(area)" :data-lane="area.id" @pointerdown="choose($event, area)">
          <rect class="hit" :x="LEFT" :width="Math.max(0, width - LEFT)" :height="laneOf(area)" />
          <rect v-if="area.id === chosen && span" class="chosen-span" :x="LEFT + (span[0] - from) * step" :width="(span[1] - span[0] + 1) * step" y="1" :height="laneOf(area) - 3" />
          <text class="letter" x="14" :y="laneOf(area) === SLIM ? 9.5 : 17">{{ letters[area.id] }}</text>
          <text class="name" x="28" :y="laneOf(area) === SLIM ? 9.5 : 17">{{ area.name.length > 7 ? area.name.slice(0, 6) + '…' : area.name }}</text>
          <line class="span" :x1="LEFT" :x2="width - RIGHT" :y1="laneOf(area) - 4" :y2="laneOf(area) - 4" />
          <line class="live" :x1="LEFT + (area.live.from - from) * step" :x2="LEFT + (area.live.to - from + 1) * step" :y1="laneOf(area) - 4" :y2="laneOf(area) - 4" />
          <rect v-for="(run, i) in shut(area)" :key="`s${i}`" class="shut" fill="url(#shut)" :x="run.x1" y="1" :width="run.x2 - run.x1" :height="laneOf(area) - 6" />
          <line v-for="(run, i) in lost(area)" :key="`l${i}`" class="lost" :x1="run.x1" :x2="run.x2" :y1="laneOf(area) / 2" :y2="laneOf(area) / 2" />
          <line v-for="tick in comb(area)" :key="tick.x" class="tick" :class="{ weak: tick.weak }" :x1="tick.x" :x2="tick.x" :y1="laneOf(area) - 5" :y2="laneOf(area) - 5 - (laneOf(area) - 9) * Math.max(0.06, tick.c)" :stroke-width="tick.w" />
          <g v-for="b in bells(area)" :key="b.key" class="bell"><title>{{ b.word }}</title><line :x1="b.x1" :x2="b.x2" y1="1.5" y2="1.5" /><path :d="`M${b.worst - 4} 9L${b.worst + 4} 9L${b.worst} 2Z`" /></g>
          <path v-for="f in notches(area)" :key="`n${f}`" class="notch" :d="`M${at(f) - 5} 0L${at(f) + 5} 0L${at(f)} 8Z`" />
          <circle v-if="area.motion.by === 'follow' && area.motion.track" class="start" :cx="at(area.motion.start ?? 0)" cy="6" r="4" />
          <text v-if="laneOf(area) === FULL && !following[area.id] && area.motion.by === 'none' && area.motion.keys.length === 0" class="hint" :x="LEFT + 4" y="15">not followed: it stays where it was drawn</text>
          <text v-if="laneOf(area) === FULL && area.motion.by === 'ride'" class="hint" :x="LEFT + 4" y="15">rides on {{ areas.find((a) => a.id === area.motion.on)?.name }}</text>
          <line class="head" :x1="at(frame)" :x2="at(frame)" y1="0" :y2="laneOf(area)" />
        </svg>
      </button>
    </div>
    <svg v-if="witnesses.length" class="hairlines" :width="width" height="14" aria-hidden="true">
      <path v-for="(w, i) in witnesses" :key="w.frame" :class="{ now: w.frame === frame }" :d="`M${at(w.frame)} 0C${at(w.frame)} 9 ${witnessX(i)} 5 ${witnessX(i)} 14`" />
    </svg>
  </div>
</template>

<style scoped>
.strips {
  display: flex;
  flex-direction: column;
  min-width: 0;
  background: var(--g0);
  border-top: 1px solid var(--line);
  user-select: none;
}

svg {
  display: block;
}

.ruler {
  flex: none;
  cursor: ew-resize;
}

.lanes {
  min-height: 0;
  max-height: 160px;
  overflow-y: auto;
  scrollbar-width: thin;
}

.hit {
  fill: transparent;
}

.bell line {
  stroke: var(--t1);
  stroke-width: 3;
}

.bell path {
  fill: var(--t1);
  stroke: var(--g0);
}

.ready {
  fill: #767676;
}

.ruler line {
  stroke: #555;
}

.ruler line.major {
  stroke: #9a9a9a;
}

text {
  fill: #9a9a9a;
  font-family: 'Spline Sans Mono Variable', monospace;
  font-size: 10.5px;
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

.ruler .head,
.head {
  stroke: #c8c8c8;
  stroke-width: 1.3;
}

.lane {
  display: block;
  width: 100%;
  overflow: hidden;
}

.chosen-span {
  fill: #4a4a4a;
}

.notch {
  fill: #c8c8c8;
  stroke: var(--g0);
}

.lane.off {
  opacity: 0.45;
}

.letter,
.name,
.hint {
  fill: #a2a2a2;
  font-family: 'Instrument Sans Variable', sans-serif;
  font-size: 12px;
  font-weight: 600;
}

.name,
.hint {
  fill: #858585;
  font-size: 11px;
  font-weight: 400;
}

.chosen .letter {
  fill: #c8c8c8;
}

.chosen .name {
  fill: #c8c8c8;
}

.span {
  stroke: #383838;
}

.live {
  stroke: #5a5a5a;
}

.tick {
  stroke: #6e6e6e;
}

.chosen .tick {
  stroke: #a8a8a8;
}

.chosen .tick.weak {
  stroke: #c8c8c8;
}

.lost {
  stroke: #a8a8a8;
  stroke-dasharray: 1 4;
}

.start {
  fill: var(--g0);
  stroke: #c8c8c8;
  stroke-width: 1.4;
}

.hairlines {
  flex: none;
}

.hairlines path {
  fill: none;
  stroke: #5a5a5a;
}

.hairlines path.now {
  stroke: #c8c8c8;
}
</style>
