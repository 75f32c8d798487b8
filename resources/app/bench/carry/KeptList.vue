<script setup lang="ts">
/** Treatments kept under names: one is laid on this shot, the chosen areas are kept as another. */
import { useFileDialog } from '@vueuse/core';
import InputText from 'primevue/inputtext';
import { onMounted, ref } from 'vue';
import { api } from '../../api/client';
import { useBench } from '../bench';
import { holds, useKept } from './useKept';

const { carrying, shot, store } = useBench();
const kept = useKept(shot.jobId);
const title = ref('');
const busy = ref(false);
const { open, onChange } = useFileDialog({ accept: '.json', multiple: false, reset: true });
onChange((files) => {
  if (files?.[0]) void kept.take(files[0]);
});

async function keep(): Promise<void> {
  busy.value = true;
  await store.settled();
  if (await kept.keep(shot.id, { title: title.value.trim(), areas: [...carrying.chosen.value], touches: carrying.only.value, base: carrying.base.value, finish: carrying.finish.value })) title.value = '';
  busy.value = false;
}
onMounted(kept.load);
</script>

<template>
  <section aria-label="Kept treatments">
    <h3>Kept treatments</h3>
    <form @submit.prevent="keep">
      <InputText v-model="title" maxlength="80" placeholder="Keep what is ticked above as…" aria-label="Name to keep the treatment under" />
      <button type="submit" class="btn small" :disabled="busy || !title.trim() || !carrying.something.value">{{ busy ? 'Measuring…' : 'Keep' }}</button>
    </form>
    <ul>
      <li v-for="t in kept.all.value" :key="t.id">
        <span class="what"><b>{{ t.title }}</b><small class="dim">{{ holds(t) }}</small></span>
        <button type="button" class="btn small" :aria-label="`Lay ${t.title} on this shot`" @click="carrying.lay(t.id)">Lay on</button>
        <a class="btn small" :href="api.treatmentUrl(shot.jobId, t.id)" download :aria-label="`${t.title} as a file`">File</a>
        <button type="button" class="plain icon dim" :aria-label="`Keep ${t.title} no longer`" @click="kept.remove(t.id)">×</button>
      </li>
    </ul>
    <button type="button" class="btn small" @click="open()">Bring one in…</button>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 6px;
  justify-items: stretch;
  padding: 12px 0 14px;
  border-top: 1px solid var(--line);
}

section > .btn {
  justify-self: start;
}

h3 {
  margin: 0;
  color: var(--t2);
  font-size: 12px;
  font-weight: 500;
}

form,
li {
  display: flex;
  gap: 6px;
  align-items: center;
}

form :deep(input) {
  flex: 1;
  min-width: 0;
}

ul {
  display: grid;
  gap: 4px;
  padding: 0;
  list-style: none;
}

.what {
  display: grid;
  flex: 1;
  min-width: 0;
}

.what b,
.what small {
  overflow: hidden;
  font-weight: 500;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
