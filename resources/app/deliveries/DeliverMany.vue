<script setup lang="ts">
/** Several shots of a job delivered at once: as what, with or without handles, under which names. */
import InputText from 'primevue/inputtext';
import { computed, ref } from 'vue';
import { api } from '../api/client';
import type { ManyWishes, Shot } from '../api/types';
import PillChoice from '../widgets/PillChoice.vue';
import FormatChoice from './FormatChoice.vue';
import PresetLine from './PresetLine.vue';
import { useOrder } from './useOrder';
import { usual } from './wishes';

const props = defineProps<{ jobId: number; job: string; shots: Shot[] }>();
const emit = defineEmits<{ close: []; ordered: [] }>();
const { sending, place } = useOrder('The deliveries were not taken', () => {
  emit('ordered');
  emit('close');
});
const wishes = ref<ManyWishes>(usual());

const inCut = computed(() => props.shots.some((shot) => shot.cut));
const WAYS = [{ label: 'With handles', value: true }, { label: 'As the cut shows', value: false }];
/** The first one's name, about as it will be. */
const example = computed(() => {
  const [shot] = props.shots;
  if (!shot) return '';
  const pad = (v: number, digits: number): string => String(v).padStart(digits, '0');
  const values: Record<string, string> = { job: props.job, shot: shot.name, version: String(shot.revision), event: pad(shot.cut?.number ?? 0, 3), first: pad(shot.from, 6), last: pad(shot.to, 6) };
  return wishes.value.name.replace(/\{(\w+)\}/g, (whole, field: string) => values[field] ?? whole).toLowerCase().replace(/[\s-]+/g, '_');
});

const order = (): Promise<void> => place({ ...wishes.value, areas: null, shots: props.shots.map((s) => s.id) }, (wanted) => api.deliverMany(props.jobId, wanted));
</script>

<template>
  <form class="deliver" @submit.prevent="order">
    <PresetLine v-model="wishes" :job-id="jobId" />
    <FormatChoice :model-value="wishes" @update:model-value="wishes = { ...wishes, ...$event }" />
    <div v-if="inCut" class="row"><span class="dim">Frames</span><PillChoice :options="WAYS" :value="wishes.handles" label="Frames" @choose="wishes.handles = $event === true" /></div>
    <div class="name">
      <label for="delivery-name" class="dim">Names of the files</label>
      <InputText id="delivery-name" v-model="wishes.name" maxlength="120" spellcheck="false" class="mono" />
      <small class="dim">{job} {shot} {version} {event} {first} {last} stand for what they say. The first: <span class="mono">{{ example }}</span></small>
    </div>
    <div class="row acts">
      <button type="button" class="btn" @click="emit('close')">Leave it</button>
      <button type="submit" class="btn main" :disabled="sending || !wishes.name.trim()">Render {{ shots.length === 1 ? 'it' : `all ${shots.length}` }}</button>
    </div>
  </form>
</template>

<style scoped>
.deliver {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}

.row {
  display: flex;
  gap: 12px;
  align-items: center;
}

.row > .dim {
  width: 64px;
}

.acts {
  gap: 8px;
  justify-content: flex-end;
}

.name {
  display: grid;
  gap: 4px;
}
</style>
