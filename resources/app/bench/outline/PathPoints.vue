<script setup lang="ts">
/** The points of the path being worked on: dragged alone or with others selected, pulled by their handles, made corners or smooth. */
import { computed } from 'vue';
import type { Pair, Path, PathPoint } from '../../api/types';
import { useArrows } from '../../widgets/useArrows';
import { useBench } from '../bench';
import { onStage } from '../picture/drag';
import { movedPoint, roundedPoint, toggled } from './edits';
import { about, angleOf, apply, degrees, minus, plus, type Matrix } from './geometry';
import type { ShapeDrags } from './useShapeDrags';

const props = defineProps<{ shape: Path; matrix: Matrix; drags: ShapeDrags }>();
const { stage, outlines, selection } = useBench();
const { selected, select } = selection;
const arrows = useArrows(() => props.drags.settle());

const points = computed(() => props.shape.points.map((p, i) => ({
  i,
  at: stage.onScreen(apply(props.matrix, p.at)),
  on: selected.value.has(i),
  handles: selected.value.has(i) ? (['in', 'out'] as const).filter((side) => p[side].some((v) => v !== 0)).map((side) => ({ side, at: stage.onScreen(apply(props.matrix, plus(p.at, p[side]))) })) : [],
})));
/** Where several selected points are turned and scaled by. */
const grip = computed(() => {
  if (selected.value.size < 2) return null;
  const chosen = points.value.filter((p) => p.on).map((p) => p.at);
  const xs = chosen.map((p) => p[0]);
  const ys = chosen.map((p) => p[1]);
  return { at: [Math.max(...xs) + 18, Math.min(...ys) - 18] as Pair, middle: [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2] as Pair };
});

function movePoint(e: PointerEvent, i: number): void {
  const was = props.shape.points;
  let moving = new Set(selected.value);
  if (e.shiftKey) {
    if (moving.has(i)) moving.delete(i);
    else moving.add(i);
    select(moving);
  } else if (!moving.has(i)) {
    moving = new Set([i]);
    select(moving);
  }
  const from = props.drags.stated(onStage(e));
  props.drags.start(e, moving.size > 1 ? 'Move points' : 'Move point', (at) => {
    const by = minus(props.drags.stated(at), from);
    return { points: was.map((p, k) => (moving.has(k) ? roundedPoint({ ...p, at: plus(p.at, by) }) : p)) };
  }, () => !e.shiftKey && select(new Set([i])));
}

/** Both handles stay in one line unless Alt breaks it or they were not in line before. */
function moveHandle(e: PointerEvent, i: number, side: 'in' | 'out'): void {
  const was = props.shape.points;
  const p = was[i] as PathPoint;
  const other = side === 'in' ? 'out' : 'in';
  const cross = p.in[0] * p.out[1] - p.in[1] * p.out[0];
  const smooth = Math.abs(cross) < 0.05 * Math.hypot(...p.in) * Math.hypot(...p.out) || Math.hypot(...p[other]) === 0;
  props.drags.start(e, 'Move handle', (at, event) => {
    const handle = minus(props.drags.stated(at), p.at);
    const length = Math.hypot(...handle) || 1;
    const reach = Math.hypot(...p[other]);
    const changed = { ...p, [side]: handle };
    if (smooth && !event.altKey && reach > 0) changed[other] = [(-handle[0] / length) * reach, (-handle[1] / length) * reach];
    return { points: was.map((q, k) => (k === i ? roundedPoint(changed) : q)) };
  });
}

function toggle(i: number): void {
  const was = props.shape.points;
  outlines.change(props.shape.id, { points: was.map((p, k) => (k === i ? toggled(was, i) : p)) });
  void outlines.commit('Corner or smooth');
}

