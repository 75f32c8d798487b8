<script setup lang="ts">
/** Which shots of the job are listed. */
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Job } from '../api/types';
import PillChoice from '../widgets/PillChoice.vue';
import { counts, type Filter, type Which } from './filters';

const props = defineProps<{ job: Job }>();
/** Lists do not show an empty value. */
const ANYBODY = '*';
const filter = defineModel<Filter>({ required: true });
const set = (change: Partial<Filter>): void => {
  filter.value = { ...filter.value, ...change };
};
const ways = computed(() => {
  const n = counts(props.job.shots);
  const way = (value: Which, label: string) => ({ value, label: `${label} ${n[value]}` });
  return [way('all', 'All'), way('todo', 'To do'), way('telltales', 'Tell-tales'), way('notes', 'Notes'), way('done', 'Done'), ...(n.away ? [way('away', 'Put away')] : [])];
});
const people = computed(() => [{ name: 'anybody', slug: ANYBODY }, ...props.job.people]);
</script>

<template>
  <div class="filter">
    <PillChoice :options="ways" :value="filter.which" label="Which shots" @choose="set({ which: $event ?? 'all' })" />
    <Select v-if="job.people.length" :model-value="filter.person ?? ANYBODY" :options="people" option-label="name" option-value="slug" aria-label="With whom" @update:model-value="set({ person: $event === ANYBODY ? null : $event })" />
    <InputText :model-value="filter.words" placeholder="Find by name or note" aria-label="Find by name or note" @update:model-value="set({ words: $event ?? '' })" />
    <span class="grow"></span>
    <slot></slot>
  </div>
</template>

<style scoped>
.filter {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 8px 24px;
  border-bottom: 1px solid var(--line);
}

.filter :deep(input) {
  width: 180px;
}
</style>
