<script setup lang="ts">
/**
 * A shape of an outline on the picture and everything on it that can be dragged: edge crosses or path points, feather
 * hairs by their tips, the letter flag to turn, the inside to move. Where the motion is being corrected, the same drags
 * move, turn and scale the whole on this frame.
 */
import { computed } from 'vue';
import type { DrawnShape, Pair, PathPoint, ShapeValues } from '../api/types';
import { drag, onStage } from './drag';
import { about, angleOf, apply, degrees, inverse, linearAt, minus, plus, rounded, roundedPair, scaleAt, type Matrix } from './geometry';
import { bezier, edgeOf, middleOf, movedPoint, roundedPoint, spread, toggled } from './shapes';

/** A correction of the motion while it is dragged: on top of what there is, about the pivot. */
export interface Correction { move: Pair; turn: number; scale: number }

const props = defineProps<{
  /** With its values on this frame. */
  shape: DrawnShape;
  matrix: Matrix;
  /** Screen pixels of one picture height, and the picture's top left. */
  unit: number;
  origin: Pair;
  letter: string;
  /** Whether it is the shape being worked on. */
  active: boolean;
  /** Whether its area is the chosen one. */
  chosen: boolean;
  /** Whether drags correct the motion instead of the shape. */
  correcting: boolean;
  pivot: Pair;
  dash: string;
  selected: ReadonlySet<number>;
}>();
const emit = defineEmits<{
  change: [change: Partial<ShapeValues>];
  commit: [what: string];
  correct: [correction: Correction];
  corrected: [];
  choose: [];
  select: [points: Set<number>];
  point: [piece: number, t: number];
}>();

const HAIRS = 24;
const TIP = 9;

const onScreen = (p: Pair): Pair => [props.origin[0] + p[0] * props.unit, props.origin[1] + p[1] * props.unit];
const inPicture = (p: Pair): Pair => [(p[0] - props.origin[0]) / props.unit, (p[1] - props.origin[1]) / props.unit];
/** From the screen to where the outline is stated. */
const stated = (p: Pair): Pair => apply(inverse(props.matrix), inPicture(p));

const scale = computed(() => scaleAt(props.matrix, middleOf(props.shape)));
const edge = computed(() => edgeOf(props.shape, props.matrix, props.shape.grow * scale.value));
const line = computed(() => `M${edge.value.map((p) => onScreen(p.at).map((v) => v.toFixed(2)).join(' ')).join('L')}Z`);
const inner = computed(() => props.shape.featherIn * scale.value * props.unit);
const outer = computed(() => props.shape.featherOut * scale.value * props.unit);

const hairs = computed(() =>
  spread(edge.value, HAIRS).map(({ at, normal }, i) => {
    const main = i % (HAIRS / 4) === 0;
    const [x, y] = onScreen(at);
    const a = Math.max(inner.value, main ? TIP : 3);
    const b = Math.max(outer.value, main ? TIP : 3);
    return { i, main, at: [x, y] as Pair, normal, x1: x - normal[0] * a, y1: y - normal[1] * a, x2: x + normal[0] * b, y2: y + normal[1] * b };
  }),
);
/** The middles of an ellipse's or box's sides. */
const crosses = computed(() => {
  const s = props.shape;
  if (s.kind === 'path') return [];
  const sides: Pair[] = [[1, 0], [0, 1], [-1, 0], [0, -1]];
  return sides.map(([x, y], i) => ({ i, at: onScreen(apply(props.matrix, about(s.centre, [s.centre[0] + x * (s.radii[0] + s.grow), s.centre[1] + y * (s.radii[1] + s.grow)], s.turn, 1))) }));
});
const turn = computed(() => {
  const [a, b, c, d] = linearAt(props.matrix, middleOf(props.shape));
  return (props.shape.kind === 'path' ? 0 : props.shape.turn) + (Math.atan2(c - b, a + d) * 180) / Math.PI;
});
/** The points of a path with the handles of those that are selected. */
const points = computed(() => {
  const s = props.shape;
  if (s.kind !== 'path') return [];
  return s.points.map((p, i) => ({
    i,
    at: onScreen(apply(props.matrix, p.at)),
    on: props.selected.has(i),
    handles: props.selected.has(i) ? (['in', 'out'] as const).filter((side) => p[side].some((v) => v !== 0)).map((side) => ({ side, at: onScreen(apply(props.matrix, plus(p.at, p[side]))) })) : [],
  }));
});
/** The letter stands at the upper right, clear of the crosses whatever the shape's proportions. */
const flag = computed(() => {
  const xs = edge.value.map((p) => p.at[0]);
  const ys = edge.value.map((p) => p.at[1]);
  const [w, h] = [Math.max(...xs) - Math.min(...xs) || 1, Math.max(...ys) - Math.min(...ys) || 1];
  const best = edge.value.reduce((a, b) => (b.at[0] / w - b.at[1] / h > a.at[0] / w - a.at[1] / h ? b : a));
  return onScreen(best.at);
});
/** Where several selected points are turned and scaled by. */
const grip = computed(() => {
  if (props.selected.size < 2) return null;
  const chosen = points.value.filter((p) => p.on).map((p) => p.at);
  const xs = chosen.map((p) => p[0]);
  const ys = chosen.map((p) => p[1]);
  return { at: [Math.max(...xs) + 18, Math.min(...ys) - 18] as Pair, middle: [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2] as Pair };
});

