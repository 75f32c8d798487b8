<script setup lang="ts">
/** A kept treatment laid on the chosen shots: proposed, looked at, taken. */
import { useIntervalFn } from '@vueuse/core';
import Select from 'primevue/select';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { api } from '../api/client';
import type { Carry, Job, Shot } from '../api/types';
import CarryProposal from '../bench/carry/CarryProposal.vue';
import { holds, useKept } from '../bench/carry/useKept';
import { useNotices } from '../useNotices';
import PillChoice from '../widgets/PillChoice.vue';

const props = defineProps<{ job: Job; shots: Shot[] }>();
const emit = defineEmits<{ close: []; taken: [] }>();
const ASK_EVERY = 700;
/** Lists do not show an empty value. */
const ANYBODY = '*';
const { fail } = useNotices();
const kept = useKept(props.job.id);
const chosen = ref<number | null>(null);
const person = ref(ANYBODY);
const replace = ref(false);
const carries = shallowRef<Carry[]>([]);
const treatment = computed(() => kept.all.value.find((t) => t.id === chosen.value) ?? null);
const people = computed(() => [{ name: 'whoever it is of', slug: ANYBODY }, ...props.job.people]);
const open = computed(() => carries.value.some((c) => c.state === 'waiting' || c.state === 'working'));
const proposed = computed(() => carries.value.filter((c) => c.state === 'proposed'));
const WAYS = [{ label: 'Lay beside', value: false }, { label: 'Replace touches', value: true }];

async function act(what: string, how: () => Promise<void>): Promise<void> {
  try {
    await how();
  } catch (reason) {
    fail(what, reason);
  }
}
const { pause, resume } = useIntervalFn(() => void act('How far it is cannot be told', async () => {
  const [first] = carries.value;
  if (first) carries.value = await api.carriesOf(props.job.id, first.batch);
  if (!open.value) pause();
}), ASK_EVERY, { immediate: false });

const lay = (): Promise<void> => act('It cannot be laid on', async () => {
  if (chosen.value === null) return;
  carries.value = await api.layTreatment(props.job.id, chosen.value, { shots: props.shots.map((s) => s.id), person: person.value === ANYBODY ? null : person.value, replace: replace.value });
  resume();
});
async function each(which: Carry[], how: (id: number) => Promise<Carry>): Promise<void> {
  for (const carry of which) {
    await act(`${carry.shot.name} was left as it was`, async () => {
      const now = await how(carry.id);
      carries.value = carries.value.map((c) => (c.id === now.id ? now : c));
    });
  }
  emit('taken');
}
onMounted(async () => {
  await kept.load();
  chosen.value = kept.all.value[0]?.id ?? null;
});
</script>

<template>
  <div class="lay">
    <template v-if="carries.length === 0">
      <p v-if="kept.all.value.length === 0" class="dim">No treatment is kept in this job yet. Keep one on the bench, under Carry.</p>
      <template v-else>
        <Select v-model="chosen" :options="kept.all.value" option-label="title" option-value="id" aria-label="Which treatment" />
        <p v-if="treatment" class="dim">{{ holds(treatment) }}</p>
        <div class="row"><span class="dim">For</span><Select v-model="person" :options="people" option-label="name" option-value="slug" aria-label="For whom" /></div>
        <div class="row"><span class="dim">Where a part is treated already</span><PillChoice :options="WAYS" :value="replace" label="Where a part is treated already" @choose="replace = $event === true" /></div>
      </template>
    </template>
    <ul v-else aria-label="Proposals"><CarryProposal v-for="c in carries" :key="c.id" :carry="c" @take="each([c], api.takeCarry)" @back="each([c], api.takeCarryBack)" @leave="each([c], api.leaveCarry)" /></ul>
    <div class="row acts">
      <button type="button" class="btn" @click="emit('close')">{{ carries.length ? 'Close' : 'Leave it' }}</button>
      <button v-if="carries.length === 0" type="button" class="btn main" :disabled="chosen === null" @click="lay">Propose for {{ shots.length === 1 ? 'it' : `all ${shots.length}` }}</button>
      <button v-else type="button" class="btn main" :disabled="open || proposed.length === 0" @click="each(proposed, api.takeCarry)">Take {{ proposed.length > 1 ? `all ${proposed.length}` : 'it' }}</button>
    </div>
  </div>
</template>

<style scoped>
.lay {
  display: grid;
  gap: 12px;
}

.row {
  display: flex;
  gap: 8px;
  align-items: center;
}

.acts {
  justify-content: flex-end;
}

ul {
  display: grid;
  gap: 14px;
  max-height: 60vh;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
</style>
