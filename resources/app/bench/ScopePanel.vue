<script setup lang="ts">
/** The pinned scope, of the shown frame or of the area: counts come from the server, here they only get their brightness. */
import { useElementSize } from '@vueuse/core';
import { onBeforeUnmount, ref, watch } from 'vue';
import { api } from '../api/client';
import type { PictureRequest, Scope, ScopeName } from '../api/types';

const props = defineProps<{ shotId: number; request: PictureRequest | null; area: string | null }>();
const SCOPES: { value: ScopeName; label: string }[] = [
  { value: 'waveform', label: 'Waveform' },
  { value: 'parade', label: 'Parade' },
  { value: 'vectorscope', label: 'Vectors' },
  { value: 'histogram', label: 'Histogram' },
];
const canvas = ref<HTMLCanvasElement>();
const { width } = useElementSize(canvas);
const open = ref(localStorage.getItem('scope open') !== 'no');
const name = ref<ScopeName>((localStorage.getItem('scope') as ScopeName | null) ?? 'waveform');
const limited = ref(false);
const HEIGHTS: Record<ScopeName, number> = { waveform: 104, parade: 104, vectorscope: 150, histogram: 104 };
/** The skin line: degrees from +Cb, anticlockwise. */
const SKIN = 123;
/** Faint tints, as data: which channel is which. */
const TINTS = [[1, 0.62, 0.58], [0.62, 0.95, 0.64], [0.6, 0.75, 1]] as const;
const GREY = [1, 1, 1] as const;
let scope: Scope | null = null;
let running = false;
let next: PictureRequest | null = null;
const stop = new AbortController();

async function run(): Promise<void> {
  if (running) return;
  running = true;
  while (next) {
    const request = next;
    next = null;
    try {
      scope = await api.scope(props.shotId, { ...request, area: request.area ?? (limited.value ? props.area : null), scope: name.value, limited: limited.value && props.area !== null }, stop.signal);
      draw();
    } catch {
      // The picture says what is wrong; the scope keeps its last reading.
    }
  }
  running = false;
}

function cells(counts: number[], columns: number, rows: number, full: number, tint: readonly number[]): OffscreenCanvas {
  const off = new OffscreenCanvas(columns, rows);
  const g = off.getContext('2d') as OffscreenCanvasRenderingContext2D;
  const image = g.createImageData(columns, rows);
  counts.forEach((n, i) => {
    const v = n === 0 ? 0 : 40 + Math.min(1, Math.sqrt(n / full)) * 160;
    image.data.set([v * (tint[0] ?? 1), v * (tint[1] ?? 1), v * (tint[2] ?? 1), n === 0 ? 0 : 255], i * 4);
  });
  g.putImageData(image, 0, 0);
  return off;
}

function draw(): void {
  const c = canvas.value;
  const g = c?.getContext('2d');
  if (!c || !g || width.value === 0) return;
  const ratio = window.devicePixelRatio;
  c.width = Math.round(width.value * ratio);
  c.height = Math.round(HEIGHTS[name.value] * ratio);
  g.fillStyle = '#141414';
  g.fillRect(0, 0, c.width, c.height);
  if (!scope || scope.scope !== name.value) return;
  const { columns, rows, from, to, counts } = scope;
  g.font = `${10 * ratio}px 'Spline Sans Mono Variable', monospace`;
  if (scope.scope === 'histogram') histogram(g, c, counts, ratio);
  else if (scope.scope === 'vectorscope') vectors(g, c, counts[0] ?? [], columns, ratio);
  else {
    const gap = counts.length > 1 ? 4 * ratio : 0;
    const w = (c.width - gap * (counts.length - 1)) / counts.length;
    counts.forEach((list, k) => {
      const full = Math.max(1, list.reduce((a, b) => a + b, 0) / columns / 14);
      g.imageSmoothingEnabled = true;
      g.drawImage(cells(list, columns, rows, full, counts.length > 1 ? (TINTS[k] ?? GREY) : GREY), k * (w + gap), 0, w, c.height);
    });
    g.fillStyle = '#858585';
    for (const level of [0, 0.5, 1]) {
      const y = c.height * (1 - (level - from) / (to - from));
      g.globalAlpha = 0.45;
      g.fillRect(0, Math.round(y), c.width, 1);
      g.globalAlpha = 1;
      g.fillText(String(level * 100), 4 * ratio, level === 1 ? y + 11 * ratio : y - 3 * ratio);
    }
  }
}