function start(e: PointerEvent, what: string, move: (at: Pair, event: PointerEvent) => Partial<ShapeValues>, click?: () => void): void {
  if (e.button !== 0) return;
  drag(e, (at, event) => emit('change', move(at, event)), (moved) => (moved ? emit('commit', what) : click?.()));
}
function correct(e: PointerEvent, move: (at: Pair, from: Pair, pivot: Pair) => Partial<Correction>): void {
  if (e.button !== 0) return;
  const from = onStage(e);
  const pivot = onScreen(apply(props.matrix, props.pivot));
  drag(e, (at) => emit('correct', { move: [0, 0], turn: 0, scale: 1, ...move(at, from, pivot) }), (moved) => moved && emit('corrected'));
}

function moveAll(e: PointerEvent): void {
  if (props.correcting) {
    correct(e, (at, from) => ({ move: roundedPair([(at[0] - from[0]) / props.unit, (at[1] - from[1]) / props.unit]) }));
    return;
  }
  const s = props.shape;
  const from = stated(onStage(e));
  start(e, 'Move outline', (at) => {
    const by = minus(stated(at), from);
    return s.kind === 'path' ? { points: s.points.map((p) => roundedPoint({ ...p, at: plus(p.at, by) })) } : { centre: roundedPair(plus(s.centre, by)) };
  }, () => emit('select', new Set()));
}

function turnAll(e: PointerEvent): void {
  if (!props.chosen || !props.active) {
    e.stopPropagation();
    emit('choose');
    return;
  }
  if (props.correcting) {
    correct(e, (at, from, pivot) => ({ turn: rounded(degrees(angleOf(pivot, at) - angleOf(pivot, from))) }));
    return;
  }
  const s = props.shape;
  const middle = middleOf(s);
  const centre = onScreen(apply(props.matrix, middle));
  const from = angleOf(centre, onStage(e));
  start(e, 'Turn outline', (at) => {
    const by = degrees(angleOf(centre, at) - from);
    return s.kind === 'path' ? { points: s.points.map((p) => movedPoint(p, (q) => about(middle, q, by, 1))) } : { turn: rounded(degrees(s.turn + by)) };
  });
}

function size(e: PointerEvent, axis: 0 | 1): void {
  const s = props.shape;
  if (s.kind === 'path') return;
  if (props.correcting) {
    correct(e, (at, from, pivot) => ({ scale: rounded(Math.max(0.05, Math.hypot(...minus(at, pivot)) / Math.max(1, Math.hypot(...minus(from, pivot))))) }));
    return;
  }
  start(e, 'Resize outline', (at) => {
    const [x, y] = minus(about(s.centre, stated(at), -s.turn, 1), s.centre);
    const radii: Pair = [...s.radii];
    radii[axis] = rounded(Math.max(0.002, Math.abs(axis === 0 ? x : y) - s.grow));
    return { radii };
  });
}

function feather(e: PointerEvent, i: number, side: 'featherIn' | 'featherOut'): void {
  const hair = hairs.value[i];
  if (!hair) return;
  start(e, side === 'featherIn' ? 'Inner feather' : 'Outer feather', (at) => {
    const [x, y] = minus(at, hair.at);
    const length = (x * hair.normal[0] + y * hair.normal[1]) * (side === 'featherIn' ? -1 : 1);
    return { [side]: rounded(Math.min(1, length <= TIP + 1 ? 0 : length / props.unit / scale.value)) };
  });
}

