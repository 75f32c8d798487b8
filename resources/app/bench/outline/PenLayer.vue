<script setup lang="ts">
/**
 * Draws new shapes on the picture: an ellipse or box by dragging, a path by clicks (click and drag for a curve), a path
 * that keeps to visible edges between clicks, a spot by one click; samples by a click or a drag. Positions are those of the frame, in picture heights.
 */
import { useEventListener } from '@vueuse/core';
import { computed, onScopeDispose, ref, watch } from 'vue';
import { api } from '../../api/client';
import type { Pair, PathPoint } from '../../api/types';
import { useBench } from '../bench';
import { useByKeys } from '../keys/useByKeys';
import { drag, onStage } from '../picture/drag';
import type { Drawing, Tool } from './drawing';
import { roundedPoint } from './edits';
import { minus, plus } from './geometry';
import { along } from './shapes';
import { penWords, usePenKeys } from './usePenKeys';

const props = defineProps<{ tool: Tool }>();
const { stage, shot, playhead, aspect } = useBench();
const { onScreen, inPicture } = stage;
const byKeys = useByKeys();
const emit = defineEmits<{ drawn: [drawing: Drawing]; said: [words: string] }>();

const NEAR = 9;
const points = ref<PathPoint[]>([]);
/** Where the pointer is, and the way there along edges. */
const hover = ref<Pair | null>(null);
const ahead = ref<PathPoint[]>([]);
const box = ref<{ from: Pair; to: Pair } | null>(null);
let asked = 0;
let asking = false;
let stop = new AbortController();

const isPen = computed(() => props.tool === 'path' || props.tool === 'edges');
const last = computed(() => points.value[points.value.length - 1] ?? null);
const closing = computed(() => points.value.length > 1 && hover.value !== null && isNear(hover.value, (points.value[0] as PathPoint).at));

const isNear = (a: Pair, b: Pair): boolean => Math.hypot(...minus(onScreen(a), onScreen(b))) < NEAR;
const d = (line: Pair[]): string => (line.length ? `M${line.map((p) => onScreen(p).map((v) => v.toFixed(1)).join(' ')).join('L')}` : '');
const drawnLine = computed(() => d(along(points.value, false)));
const aheadLine = computed(() => {
  if (!last.value || !hover.value) return '';
  if (props.tool === 'edges' && ahead.value.length > 1) return d(along(ahead.value, false));
  return d(along([last.value, { at: closing.value ? (points.value[0] as PathPoint).at : hover.value, in: closing.value ? (points.value[0] as PathPoint).in : [0, 0], out: [0, 0] }], false));
});

/** Shift holds the way to the last point to steps of 45 degrees. */
function held(at: Pair, straight: boolean): Pair {
  if (!straight || !last.value) return at;
  const [x, y] = minus(at, last.value.at);
  const angle = Math.round(Math.atan2(y, x) / (Math.PI / 4)) * (Math.PI / 4);
  const along_ = x * Math.cos(angle) + y * Math.sin(angle);
  return plus(last.value.at, [along_ * Math.cos(angle), along_ * Math.sin(angle)]);
}

/** Asks for the way along edges to the pointer; one question at a time, the newest place last. */
async function look(): Promise<void> {
  if (props.tool !== 'edges' || asking || !last.value || !hover.value) return;
  asking = true;
  const mine = ++asked;
  const to = closing.value ? (points.value[0] as PathPoint).at : hover.value;
  try {
    const found = await api.edge(shot.id, { frame: playhead.shown.value, from: last.value.at, to }, stop.signal);
    if (mine === asked) ahead.value = found;
  } catch {
    ahead.value = [];
  }
  asking = false;
  if (hover.value && hover.value !== to && !closing.value) void look();
}

function finish(): void {
  const done = points.value.map(roundedPoint);
  reset();
  if (done.length < 2) emit('said', 'A path needs two points or more.');
  else emit('drawn', { kind: 'path', points: done });
}
function reset(): void {
  points.value = [];
  ahead.value = [];
  box.value = null;
  stop.abort();
  stop = new AbortController();
  asked++;
}
watch([() => props.tool, playhead.shown], reset);