function vectors(g: CanvasRenderingContext2D, c: HTMLCanvasElement, counts: number[], size: number, ratio: number): void {
  // The middle half holds nearly all of a picture: twice as large, the corners are cut.
  const shown = 0.62;
  const side = c.height;
  const left = (c.width - side) / 2;
  const [mx, my] = [c.width / 2, c.height / 2];
  const unit = side / shown;
  g.strokeStyle = '#444';
  g.lineWidth = ratio;
  for (const r of [0.1, 0.2, 0.3]) {
    g.beginPath();
    g.arc(mx, my, r * unit, 0, 2 * Math.PI);
    g.stroke();
  }
  g.beginPath();
  g.moveTo(mx - side / 2, my);
  g.lineTo(mx + side / 2, my);
  g.moveTo(mx, 0);
  g.lineTo(mx, side);
  g.stroke();
  g.strokeStyle = '#9a9a9a';
  g.beginPath();
  g.moveTo(mx, my);
  const angle = (SKIN * Math.PI) / 180;
  g.lineTo(mx + Math.cos(angle) * 0.3 * unit, my - Math.sin(angle) * 0.3 * unit);
  g.stroke();
  const full = Math.max(1, counts.reduce((a, b) => a + b, 0) / 400);
  const cut = (size * (1 - shown)) / 2;
  g.drawImage(cells(counts, size, size, full, GREY), cut, cut, size * shown, size * shown, left, 0, side, side);
  g.fillStyle = '#9a9a9a';
  g.fillText('skin', mx + Math.cos(angle) * 0.3 * unit - 28 * ratio, my - Math.sin(angle) * 0.3 * unit + 4 * ratio);
  const names: [string, number, number][] = [['R', -0.1146, 0.5], ['Mg', 0.3854, 0.4542], ['B', 0.5, -0.0458], ['Cy', 0.1146, -0.5], ['G', -0.3854, -0.4542], ['Yl', -0.5, 0.0458]];
  for (const [word, cb, cr] of names) {
    const r = Math.hypot(cb, cr);
    g.fillText(word, mx + (cb / r) * side * 0.47 - 5 * ratio, my - (cr / r) * side * 0.45 + 4 * ratio);
  }
}

function histogram(g: CanvasRenderingContext2D, c: HTMLCanvasElement, counts: number[][], ratio: number): void {
  const luma = counts[0] ?? [];
  const bins = luma.length;
  const peak = Math.max(1, ...counts.flatMap((list) => [...list].sort((a, b) => b - a).slice(2, 3)));
  const path = (list: number[]): void => {
    g.beginPath();
    list.forEach((n, i) => g.lineTo(((i + 0.5) / bins) * c.width, c.height - 1 - Math.min(1, n / peak) * (c.height - 8 * ratio)));
  };
  g.fillStyle = '#3a3a3a';
  path(luma);
  g.lineTo(c.width, c.height);
  g.lineTo(0, c.height);
  g.fill();
  g.lineWidth = ratio;
  counts.slice(1).forEach((list, k) => {
    const [r, gr, b] = TINTS[k] ?? GREY;
    g.strokeStyle = `rgb(${r * 190} ${gr * 190} ${b * 190})`;
    path(list);
    g.stroke();
  });
  g.fillStyle = '#858585';
  for (const level of [0, 0.5, 1]) {
    const x = c.width * ((level + 0.1) / 1.2);
    g.globalAlpha = 0.45;
    g.fillRect(Math.round(x), 0, 1, c.height);
    g.globalAlpha = 1;
    g.fillText(String(level * 100), x + 3 * ratio, 11 * ratio);
  }
}

function ask(): void {
  if (!props.request || !open.value) return;
  next = props.request;
  void run();
}
function choose(value: ScopeName): void {
  name.value = value;
  open.value = true;
}
watch(() => props.request, ask, { immediate: true });
watch([name, limited, open, () => (limited.value ? props.area : null)], () => {
  localStorage.setItem('scope', name.value);
  localStorage.setItem('scope open', open.value ? 'yes' : 'no');
  ask();
});
watch(width, draw);
onBeforeUnmount(() => stop.abort());
</script>

<template>
  <section class="scope" aria-label="Scope">
    <header>
      <span class="pills" role="group" aria-label="Which scope"><button v-for="s in SCOPES" :key="s.value" type="button" :aria-pressed="open && name === s.value" @click="choose(s.value)">{{ s.label }}</button></span>
      <span class="grow"></span>
      <button v-if="area" v-tooltip.top="'Of the whole frame, or of the area alone'" type="button" class="btn small" aria-label="Of the area alone" :aria-pressed="limited" @click="limited = !limited">{{ limited ? 'Area' : 'Frame' }}</button>
      <button type="button" class="plain fold" :aria-expanded="open" :aria-label="open ? 'Fold the scope away' : 'Show the scope'" @click="open = !open">{{ open ? '⌄' : '›' }}</button>
    </header>
    <canvas v-show="open" ref="canvas" :style="{ height: `${HEIGHTS[name]}px` }" :aria-label="`${SCOPES.find((s) => s.value === name)?.label} of the ${limited ? 'area' : 'shown frame'}`" :data-scope="name"></canvas>
  </section>
</template>

<style scoped>
.scope {
  border-top: 1px solid var(--line);
  padding: 7px 16px 10px;
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  min-width: 0;
  align-items: center;
  margin-bottom: 5px;
  font-size: 12px;
}

.pills button {
  padding: 0 5px;
  font-size: 11px;
}

.btn.small {
  padding: 0 5px;
  font-size: 11px;
}

.fold {
  width: 14px;
  text-align: center;
}

canvas {
  display: block;
  width: 100%;
}
</style>
