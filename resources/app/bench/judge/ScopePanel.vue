<script setup lang="ts">
/** The pinned scope, of the shown frame or of the area. */
import { useDevicePixelRatio, useElementSize, useLocalStorage } from '@vueuse/core';
import { onScopeDispose, ref, watch } from 'vue';
import { api } from '../../api/client';
import type { PictureRequest, Scope, ScopeName } from '../../api/types';
import PillChoice from '../../widgets/PillChoice.vue';
import { useBench } from '../bench';
import { drawScope } from './scopes';

const { shot, areas, shown } = useBench();
const SCOPES: { value: ScopeName; label: string }[] = [
  { value: 'waveform', label: 'Waveform' },
  { value: 'parade', label: 'Parade' },
  { value: 'vectorscope', label: 'Vectors' },
  { value: 'histogram', label: 'Histogram' },
];
const HEIGHTS: Record<ScopeName, number> = { waveform: 104, parade: 104, vectorscope: 150, histogram: 104 };
/** Skin is a dot in the middle of the whole plane. */
const ZOOMS = [1, 2, 4];
const canvas = ref<HTMLCanvasElement>();
const { width } = useElementSize(canvas);
const { pixelRatio } = useDevicePixelRatio();
const open = useLocalStorage('scope open', true);
const name = useLocalStorage<ScopeName>('scope', 'waveform');
const zoom = useLocalStorage('scope zoom', 1);
const limited = ref(false);
let scope: Scope | null = null;
let running = false;
let next: PictureRequest | null = null;
const stop = new AbortController();
onScopeDispose(() => stop.abort());

/** One request at a time, the newest last. */
async function run(): Promise<void> {
  if (running) return;
  running = true;
  while (next) {
    const request = next;
    next = null;
    const own = areas.chosen.value?.id ?? null;
    try {
      scope = await api.scope(shot.id, { ...request, area: request.area ?? (limited.value ? own : null), scope: name.value, zoom: zoom.value, limited: limited.value && own !== null }, stop.signal);
      draw();
    } catch {
      // The picture says what is wrong; the scope keeps its last reading.
    }
  }
  running = false;
}
function draw(): void {
  const c = canvas.value;
  if (!c || width.value === 0) return;
  c.width = Math.round(width.value * pixelRatio.value);
  c.height = Math.round(HEIGHTS[name.value] * pixelRatio.value);
  drawScope(c, scope?.scope === name.value ? scope : null, pixelRatio.value, zoom.value);
}
function ask(): void {
  if (!shown.scope.value || !open.value) return;
  next = shown.scope.value;
  void run();
}
function choose(value: ScopeName | null): void {
  if (value) name.value = value;
  open.value = true;
}
watch([shown.scope, name, limited, open, zoom, () => (limited.value ? areas.chosen.value?.id : null)], ask, { immediate: true });
watch([width, pixelRatio], draw);
</script>

<template>
  <section class="scope" aria-label="Scope">
    <header>
      <PillChoice :options="SCOPES" :value="open ? name : null" label="Which scope" @choose="choose" />
      <span class="grow"></span>
      <button v-if="open && name === 'vectorscope'" v-tooltip.top="'Enlarge the middle, where skin lies'" type="button" class="btn small mono" :aria-label="`×${zoom} enlarged; change`" @click="zoom = ZOOMS[(ZOOMS.indexOf(zoom) + 1) % ZOOMS.length] ?? 1">×{{ zoom }}</button>
      <button v-if="areas.chosen.value" v-tooltip.top="'Of the area alone, not of the whole frame'" type="button" class="btn small" :aria-pressed="limited" @click="limited = !limited">Area<span class="unseen"> alone</span></button>
      <button type="button" class="plain icon" :aria-expanded="open" :aria-label="open ? 'Fold the scope away' : 'Show the scope'" @click="open = !open">{{ open ? '⌄' : '›' }}</button>
    </header>
    <canvas v-show="open" ref="canvas" role="img" :style="{ height: `${HEIGHTS[name]}px` }" :aria-label="`${SCOPES.find((s) => s.value === name)?.label} of the ${limited ? 'area' : 'shown frame'}`" :data-scope="name"></canvas>
  </section>
</template>

<style scoped>
.scope {
  flex: none;
  padding: 6px 12px 10px 16px;
  border-top: 1px solid var(--line);
}

header {
  display: flex;
  gap: 4px;
  align-items: center;
  min-width: 0;
  margin-bottom: 5px;
}

header :deep(.pills button) {
  padding: 0 6px;
  font-size: 11px;
}

canvas {
  display: block;
  width: 100%;
}

@media (width < 1150px) {
  header,
  .scope {
    gap: 2px;
    padding-right: 8px;
  }

  header {
    padding: 0;
  }

  header :deep(.pills button),
  header .btn {
    padding: 0 4px;
  }
}
</style>