// --- path points ------------------------------------------------------------------------------------------------
const pathPoints = (): PathPoint[] => (props.shape.kind === 'path' ? props.shape.points : []);

function movePoint(e: PointerEvent, i: number): void {
  const was = pathPoints();
  let moving = new Set(props.selected);
  if (e.shiftKey) {
    if (moving.has(i)) moving.delete(i);
    else moving.add(i);
    emit('select', moving);
  } else if (!moving.has(i)) {
    moving = new Set([i]);
    emit('select', moving);
  }
  const from = stated(onStage(e));
  start(e, moving.size > 1 ? 'Move points' : 'Move point', (at) => {
    const by = minus(stated(at), from);
    return { points: was.map((p, k) => (moving.has(k) ? roundedPoint({ ...p, at: plus(p.at, by) }) : p)) };
  }, () => !e.shiftKey && emit('select', new Set([i])));
}

/** Both handles stay in one line unless Alt breaks it or they were not in line before. */
function moveHandle(e: PointerEvent, i: number, side: 'in' | 'out'): void {
  const was = pathPoints();
  const p = was[i] as PathPoint;
  const other = side === 'in' ? 'out' : 'in';
  const cross = p.in[0] * p.out[1] - p.in[1] * p.out[0];
  const smooth = Math.abs(cross) < 0.05 * Math.hypot(...p.in) * Math.hypot(...p.out) || Math.hypot(...p[other]) === 0;
  start(e, 'Move handle', (at, event) => {
    const handle = minus(stated(at), p.at);
    const length = Math.hypot(...handle) || 1;
    const reach = Math.hypot(...p[other]);
    const changed = { ...p, [side]: handle };
    if (smooth && !event.altKey && reach > 0) changed[other] = [(-handle[0] / length) * reach, (-handle[1] / length) * reach];
    return { points: was.map((q, k) => (k === i ? roundedPoint(changed) : q)) };
  });
}

function toggle(i: number): void {
  const was = pathPoints();
  emit('change', { points: was.map((p, k) => (k === i ? toggled(was, i) : p)) });
  emit('commit', 'Corner or smooth');
}

function turnSelected(e: PointerEvent): void {
  const g = grip.value;
  if (!g) return;
  const was = pathPoints();
  const chosen = new Set(props.selected);
  const middle = stated(g.middle);
  const from = onStage(e);
  start(e, 'Turn and scale points', (at, event) => {
    const by = event.shiftKey ? 0 : degrees(angleOf(g.middle, at) - angleOf(g.middle, from));
    const grow = Math.max(0.05, Math.hypot(...minus(at, g.middle)) / Math.max(1, Math.hypot(...minus(from, g.middle))));
    return { points: was.map((p, k) => (chosen.has(k) ? movedPoint(p, (q) => about(middle, q, by, grow)) : p)) };
  });
}

/** The place on the path nearest to the pointer gets a point. */
function pointHere(e: MouseEvent): void {
  const here = stated(onStage(e));
  const list = pathPoints();
  let best: [number, number, number] = [Infinity, 0, 0.5];
  list.forEach((a, piece) => {
    for (let k = 1; k < 40; ++k) {
      const [x, y] = minus(bezier(a, list[(piece + 1) % list.length] as PathPoint, k / 40), here);
      if (x * x + y * y < best[0]) best = [x * x + y * y, piece, k / 40];
    }
  });
  e.stopPropagation();
  emit('point', best[1], best[2]);
}
</script>

