<script setup lang="ts">
/** The ways of delivering that the job keeps: one click takes one, a name keeps the present choice. */
import InputText from 'primevue/inputtext';
import { onMounted, ref } from 'vue';
import { api } from '../api/client';
import type { ManyWishes, Preset } from '../api/types';
import { useNotices } from '../useNotices';

const props = defineProps<{ jobId: number }>();
const wishes = defineModel<ManyWishes>({ required: true });
const { fail } = useNotices();
const presets = ref<Preset[]>([]);
const title = ref('');

async function act(what: string, how: () => Promise<unknown>): Promise<void> {
  try {
    await how();
    presets.value = await api.presets(props.jobId);
  } catch (reason) {
    fail(what, reason);
  }
}
const keep = (): Promise<void> => act('It was not kept', async () => {
  await api.keepPreset(props.jobId, title.value.trim(), wishes.value);
  title.value = '';
});
onMounted(() => act('What is kept cannot be shown', () => Promise.resolve()));
</script>

<template>
  <div class="presets">
    <span v-for="p in presets" :key="p.id" class="preset"><button type="button" class="btn small" @click="wishes = { ...wishes, ...p.order }">{{ p.title }}</button><button type="button" class="plain icon dim" :aria-label="`Keep ${p.title} no longer`" @click="act('It was not removed', () => api.removePreset(jobId, p.id))">×</button></span>
    <span class="grow"></span>
    <InputText v-model="title" maxlength="80" placeholder="Keep this choice as…" aria-label="Name to keep this choice under" @keydown.enter.prevent="title.trim() && keep()" />
    <button type="button" class="btn small" :disabled="!title.trim()" @click="keep">Keep</button>
  </div>
</template>

<style scoped>
.presets {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding-bottom: 12px;
  border-bottom: 1px solid var(--line);
}

.preset {
  display: flex;
}

.presets :deep(input) {
  width: 170px;
}
</style>
