<script setup lang="ts">
import { useTimeoutPoll } from '@vueuse/core';
import Column from 'primevue/column';
import DataTable from 'primevue/datatable';
import ProgressBar from 'primevue/progressbar';
import { useConfirm } from 'primevue/useconfirm';
import { computed, ref } from 'vue';
import { api } from '../api/client';
import type { Delivery } from '../api/types';
import { useNotices } from '../useNotices';
import { bytes } from '../widgets/bytes';
import TopBar from '../widgets/TopBar.vue';

const { fail } = useNotices();
const confirm = useConfirm();
const deliveries = ref<Delivery[] | null>(null);
const offline = ref(false);
const isOpen = (d: Delivery): boolean => d.state === 'rendering' || d.state === 'finishing';
const busy = computed(() => offline.value || (deliveries.value?.some(isOpen) ?? true));
useTimeoutPoll(load, computed(() => (busy.value ? 500 : 3000)), { immediate: true, immediateCallback: true });

async function load(): Promise<void> {
  try {
    deliveries.value = await api.deliveries();
    offline.value = false;
  } catch {
    offline.value = true;
  }
}
async function act(what: string, action: Promise<unknown>): Promise<void> {
  try {
    await action;
  } catch (reason) {
    fail(what, reason);
  }
  await load();
}
function remove(d: Delivery): void {
  confirm.require({
    header: `Remove the delivery of ${d.shot}?`,
    message: d.file ? `The file ${d.file} is deleted. The shot and its treatment stay.` : 'What was rendered of it is deleted. The shot and its treatment stay.',
    acceptLabel: 'Remove',
    rejectLabel: 'Keep',
    accept: () => void act('It was not removed', api.removeDelivery(d.id)),
  });
}

const WORDS: Record<Delivery['state'], string> = { rendering: 'rendering', finishing: 'putting the file together', done: 'done', cancelled: 'cancelled', failed: 'failed' };
</script>

<template>
  <TopBar :trail="[{ name: 'Jobs', to: '/' }]" title="Deliveries" :note="offline ? '▲ the server cannot be reached' : ''" />
  <main>
    <p v-if="deliveries?.length === 0" class="dim state">Nothing has been delivered yet. Open a shot and press Deliver.</p>
    <DataTable v-else-if="deliveries" :value="deliveries" data-key="id" :row-class="() => 'delivery'" :pt="{ table: { 'aria-label': 'Deliveries' } }">
      <Column header="Shot"><template #body="{ data: d }"><span class="name" :data-state="d.state"><RouterLink :to="`/shots/${d.shotId}`"><b>{{ d.shot }}</b></RouterLink><span class="dim">{{ d.job }} · revision {{ d.revision }}</span></span></template></Column>
      <Column header="As"><template #body="{ data: d }"><span class="name"><span>{{ d.formatLabel }}</span><span class="mono dim">frames {{ d.from }}–{{ d.to }}</span></span></template></Column>
      <Column header="State" style="width: 40%">
        <template #body="{ data: d }">
          <span v-if="isOpen(d)" class="state-of"><ProgressBar :value="Math.round((100 * d.done) / d.frames)" :show-value="false" :aria-label="`Rendering ${d.shot}`" style="height: 4px" /><span class="dim">{{ WORDS[d.state as Delivery['state']] }}, <span class="mono">{{ d.done }} of {{ d.frames }}</span> frames</span></span>
          <span v-else-if="d.state === 'failed'" class="warn">▲ {{ d.error }}</span>
          <span v-else-if="d.state === 'done'"><span class="mono">{{ d.file }}</span> <span class="dim">{{ d.bytes === null ? '' : bytes(d.bytes) }}</span></span>
          <span v-else class="dim">{{ WORDS[d.state as Delivery['state']] }} at <span class="mono">{{ d.done }} of {{ d.frames }}</span> frames</span>
        </template>
      </Column>
      <Column>
        <template #header><span class="unseen">What can be done</span></template>
        <template #body="{ data: d }">
          <span class="acts">
            <a v-if="d.state === 'done'" class="btn main" :href="api.deliveryUrl(d.id)" download>Download</a>
            <button v-if="isOpen(d)" type="button" class="btn" @click="act('It was not cancelled', api.cancelDelivery(d.id))">Cancel</button>
            <button v-if="d.state === 'failed' || d.state === 'cancelled'" type="button" class="btn" @click="act('It was not taken up again', api.retryDelivery(d.id))">Go on</button>
            <button v-if="!isOpen(d)" type="button" class="btn quiet" @click="remove(d)">Remove</button>
          </span>
        </template>
      </Column>
    </DataTable>
  </main>
</template>

<style scoped>
main {
  padding: 0 24px;
}

.state {
  padding: 32px 0;
}

.name {
  display: grid;
  gap: 2px;
}

.name a {
  min-height: 24px;
  line-height: 24px;
}

.name b {
  font-size: 15px;
  font-weight: 600;
}

.state-of {
  display: grid;
  gap: 4px;
}

.acts {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
}
</style>