/** Joins the way along edges to what there is: its first point is the last one there, its handles carry on. */
function join(way: PathPoint[], close: boolean): void {
  const [first, ...rest] = way;
  const from = last.value;
  if (!first || !from || rest.length === 0) return;
  const list = [...points.value.slice(0, -1), { ...from, out: first.out }, ...rest];
  if (close) {
    const end = list.pop() as PathPoint;
    list[0] = { ...(list[0] as PathPoint), in: end.in };
  }
  points.value = list;
  ahead.value = [];
}

/** Clicks are taken one after the other, also when they come quicker than their ways along edges. */
let queue: Promise<void> = Promise.resolve();
async function goOn(at: Pair, close: boolean): Promise<void> {
  const from = last.value;
  if (!from) return;
  try {
    join(await api.edge(shot.id, { frame: playhead.shown.value, from: from.at, to: close ? (points.value[0] as PathPoint).at : at }), close);
    if (close) finish();
  } catch (reason) {
    emit('said', reason instanceof Error ? reason.message : String(reason));
  }
}

const round = (kind: 'ellipse' | 'box', centre: Pair, radii: Pair): void => emit('drawn', { kind, centre, radii });
/** A point of a path; told whether it closes it. */
function point(at: Pair): { close: boolean; index: number } {
  const close = points.value.length > 1 && isNear(at, (points.value[0] as PathPoint).at);
  const index = close ? 0 : points.value.length;
  if (!close) points.value = [...points.value, { at, in: [0, 0], out: [0, 0] }];
  return { close, index };
}
function wayTo(at: Pair): void {
  const close = isNear(at, (points.value[0] as PathPoint).at) && points.value.length > 1;
  queue = queue.then(() => goOn(at, close));
}
/** What a press does that is not dragged on. */
function click(at: Pair): void {
  const [, t, , b] = stage.seen.value ?? [0, 0, aspect, 1];
  if (props.tool === 'spot' || props.tool === 'place') emit('drawn', { kind: props.tool, at });
  else if (props.tool === 'take' || props.tool === 'leave') emit('drawn', { kind: 'sample', taken: props.tool === 'take', from: at, to: at });
  else if (props.tool === 'ellipse' || props.tool === 'box') round(props.tool, at, [(b - t) * 0.14, (b - t) * 0.18]);
  else if (props.tool === 'edges' && last.value) wayTo(at);
  else if (point(at).close) finish();
}
const keys = usePenKeys(stage, aspect, hover, click);

function down(e: PointerEvent): void {
  if (e.button !== 0 || e.altKey) return;
  const at = held(inPicture(onStage(e)), e.shiftKey && isPen.value);
  const { tool } = props;
  if (tool === 'spot' || tool === 'place' || (tool === 'edges' && last.value)) {
    e.stopPropagation();
    click(at);
    return;
  }
  if (tool !== 'path' && tool !== 'edges') {
    box.value = { from: at, to: at };
    drag(e, (p) => (box.value = { from: at, to: inPicture(p) }), () => {
      const b = box.value;
      box.value = null;
      if (!b) return;
      if (tool === 'take' || tool === 'leave') emit('drawn', { kind: 'sample', taken: tool === 'take', ...b });
      const radii: Pair = [Math.abs(b.to[0] - b.from[0]) / 2, Math.abs(b.to[1] - b.from[1]) / 2];
      if ((tool === 'ellipse' || tool === 'box') && Math.min(...radii) > 0.004) round(tool, [(b.from[0] + b.to[0]) / 2, (b.from[1] + b.to[1]) / 2], radii);
    });
    return;
  }
  const { close, index } = point(at);
  drag(e, (p) => {
    // Dragging pulls out handles: a curve through the point, even on both sides.
    const own = points.value[index] as PathPoint;
    const out = minus(inPicture(p), own.at);
    points.value = points.value.map((q, i) => (i === index ? { ...q, in: [-out[0], -out[1]], out: close ? q.out : out } : q));
  }, () => close && finish());
}

