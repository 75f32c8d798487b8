<script setup lang="ts">
/** A file a touch shows or goes by: a look-up table from disk, or the footage of another shot. */
import { useFileDialog } from '@vueuse/core';
import Select from 'primevue/select';
import { computed } from 'vue';
import { api } from '../../../api/client';
import { useNotices } from '../../../useNotices';
import type { EditorControl } from '../touches';
import { useAssets } from '../useAssets';
import { useTouch } from '../useTouch';

const props = defineProps<{ control: EditorControl }>();
const { touch, change, commit } = useTouch();
const { fail } = useNotices();
const assets = useAssets();
const name = computed(() => assets.words(touch.value['file'] as string | null));

async function readTable(file: File): Promise<void> {
  try {
    const { sha256 } = await api.cube(await file.text());
    take(sha256, 'cube', file.name);
  } catch (reason) {
    fail('The look-up table was not taken', reason);
  }
}
function take(sha256: string, kind: string, what: string): void {
  change({ [props.control.name]: assets.named(sha256, kind) });
  commit(what);
}
const { open, onChange } = useFileDialog({ accept: '.cube', multiple: false, reset: true });
onChange((files) => files?.[0] && void readTable(files[0]));
</script>

<template>
  <div v-if="control.type === 'cube'" class="line"><span class="label">Table</span><span class="mono name">{{ name }}</span><button type="button" class="btn small" @click="open()">Choose a .cube file</button></div>
  <div v-else class="line">
    <span class="label">Shows</span><span class="name">{{ name }}</span>
    <Select placeholder="A shot of this job" :model-value="null" :options="assets.footages.value" option-label="label" option-value="value" aria-label="Footage to show" @before-show="assets.load" @update:model-value="take($event, 'footage', 'footage')" />
  </div>
</template>

<style scoped src="./controls.css"></style>