<template>
  <g :class="{ chosen: chosen && active }">
    <path v-if="chosen && active" class="inside" :d="line" fill-rule="evenodd" @pointerdown="moveAll" />
    <template v-if="chosen && active && !correcting">
      <g v-for="h in hairs" :key="h.i" class="hair" :class="{ main: h.main }">
        <line class="under" :x1="h.x1" :y1="h.y1" :x2="h.x2" :y2="h.y2" />
        <line class="over" :x1="h.x1" :y1="h.y1" :x2="h.x2" :y2="h.y2" />
      </g>
    </template>
    <path class="under" :d="line" :stroke-dasharray="dash" />
    <path class="over" :d="line" :stroke-dasharray="dash" />
    <template v-if="chosen && active">
      <path v-if="shape.kind === 'path' && !correcting" class="along" data-handle="edge" :d="line" @pointerdown="$event.ctrlKey ? pointHere($event) : moveAll($event)" @dblclick="pointHere" />
      <g v-for="c in crosses" :key="`c${c.i}`" class="cross" :data-handle="`edge-${c.i}`" :transform="`translate(${c.at[0]} ${c.at[1]}) rotate(${turn})`" @pointerdown="size($event, c.i % 2 === 0 ? 0 : 1)">
        <circle r="8" class="grip" />
        <path class="under" d="M-5 0h10M0 -5v10" />
        <path class="over" d="M-5 0h10M0 -5v10" />
      </g>
      <template v-if="!correcting">
        <template v-for="h in hairs.filter((hair) => hair.main)" :key="`t${h.i}`">
          <g class="tip" :data-handle="`inner-${h.i}`" :transform="`translate(${h.x1} ${h.y1})`" @pointerdown="feather($event, h.i, 'featherIn')"><circle r="7" class="grip" /><circle r="2.8" /></g>
          <g class="tip" :data-handle="`outer-${h.i}`" :transform="`translate(${h.x2} ${h.y2})`" @pointerdown="feather($event, h.i, 'featherOut')"><circle r="7" class="grip" /><circle r="2.8" /></g>
        </template>
        <template v-for="p in points" :key="`p${p.i}`">
          <g v-for="h in p.handles" :key="h.side" class="handle">
            <line class="under" :x1="p.at[0]" :y1="p.at[1]" :x2="h.at[0]" :y2="h.at[1]" />
            <line class="over" :x1="p.at[0]" :y1="p.at[1]" :x2="h.at[0]" :y2="h.at[1]" />
            <g class="tip" :data-handle="`${h.side}-${p.i}`" :transform="`translate(${h.at[0]} ${h.at[1]})`" @pointerdown="moveHandle($event, p.i, h.side)"><circle r="7" class="grip" /><path class="diamond" d="M0 -3.4L3.4 0L0 3.4L-3.4 0Z" /></g>
          </g>
          <g class="point" :class="{ on: p.on }" :data-handle="`point-${p.i}`" :transform="`translate(${p.at[0]} ${p.at[1]})`" @pointerdown="movePoint($event, p.i)" @dblclick.stop="toggle(p.i)">
            <circle r="8" class="grip" />
            <path class="under" d="M-4 -4L4 4M-4 4L4 -4" />
            <path class="over" d="M-4 -4L4 4M-4 4L4 -4" />
            <circle v-if="p.on" r="5.5" class="ring" />
          </g>
        </template>
        <g v-if="grip" class="turner" data-handle="turner" @pointerdown="turnSelected">
          <line class="under" :x1="grip.middle[0]" :y1="grip.middle[1]" :x2="grip.at[0]" :y2="grip.at[1]" />
          <line class="over" stroke-dasharray="2 3" :x1="grip.middle[0]" :y1="grip.middle[1]" :x2="grip.at[0]" :y2="grip.at[1]" />
          <circle class="grip" :cx="grip.at[0]" :cy="grip.at[1]" r="9" />
          <circle class="ring" :cx="grip.at[0]" :cy="grip.at[1]" r="5" />
        </g>
      </template>
    </template>
    <g class="flag" :class="{ chosen: chosen && active }" data-handle="flag" :transform="`translate(${flag[0]} ${flag[1]})`" @pointerdown="turnAll">
      <path :d="chosen && active ? 'M0 0l9 -22h22v20h-20z' : 'M0 0l6 -15h15v13h-14z'" />
      <text :x="chosen && active ? 20 : 13.5" :y="chosen && active ? -7.5 : -4.8" :font-size="chosen && active ? 13 : 10">{{ letter }}</text>
    </g>
  </g>
</template>

<style scoped>
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

.along {
  cursor: copy;
  pointer-events: stroke;
  stroke: transparent;
  stroke-width: 9;
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

.cross .over,
.point .over {
  stroke-width: 1.6;
}

.cross .under,
.point .under {
  stroke-width: 3.6;
}

.point {
  cursor: move;
}

.ring {
  fill: none;
  pointer-events: none;
  stroke: #fff;
  stroke-width: 1.4;
}

.turner {
  cursor: grab;
}

.tip {
  cursor: crosshair;
}

.tip circle:last-child,
.diamond {
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