function move(e: PointerEvent): void {
  hover.value = held(inPicture(onStage(e)), e.shiftKey && isPen.value);
  if (closing.value) hover.value = (points.value[0] as PathPoint).at;
  void look();
}

/** Before anything else hears of them: while something is drawn they belong to it. */
useEventListener(window, 'keydown', (e) => {
  const pressed = e.target instanceof HTMLInputElement || e.target instanceof HTMLButtonElement;
  if (e.key === 'Enter' && (props.tool === 'ellipse' || props.tool === 'box') && !pressed) click(hover.value ?? keys.middle());
  else if (!isPen.value || points.value.length === 0) return;
  else if (e.key === 'Enter') queue = queue.then(finish);
  else if (e.key === 'Backspace' || e.key === 'Delete') points.value = points.value.slice(0, -1);
  else return;
  e.preventDefault();
  e.stopPropagation();
}, { capture: true });
onScopeDispose(() => stop.abort());
</script>

<template>
  <g class="pen">
    <rect ref="pen" class="all" data-pen tabindex="0" role="group" :aria-label="penWords(tool)" :width="stage.width.value" :height="stage.height.value" @pointerdown="down" @pointermove="move" @pointerleave="hover = null" @keydown="keys.key" />
    <template v-if="hover && byKeys"><path v-for="pass in ['dark', 'line']" :key="pass" :class="pass" :transform="`translate(${onScreen(hover)[0]} ${onScreen(hover)[1]})`" d="M-12 0h8M4 0h8M0 -12v8M0 4v8" /></template>
    <template v-if="box">
      <ellipse v-if="tool === 'ellipse'" class="under" :cx="onScreen([(box.from[0] + box.to[0]) / 2, 0])[0]" :cy="onScreen([0, (box.from[1] + box.to[1]) / 2])[1]" :rx="(Math.abs(box.to[0] - box.from[0]) / 2) * stage.unit.value" :ry="(Math.abs(box.to[1] - box.from[1]) / 2) * stage.unit.value" />
      <rect v-else class="under" :x="onScreen([Math.min(box.from[0], box.to[0]), 0])[0]" :y="onScreen([0, Math.min(box.from[1], box.to[1])])[1]" :width="Math.abs(box.to[0] - box.from[0]) * stage.unit.value" :height="Math.abs(box.to[1] - box.from[1]) * stage.unit.value" />
    </template>
    <path class="dark" :d="drawnLine" /><path class="line" :d="drawnLine" />
    <path class="dark" :d="aheadLine" /><path class="line ahead" :d="aheadLine" />
    <template v-for="(p, i) in points" :key="i">
      <line v-if="i === points.length - 1 && (p.out[0] || p.out[1])" class="line ahead" :x1="onScreen(plus(p.at, p.in))[0]" :y1="onScreen(plus(p.at, p.in))[1]" :x2="onScreen(plus(p.at, p.out))[0]" :y2="onScreen(plus(p.at, p.out))[1]" />
      <path class="mark dark" :transform="`translate(${onScreen(p.at)[0]} ${onScreen(p.at)[1]})`" d="M-4 -4L4 4M-4 4L4 -4" />
      <path class="mark line" :transform="`translate(${onScreen(p.at)[0]} ${onScreen(p.at)[1]})`" d="M-4 -4L4 4M-4 4L4 -4" />
    </template>
    <circle v-if="points.length > 1" class="line" :r="closing ? 8 : 5" :cx="onScreen((points[0] as PathPoint).at)[0]" :cy="onScreen((points[0] as PathPoint).at)[1]" />
  </g>
</template>

<style scoped>
.all {
  cursor: crosshair;
  fill: transparent;
  pointer-events: all;
}

.pen > :not(.all) {
  fill: none;
  pointer-events: none;
}

.under,
.line {
  stroke: #fff;
  stroke-width: 1.2;
}

.dark {
  stroke: #000;
  stroke-opacity: 0.55;
  stroke-width: 2.8;
}

.ahead {
  stroke-dasharray: 3 3;
}

.mark.line {
  stroke-width: 1.6;
}
</style>
