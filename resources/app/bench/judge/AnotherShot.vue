<script setup lang="ts">
/** This shot beside the one it is compared with: the same parts in numbers, their colours as clouds, and what brings one to the other. */
import { useDevicePixelRatio, useElementSize } from '@vueuse/core';
import Checkbox from 'primevue/checkbox';
import { ref, watch } from 'vue';
import type { Triple } from '../../api/types';
import { useBench } from '../bench';
import { drawClouds } from './scopes';

const { another, compare, areas } = useBench();
const canvas = ref<HTMLCanvasElement>();
const { width } = useElementSize(canvas);
const { pixelRatio } = useDevicePixelRatio();
const HEIGHT = 132;

watch([another.cloud, width, pixelRatio, canvas], () => {
  const c = canvas.value;
  if (!c || width.value === 0) return;
  c.width = Math.round(width.value * pixelRatio.value);
  c.height = Math.round(HEIGHT * pixelRatio.value);
  drawClouds(c, another.cloud.value?.here.cloud ?? [], another.cloud.value?.there.cloud ?? [], pixelRatio.value);
});

/** Oklab as people read it: lightness in hundreds, a and b in thousandths. */
const read = ([l, a, b]: Triple): [string, string, string] => [(l * 100).toFixed(1), (a * 1000).toFixed(0), (b * 1000).toFixed(0)];
const nameOf = (id: string): string => areas.find(id)?.name ?? id;
</script>

<template>
  <section class="another" :aria-label="`Beside ${compare.neighbour.value?.name}`">
    <p v-if="another.pairs.value.length === 0" class="dim">No part of anybody is outlined in both shots on these frames.</p>
    <template v-else>
      <table>
        <thead><tr><th></th><th>Here, there</th><th title="Lightness, Oklab">L</th><th title="Green to red, Oklab">a</th><th title="Blue to yellow, Oklab">b</th><th title="Its lights less its shadows">contrast</th><th title="CIEDE2000 of the means">ΔE</th></tr></thead>
        <tbody>
          <tr v-for="p in another.pairs.value" :key="p.area" :class="{ on: another.cloud.value?.area === p.area }">
            <td><Checkbox :model-value="another.ticked.value.has(p.area)" binary :aria-label="`Match ${p.name}`" @update:model-value="another.tick(p.area)" /></td>
            <td><button type="button" class="plain" :aria-pressed="another.cloud.value?.area === p.area" @click="another.shown.value = p.area">{{ p.name }}</button></td>
            <td v-for="(v, i) in read(p.here.mean)" :key="i" class="mono"><span>{{ v }}</span><span class="dim">{{ read(p.there.mean)[i] }}</span></td>
            <td class="mono"><span>{{ (p.here.contrast * 100).toFixed(1) }}</span><span class="dim">{{ (p.there.contrast * 100).toFixed(1) }}</span></td>
            <td class="mono">{{ p.apart.toFixed(1) }}</td>
          </tr>
        </tbody>
      </table>
      <canvas ref="canvas" role="img" :style="{ height: `${HEIGHT}px` }" :aria-label="`Vectorscope of ${another.cloud.value?.name} here and there`"></canvas>
      <template v-if="another.proposal.value">
        <p v-for="m in another.proposal.value.misses" :key="m.area" class="miss"><span>{{ nameOf(m.area) }}</span><span class="mono">{{ m.before.toFixed(1) }} → {{ m.after.toFixed(1) }}</span></p>
        <div class="acts"><button type="button" class="btn small" @click="another.leave()">Leave it</button><button type="button" class="btn small main" @click="another.take()">Apply</button></div>
      </template>
      <div v-else class="acts">
        <span v-if="another.busy.value" class="dim" role="status">finding the trim…</span>
        <button type="button" class="btn small" :disabled="another.busy.value" title="By the part whose colours are shown" @click="another.propose(true)">Match the base</button>
        <button type="button" class="btn small" :disabled="another.busy.value || another.ticked.value.size === 0" @click="another.propose(false)">Match {{ another.ticked.value.size === 1 ? 'the part' : `${another.ticked.value.size} parts` }}</button>
      </div>
    </template>
  </section>
</template>

<style scoped>
.another {
  display: grid;
  gap: 6px;
  padding: 6px 0;
  font-size: 12px;
  border-top: 1px solid var(--line);
}

table {
  width: 100%;
  border-collapse: collapse;
}

th {
  color: var(--t2);
  font-weight: 400;
  text-align: right;
}

th:nth-child(2) {
  text-align: left;
}

td {
  padding: 2px 0 2px 6px;
  text-align: right;
}

td:first-child {
  width: 20px;
  padding-left: 0;
}

td:nth-child(2) {
  text-align: left;
}

td.mono span {
  display: block;
  line-height: 15px;
}

td button {
  min-height: 24px;
  color: var(--t2);
  text-align: left;
}

.on td button {
  color: var(--t1);
}

canvas {
  display: block;
  width: 100%;
}

.acts,
.miss {
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: flex-end;
}

.miss {
  justify-content: space-between;
}
</style>