function turnSelected(e: PointerEvent): void {
  const g = grip.value;
  if (!g) return;
  const was = props.shape.points;
  const chosen = new Set(selected.value);
  const middle = props.drags.stated(g.middle);
  const from = onStage(e);
  props.drags.start(e, 'Turn and scale points', (at, event) => {
    const by = event.shiftKey ? 0 : degrees(angleOf(g.middle, at) - angleOf(g.middle, from));
    const grow = Math.max(0.05, Math.hypot(...minus(at, g.middle)) / Math.max(1, Math.hypot(...minus(from, g.middle))));
    return { points: was.map((p, k) => (chosen.has(k) ? movedPoint(p, (q) => about(middle, q, by, grow)) : p)) };
  });
}

/** Arrow keys move the point, with the others selected; Space selects, Enter makes it a corner or smooth, Insert puts one after it. */
function key(e: KeyboardEvent, i: number): void {
  const steps = e.shiftKey ? 10 : 1;
  const used = arrows.press(e, (x, y) => {
    const way = props.drags.statedWay(x * steps, y * steps);
    const moving = selected.value.has(i) ? selected.value : new Set([i]);
    props.drags.by(moving.size > 1 ? 'Move points' : 'Move point', { points: props.shape.points.map((p, k) => (moving.has(k) ? roundedPoint({ ...p, at: plus(p.at, way) }) : p)) });
  });
  if (used) return;
  if (e.key === ' ') select(selected.value.has(i) ? new Set([...selected.value].filter((k) => k !== i)) : new Set([...selected.value, i]));
  else if (e.key === 'Enter') toggle(i);
  else if (e.key === 'Insert') outlines.addPoint(props.shape.id, i, 0.5);
  else if (e.key === 'Delete' && selected.value.size === 0) {
    select(new Set([i]));
    selection.remove();
  } else return;
  e.preventDefault();
  e.stopPropagation();
}
</script>

<template>
  <g role="group" aria-label="Points of the path">
    <template v-for="p in points" :key="`p${p.i}`">
      <g v-for="h in p.handles" :key="h.side" class="handle" aria-hidden="true">
        <line class="under" :x1="p.at[0]" :y1="p.at[1]" :x2="h.at[0]" :y2="h.at[1]" />
        <line class="over" :x1="p.at[0]" :y1="p.at[1]" :x2="h.at[0]" :y2="h.at[1]" />
        <g class="tip" :data-handle="`${h.side}-${p.i}`" :transform="`translate(${h.at[0]} ${h.at[1]})`" @pointerdown="moveHandle($event, p.i, h.side)"><circle r="7" class="grip" /><path class="diamond" d="M0 -3.4L3.4 0L0 3.4L-3.4 0Z" /></g>
      </g>
      <g
        class="point" :class="{ on: p.on }" :data-handle="`point-${p.i}`" tabindex="0" role="button" :aria-label="`Point ${p.i + 1}`" :aria-pressed="p.on" :transform="`translate(${p.at[0]} ${p.at[1]})`"
        @pointerdown="movePoint($event, p.i)" @dblclick.stop="toggle(p.i)" @keydown="key($event, p.i)" @blur="arrows.settle()"
      >
        <circle r="8" class="grip" />
        <path class="under" d="M-4 -4L4 4M-4 4L4 -4" />
        <path class="over" d="M-4 -4L4 4M-4 4L4 -4" />
        <circle v-if="p.on" r="5.5" class="ring" />
      </g>
    </template>
    <g v-if="grip" class="turner" data-handle="turner" aria-hidden="true" @pointerdown="turnSelected">
      <line class="under" :x1="grip.middle[0]" :y1="grip.middle[1]" :x2="grip.at[0]" :y2="grip.at[1]" />
      <line class="over" stroke-dasharray="2 3" :x1="grip.middle[0]" :y1="grip.middle[1]" :x2="grip.at[0]" :y2="grip.at[1]" />
      <circle class="grip" :cx="grip.at[0]" :cy="grip.at[1]" r="9" />
      <circle class="ring" :cx="grip.at[0]" :cy="grip.at[1]" r="5" />
    </g>
  </g>
</template>

<style scoped src="./outline.css"></style>
