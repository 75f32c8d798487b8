<script setup lang="ts">
/** The waveform of the shown frame: counts come from the server, here they only get their brightness. */
import { useElementSize } from '@vueuse/core';
import { onBeforeUnmount, ref, watch } from 'vue';
import { api } from '../api/client';
import type { PictureRequest, Waveform } from '../api/types';

const props = defineProps<{ shotId: number; request: PictureRequest | null }>();
const canvas = ref<HTMLCanvasElement>();
const { width } = useElementSize(canvas);
const open = ref(true);
const HEIGHT = 104;
let wave: Waveform | null = null;
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
      wave = await api.waveform(props.shotId, request, stop.signal);
      draw();
    } catch {
      // The picture says what is wrong; the scope keeps its last reading.
    }
  }
  running = false;
}

function draw(): void {
  const c = canvas.value;
  const g = c?.getContext('2d');
  if (!c || !g || width.value === 0) return;
  const ratio = window.devicePixelRatio;
  c.width = Math.round(width.value * ratio);
  c.height = Math.round(HEIGHT * ratio);
  g.fillStyle = '#141414';
  g.fillRect(0, 0, c.width, c.height);
  if (wave) {
    const { columns, rows, from, to, counts } = wave;
    const image = g.createImageData(columns, rows);
    const full = Math.max(1, counts.reduce((a, b) => a + b, 0) / columns / 14);
    counts.forEach((n, i) => {
      const v = n === 0 ? 20 : 40 + Math.min(1, Math.sqrt(n / full)) * 160;
      image.data.set([v, v, v, 255], i * 4);
    });
    const off = new OffscreenCanvas(columns, rows);
    off.getContext('2d')?.putImageData(image, 0, 0);
    g.imageSmoothingEnabled = true;
    g.drawImage(off, 0, 0, c.width, c.height);
    g.fillStyle = '#858585';
    g.font = `${10 * ratio}px 'Spline Sans Mono Variable', monospace`;
    for (const level of [0, 0.5, 1]) {
      const y = c.height * (1 - (level - from) / (to - from));
      g.globalAlpha = 0.45;
      g.fillRect(0, Math.round(y), c.width, 1);
      g.globalAlpha = 1;
      g.fillText(String(level * 100), 4 * ratio, level === 1 ? y + 11 * ratio : y - 3 * ratio);
    }
  }
}

watch(() => props.request, (request) => {
  if (!request || !open.value) return;
  next = request;
  void run();
}, { immediate: true });
watch(width, draw);
onBeforeUnmount(() => stop.abort());
</script>

<template>
  <section class="scope" aria-label="Scope">
    <header>
      <button type="button" class="plain" :aria-expanded="open" @click="open = !open">Waveform</button>
      <span class="grow"></span>
      <span class="dim">frame, % of white</span>
    </header>
    <canvas v-show="open" ref="canvas" :style="{ height: `${HEIGHT}px` }" aria-label="Waveform of the shown frame"></canvas>
  </section>
</template>

<style scoped>
.scope {
  border-top: 1px solid var(--line);
  padding: 7px 16px 10px;
}

header {
  display: flex;
  margin-bottom: 5px;
  font-size: 12px;
}

canvas {
  display: block;
  width: 100%;
}
</style>
