<script setup lang="ts">
/** A colour decision list: slope, offset and power of each channel; read from a file and written to one. */
import { useFileDialog } from '@vueuse/core';
import Select from 'primevue/select';
import { shallowRef } from 'vue';
import { api } from '../../../api/client';
import { useNotices } from '../../../useNotices';
import { useBench } from '../../bench';
import type { RulerControl as Ruler } from '../touches';
import { useTouch } from '../useTouch';
import RulerControl from './RulerControl.vue';

const { shot, playhead } = useBench();
const { touch, set, commit } = useTouch();
const { fail } = useNotices();
const SOP = [{ name: 'slope', label: 'Slope' }, { name: 'offset', label: 'Offset' }, { name: 'power', label: 'Power' }];
const RULERS: Ruler[] = SOP.flatMap((s) => ['Red', 'Green', 'Blue'].map((channel): Ruler => ({ type: 'ruler', name: s.name + channel, label: `${s.label} ${channel[0]}`, digits: 3, sign: s.name === 'offset' })));
const corrections = shallowRef<{ id: string; settings: Record<string, number> }[]>([]);

function take(found: { id: string; settings: Record<string, number> } | undefined, what: string): void {
  if (!found) return;
  set(found.settings);
  commit(what);
}
async function read(file: File): Promise<void> {
  try {
    corrections.value = await api.readCdl(await file.text());
    take(corrections.value[0], file.name);
  } catch (reason) {
    fail('The decision list was not taken', reason);
  }
}
const { open, onChange } = useFileDialog({ accept: '.cc,.ccc,.cdl', multiple: false, reset: true });
onChange((files) => files?.[0] && void read(files[0]));
</script>

<template>
  <RulerControl v-for="r in RULERS" :key="r.name" :control="r" />
  <div class="line">
    <button type="button" class="btn small" @click="open()">Read a file</button>
    <Select v-if="corrections.length > 1" placeholder="Correction" :model-value="null" :options="corrections" option-label="id" option-value="id" aria-label="Correction of the file" @update:model-value="take(corrections.find((c) => c.id === $event), String($event))" />
    <span class="dim">write</span>
    <a v-for="form in ['cc', 'ccc', 'cdl']" :key="form" class="btn small mono" :href="api.cdlUrl(shot.id, touch.id, form, playhead.frame.value)" download>.{{ form }}</a>
  </div>
</template>

<style scoped src="./controls.css"></style>
