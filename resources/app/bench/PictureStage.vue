<script setup lang="ts">
/** The picture: laid out, zoomed and panned, with split line and outlines over it. It draws finished pictures only. */
import { useElementSize } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import type { Picture } from '../api/client';
import type { Area, DrawnShape, Pair, PathPoint, ShapeValues } from '../api/types';
import { drag, onStage } from './drag';
import { apply, inverse, minus, plus, type Matrix } from './geometry';
import OutlineHandles, { type Correction } from './OutlineHandles.vue';
import PenLayer, { type Drawing, type Tool } from './PenLayer.vue';
import TouchHandles, { type TouchHandle } from './TouchHandles.vue';
import { roundedPoint } from './shapes';
import type { Layout } from './useCompare';

/** A shape as it stands on the frame, ready to be drawn. */
export interface StagedShape { shape: DrawnShape; matrix: Matrix }

const props = defineProps<{
  /** Width of the picture in picture heights, and the footage's height in pixels. */
  aspect: number;
  rows: number;
  shotId: number;
  frame: number;
  main: Picture | null;
  patch: Picture | null;
  other: Picture | null;
  /** How the other picture is laid: parted by a line, or beside it. */
  layout: Layout;
  areas: Area[];
  chosen: string | null;
  /** The shape of the chosen area that is worked on. */
  active: string | null;
  letters: Record<string, string>;
  staged: Record<string, StagedShape[]>;
  outlines: boolean;
  /** What is being drawn, if anything. */
  tool: Tool | null;
  correcting: boolean;
  /** Spots of the chosen area's look, where they are on this frame. */
  spots: Pair[];
  handles: TouchHandle[];
  /** Places sampled on this frame. */
  samples: { at: Pair; sign: '+' | '-' }[];
  surround: string;
}>();
const emit = defineEmits<{
  change: [shape: string, change: Partial<ShapeValues>];
  commit: [what: string];
  correct: [correction: Correction];
  corrected: [];
  drawn: [drawing: Drawing];
  touch: [id: string, values: Record<string, number>];
  touched: [id: string, what: string];
  said: [words: string];
  choose: [area: string, shape: string];
  point: [shape: string, piece: number, t: number];
  removed: [shape: string, points: Set<number>];
  look: [height: number, window: [number, number, number, number] | null];
}>();

const NONE: ReadonlySet<number> = new Set();
const MARGIN = 20;
const DASHES = ['7 4', '2 4', '10 3 2 3', '4 2', '12 5', '1 3', '8 3 2 3 2 3', '5 5'];
const stage = ref<HTMLElement>();
const canvas = ref<HTMLCanvasElement>();
const { width, height } = useElementSize(stage);
const ratio = window.devicePixelRatio;

/** Null fits the picture; otherwise screen pixels for a footage pixel. */
const zoom = ref<number | null>(null);
/** The picture point in the middle of the stage, picture heights. */
const middle = ref<Pair>([props.aspect / 2, 0.5]);
/** Side by side each has half of the stage. */
const room = computed(() => (props.layout === 'side' ? width.value / 2 : width.value));
const fitted = computed(() => Math.max(20, Math.min(height.value - 2 * MARGIN, (room.value - 2 * MARGIN) / props.aspect)));
const unit = computed(() => (zoom.value === null ? fitted.value : (props.rows * zoom.value) / ratio));
const origin = computed<Pair>(() => {
  const [mx, my] = zoom.value === null ? [props.aspect / 2, 0.5] : middle.value;
  return [Math.round(room.value / 2 - mx * unit.value), Math.round(height.value / 2 - my * unit.value)];
});

const visible = computed<[number, number, number, number] | null>(() => {
  const [ox, oy] = origin.value;
  const seen: [number, number, number, number] = [-ox / unit.value, -oy / unit.value, (room.value - ox) / unit.value, (height.value - oy) / unit.value];
  return seen[0] <= 0 && seen[1] <= 0 && seen[2] >= props.aspect && seen[3] >= 1 ? null : [Math.max(0, seen[0]), Math.max(0, seen[1]), Math.min(props.aspect, seen[2]), Math.min(1, seen[3])];
});
watch([unit, visible, room], () => {
  if (width.value > 0) emit('look', Math.min(props.rows, Math.max(16, Math.round(unit.value * ratio))), visible.value);
}, { immediate: true });

const splitAt = ref({ x: 0.5, y: 0.5, angle: 90 });

