<script setup lang="ts">
/** The colour to match: from the picture, believable skin, or another area of this or another shot. */
import Select from 'primevue/select';
import { computed, shallowRef } from 'vue';
import { api } from '../../../api/client';
import type { Shot } from '../../../api/types';
import { useNotices } from '../../../useNotices';
import { useBench } from '../../bench';
import { useTouch } from '../useTouch';

const { shot, areas, treating, playhead, store, askPlace } = useBench();
const { value, set, commit } = useTouch();
const { fail } = useNotices();
const shots = shallowRef<Shot[]>([]);
const others = computed(() => shots.value.flatMap((s) => (s.progress?.areas ?? []).map((a) => ({ label: `${s.name} · ${a.name}`, value: `${s.id} ${a.id}` }))));

function take(lab: number[], what: string): void {
  set({ targetL: lab[0] ?? 0, targetA: lab[1] ?? 0, targetB: lab[2] ?? 0 });
  commit(what);
}
async function fromPicture(): Promise<void> {
  const at = await askPlace('Click the colour to match.');
  const area = areas.chosen.value;
  if (!at || !area) return;
  try {
    take((await api.sample(shot.id, area.id, { frame: playhead.frame.value, ...store.asked(), at })).lab, 'target from the picture');
  } catch (reason) {
    fail('The place cannot be read', reason);
  }
}
/** Means of Oklab a and b over the light: deep and fair skin share the hue, fair skin is lighter. */
function believable(): void {
  const l = treating.colours.value?.mean[0] ?? 0.65;
  take([l, 0.035 + 0.01 * (1 - l), 0.048 + 0.012 * (1 - l)], 'believable skin');
}
async function loadShots(): Promise<void> {
  if (shots.value.length === 0) shots.value = (await api.job(shot.jobId)).shots;
}
async function fromArea(chosen: string): Promise<void> {
  const [id = '', area = ''] = chosen.split(' ');
  const of = shots.value.find((s) => s.id === Number(id));
  if (!of) return;
  try {
    const found = await api.colours(of.id, area, { frame: of.id === shot.id ? playhead.frame.value : Math.round((of.from + of.to) / 2) });
    if (found) take(found.mean, `target from ${of.name}`);
  } catch (reason) {
    fail('That area cannot be read', reason);
  }
}
</script>

<template>
  <div class="line">
    <span class="label">Target</span>
    <i class="chip" :style="{ background: `oklab(${value('targetL')} ${value('targetA')} ${value('targetB')})` }"></i>
    <button type="button" class="btn small" @click="fromPicture">From the picture</button>
    <button type="button" class="btn small" @click="believable">Believable skin</button>
    <Select placeholder="Another area" :model-value="null" :options="others" option-label="label" option-value="value" aria-label="Target from another area" @before-show="loadShots" @update:model-value="fromArea($event)" />
  </div>
</template>

<style scoped src="./controls.css"></style>
<style scoped>
.chip {
  width: 18px;
  height: 18px;
}
</style>