function draw(): void {
  const c = canvas.value;
  const g = c?.getContext('2d');
  if (!c || !g || width.value === 0) return;
  const w = Math.round(width.value * ratio);
  const h = Math.round(height.value * ratio);
  if (c.width !== w || c.height !== h) {
    c.width = w;
    c.height = h;
  }
  g.setTransform(ratio, 0, 0, ratio, 0, 0);
  g.clearRect(0, 0, width.value, height.value);
  g.imageSmoothingEnabled = zoom.value === null || zoom.value < 2;
  g.imageSmoothingQuality = 'high';
  const lay = (p: Picture, shift = 0): void => {
    const [x, y, pw, ph] = p.place;
    g.drawImage(p.image, shift + origin.value[0] + x * unit.value, origin.value[1] + y * unit.value, pw * unit.value, ph * unit.value);
  };
  const half = (left: number, how: () => void): void => {
    g.save();
    g.beginPath();
    g.rect(left, 0, room.value, height.value);
    g.clip();
    how();
    g.restore();
  };
  half(0, () => {
    if (props.main) lay(props.main);
    if (props.patch) lay(props.patch);
  });
  if (props.layout === 'side' && props.other) half(room.value, () => lay(props.other as Picture, room.value));
  if (props.layout === 'split' && props.other) {
    g.save();
    g.beginPath();
    const [a, b] = splitEnds.value;
    const far = 4 * (width.value + height.value);
    const nx = (-(b[1] - a[1]) / Math.hypot(b[0] - a[0], b[1] - a[1])) * far;
    const ny = ((b[0] - a[0]) / Math.hypot(b[0] - a[0], b[1] - a[1])) * far;
    g.moveTo(a[0], a[1]);
    g.lineTo(b[0], b[1]);
    g.lineTo(b[0] + nx, b[1] + ny);
    g.lineTo(a[0] + nx, a[1] + ny);
    g.clip();
    lay(props.other);
    g.restore();
  }
}

const splitCentre = computed<Pair>(() => [origin.value[0] + splitAt.value.x * props.aspect * unit.value, origin.value[1] + splitAt.value.y * unit.value]);
const splitEnds = computed<[Pair, Pair]>(() => {
  const [cx, cy] = splitCentre.value;
  const r = (splitAt.value.angle * Math.PI) / 180;
  const far = width.value + height.value;
  return [[cx - Math.cos(r) * far, cy - Math.sin(r) * far], [cx + Math.cos(r) * far, cy + Math.sin(r) * far]];
});
const splitGrip = computed<Pair>(() => {
  const r = (splitAt.value.angle * Math.PI) / 180;
  return [splitCentre.value[0] + Math.cos(r) * 60, splitCentre.value[1] + Math.sin(r) * 60];
});

onMounted(draw);
watch([() => props.main, () => props.patch, () => props.other, () => props.layout, unit, origin, width, height, splitAt], draw, { deep: false, flush: 'post' });
watch(splitAt, draw, { deep: true });

const inPicture = (e: MouseEvent): Pair => {
  const box = (stage.value as HTMLElement).getBoundingClientRect();
  return [(e.clientX - box.left - origin.value[0]) / unit.value, (e.clientY - box.top - origin.value[1]) / unit.value];
};

function zoomAt(next: number | null, at?: Pair): void {
  if (next === null) {
    zoom.value = null;
    return;
  }
  const before = at ?? [props.aspect / 2, 0.5];
  const screen: Pair = [origin.value[0] + before[0] * unit.value, origin.value[1] + before[1] * unit.value];
  zoom.value = Math.min(8, Math.max(0.1, next));
  const now = (props.rows * zoom.value) / ratio;
  middle.value = at ? [before[0] + (room.value / 2 - screen[0]) / now, before[1] + (height.value / 2 - screen[1]) / now] : before;
}

function wheel(e: WheelEvent): void {
  const present = zoom.value ?? (fitted.value * ratio) / props.rows;
  zoomAt(present * 1.0015 ** -e.deltaY, inPicture(e));
}

// --- selected points of the path being worked on ---------------------------------------------------------------
const selected = shallowRef<ReadonlySet<number>>(new Set());
const activeShape = computed(() => (props.chosen ? props.staged[props.chosen]?.find((s) => s.shape.id === props.active) : undefined) ?? null);
watch(() => [props.chosen, props.active, props.correcting], () => (selected.value = new Set()));

const lasso = shallowRef<Pair[]>([]);
function within([x, y]: Pair, line: Pair[]): boolean {
  let inside = false;
  line.forEach((p, i) => {
    const q = line[(i + 1) % line.length] as Pair;
    if (p[1] > y !== q[1] > y && x < ((q[0] - p[0]) * (y - p[1])) / (q[1] - p[1]) + p[0]) inside = !inside;
  });
  return inside;
}

function selectLassoed(add: boolean): void {
  const staged = activeShape.value;
  if (staged?.shape.kind !== 'path') return;
  const line = lasso.value;
  const found = new Set(add ? selected.value : []);
  staged.shape.points.forEach((p, i) => {
    const [x, y] = apply(staged.matrix, p.at);
    if (within([origin.value[0] + x * unit.value, origin.value[1] + y * unit.value], line)) found.add(i);
  });
  selected.value = found;
}

/** Selected points moved by footage pixels; false where none is selected. */
function nudge(dx: number, dy: number): boolean {
  const staged = activeShape.value;
  if (staged?.shape.kind !== 'path' || selected.value.size === 0) return false;
  const back = inverse(staged.matrix);
  const by = (p: PathPoint): Pair => minus(apply(back, plus(apply(staged.matrix, p.at), [dx / props.rows, dy / props.rows])), p.at);
  emit('change', staged.shape.id, { points: staged.shape.points.map((p, i) => (selected.value.has(i) ? roundedPoint({ ...p, at: plus(p.at, by(p)) }) : p)) });
  emit('commit', 'Nudge points');
  return true;
}

function removeSelected(): boolean {
  const staged = activeShape.value;
  if (staged?.shape.kind !== 'path' || selected.value.size === 0) return false;
  if (staged.shape.points.length - selected.value.size < 2) emit('said', 'A path keeps two points at least. Remove the shape instead.');
  else emit('removed', staged.shape.id, new Set(selected.value));
  selected.value = new Set();
  return true;
}

function selectAll(): boolean {
  const staged = activeShape.value;
  if (staged?.shape.kind !== 'path') return false;
  selected.value = new Set(staged.shape.points.keys());
  return true;
}

function down(e: PointerEvent): void {
  const target = stage.value as HTMLElement;
  if (e.button === 1 || (e.button === 0 && e.altKey)) {
    e.preventDefault();
    const from = inPicture(e);
    if (zoom.value === null) zoomAt((fitted.value * ratio) / props.rows, from);
    target.setPointerCapture(e.pointerId);
    const pan = (m: PointerEvent): void => {
      const now = inPicture(m);
      middle.value = [middle.value[0] + from[0] - now[0], middle.value[1] + from[1] - now[1]];
    };
    const up = (): void => {
      target.removeEventListener('pointermove', pan);
      target.removeEventListener('pointerup', up);
    };
    target.addEventListener('pointermove', pan);
    target.addEventListener('pointerup', up);
    return;
  }
  if (e.button !== 0 || props.tool || props.correcting || activeShape.value?.shape.kind !== 'path') return;
  // On the empty picture: a lasso round points of the path.
  const add = e.shiftKey;
  lasso.value = [onStage(e)];
  drag(e, (at) => (lasso.value = [...lasso.value, at]), (moved) => {
    if (moved) selectLassoed(add);
    else selected.value = new Set();
    lasso.value = [];
  });
}

function splitDrag(e: PointerEvent, turning: boolean): void {
  e.stopPropagation();
  const grip = e.currentTarget as SVGElement;
  grip.setPointerCapture(e.pointerId);
  const moved = (m: PointerEvent): void => {
    const [x, y] = inPicture(m);
    if (turning) {
      const degrees = (Math.atan2(y - splitAt.value.y, x - splitAt.value.x * props.aspect) * 180) / Math.PI;
      // Upright and level are easy to hit.
      const near = Math.round(degrees / 90) * 90;
      splitAt.value = { ...splitAt.value, angle: Math.abs(near - degrees) < 3 ? near : degrees };
    } else splitAt.value = { ...splitAt.value, x: Math.min(1, Math.max(0, x / props.aspect)), y: Math.min(1, Math.max(0, y)) };
  };
  const up = (): void => {
    grip.removeEventListener('pointermove', moved);
    grip.removeEventListener('pointerup', up);
  };
  grip.addEventListener('pointermove', moved);
  grip.addEventListener('pointerup', up);
}

defineExpose({
  fit: () => zoomAt(null),
  zoomTo: (next: number) => zoomAt(next, zoom.value === null ? [props.aspect / 2, 0.5] : middle.value),
  zoom,
  nudge,
  removeSelected,
  selectAll,
  deselect: (): boolean => {
    const any = selected.value.size > 0;
    selected.value = new Set();
    return any;
  },
  /** Screen pixels of one footage pixel at the present zoom, for the head line. */
  percent: computed(() => (100 * unit.value * ratio) / props.rows),
});
</script>

<template>
  <div ref="stage" class="stage" :style="{ background: surround }" data-stage @wheel.prevent="wheel" @pointerdown="down" @auxclick.prevent>
    <canvas ref="canvas" aria-label="The picture"></canvas>
    <svg :width="width" :height="height" aria-hidden="true">
      <template v-if="outlines">
        <template v-for="(area, i) in areas" :key="area.id">
          <template v-if="area.on || area.id === chosen">
            <OutlineHandles
              v-for="(s, k) in staged[area.id] ?? []" :key="s.shape.id"
              :shape="s.shape" :matrix="s.matrix" :unit="unit" :origin="origin" :selected="area.id === chosen && s.shape.id === active ? selected : NONE"
              :letter="`${letters[area.id] ?? ''}${(staged[area.id]?.length ?? 0) > 1 ? k + 1 : ''}`" :chosen="area.id === chosen" :active="s.shape.id === active"
              :correcting="correcting" :pivot="area.motion.pivot" :dash="area.id === chosen && s.shape.id === active ? '' : DASHES[i % DASHES.length] ?? ''"
              @change="emit('change', s.shape.id, $event)" @commit="emit('commit', $event)" @correct="emit('correct', $event)" @corrected="emit('corrected')"
              @choose="emit('choose', area.id, s.shape.id)" @select="selected = $event" @point="(piece, t) => emit('point', s.shape.id, piece, t)"
            />
          </template>
        </template>
        <g v-for="(spot, i) in spots" :key="`spot${i}`" class="spot" :transform="`translate(${origin[0] + spot[0] * unit} ${origin[1] + spot[1] * unit})`">
          <circle r="9" class="dark" /><circle r="9" /><path d="M-13 0h8M5 0h8M0 -13v8M0 5v8" class="dark" /><path d="M-13 0h8M5 0h8M0 -13v8M0 5v8" />
        </g>
      </template>
      <template v-if="outlines && !tool">
        <TouchHandles v-for="h in handles" :key="h.id" :handle="h" :unit="unit" :origin="origin" @change="emit('touch', h.id, $event)" @commit="emit('touched', h.id, $event)" />
      </template>
      <g v-for="(s, i) in outlines ? samples : []" :key="`sample${i}`" class="spot" :transform="`translate(${origin[0] + s.at[0] * unit} ${origin[1] + s.at[1] * unit})`">
        <rect x="-5" y="-5" width="10" height="10" class="dark" /><rect x="-5" y="-5" width="10" height="10" /><path class="dark" :d="s.sign === '+' ? 'M-3 0h6M0 -3v6' : 'M-3 0h6'" /><path :d="s.sign === '+' ? 'M-3 0h6M0 -3v6' : 'M-3 0h6'" />
      </g>
      <polyline v-if="lasso.length > 1" class="lasso" :points="lasso.map((p) => p.join()).join(' ')" />
      <PenLayer v-if="tool" :tool="tool" :unit="unit" :origin="origin" :width="width" :height="height" :shot-id="shotId" :frame="frame" @drawn="emit('drawn', $event)" @said="emit('said', $event)" />
      <g v-if="layout === 'split' && other" class="split">
        <line :x1="splitEnds[0][0]" :y1="splitEnds[0][1]" :x2="splitEnds[1][0]" :y2="splitEnds[1][1]" />
        <circle class="grip" data-handle="split" :cx="splitCentre[0]" :cy="splitCentre[1]" r="7" @pointerdown="splitDrag($event, false)" />
        <circle class="grip turn" data-handle="split-turn" :cx="splitGrip[0]" :cy="splitGrip[1]" r="5" @pointerdown="splitDrag($event, true)" />
      </g>
    </svg>
    <slot></slot>
  </div>
</template>

<style scoped>
.stage {
  position: relative;
  min-height: 0;
  overflow: hidden;
  touch-action: none;
}

canvas,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}

.lasso {
  fill: none;
  pointer-events: none;
  stroke: #fff;
  stroke-dasharray: 3 3;
}

.spot {
  fill: none;
  pointer-events: none;
  stroke: #fff;
  stroke-width: 1.2;
}

.spot .dark {
  stroke: #000;
  stroke-opacity: 0.55;
  stroke-width: 3;
}

.split line {
  stroke: #c8c8c8;
  stroke-width: 1;
}

.split .grip {
  cursor: move;
  fill: #2d2d2d;
  stroke: #c8c8c8;
}

.split .turn {
  cursor: grab;
}
</style>
