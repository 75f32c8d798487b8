<script setup lang="ts">
import { useTimeoutPoll } from '@vueuse/core';
import Column from 'primevue/column';
import DataTable, { type DataTableRowReorderEvent } from 'primevue/datatable';
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
const open = computed(() => (deliveries.value ?? []).filter(isOpen));
const busy = computed(() => offline.value || (deliveries.value === null || open.value.length > 0));
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
/** Only what is still to be rendered has an order. */
function arrange({ dragIndex, dropIndex }: { dragIndex: number; dropIndex: number }): void {
  const ids = open.value.map((d) => d.id);
  if (dragIndex >= ids.length) return;
  ids.splice(Math.min(dropIndex, ids.length - 1), 0, ...ids.splice(dragIndex, 1));
  void act('The order was not taken', api.arrangeDeliveries(ids));
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

const WORDS: Record<Delivery['state'], string> = { rendering: 'rendering', paused: 'paused', finishing: 'putting the file together', done: 'done', cancelled: 'cancelled', failed: 'failed' };
</script>

<template>
  <TopBar :trail="[{ name: 'Jobs', to: '/' }]" title="Deliveries" :note="offline ? '▲ the server cannot be reached' : ''" />
  <main>
    <p v-if="deliveries?.length === 0" class="dim state">Nothing has been delivered yet. Open a shot and press Deliver.</p>
    <!-- No column comes and goes: the list would make all its cells anew at every look, and focus and presses under way be lost. -->
    <DataTable v-else-if="deliveries" :class="{ alone: open.length < 2 }" :value="deliveries" data-key="id" :row-class="(d: Delivery) => (isOpen(d) ? 'delivery open' : 'delivery')" :pt="{ table: { 'aria-label': 'Deliveries' } }" @row-reorder="(e: DataTableRowReorderEvent) => arrange(e)">
      <Column row-reorder style="width: 24px"><template #header><span class="unseen">Order</span></template><template #rowreordericon><span class="grip" data-pc-section="reorderablerowhandle" title="Drag to render it earlier or later">⁝</span></template></Column>
      <Column header="Shot"><template #body="{ data: d }"><span class="name" :data-state="d.state"><RouterLink :to="`/shots/${d.shotId}`"><b>{{ d.shot }}</b></RouterLink><span class="dim">{{ d.job }} · revision {{ d.revision }}</span></span></template></Column>
      <Column header="As"><template #body="{ data: d }"><span class="name"><span>{{ d.formatLabel }}</span><span class="mono dim">frames {{ d.from }}–{{ d.to }}</span></span></template></Column>
      <Column header="State" style="width: 36%">
        <template #body="{ data: d }">
          <span v-if="isOpen(d)" class="state-of"><ProgressBar :value="Math.round((100 * d.done) / d.frames)" :show-value="false" :aria-label="`Rendering ${d.shot}`" style="height: 4px" /><span class="dim">{{ WORDS[d.state as Delivery['state']] }}, <span class="mono">{{ d.done }} of {{ d.frames }}</span> frames</span></span>
          <span v-else-if="d.state === 'failed'" class="warn">▲ {{ d.error }}</span>
          <span v-else-if="d.state === 'done'" class="name"><span><span class="mono">{{ d.file }}</span> <span class="dim">{{ d.bytes === null ? '' : bytes(d.bytes) }}</span></span><span v-if="d.beside" class="mono dim">{{ d.beside }}</span></span>
          <span v-else class="dim">{{ WORDS[d.state as Delivery['state']] }} at <span class="mono">{{ d.done }} of {{ d.frames }}</span> frames</span>
        </template>
      </Column>
      <Column>
        <template #header><span class="unseen">What can be done</span></template>
        <template #body="{ data: d }">
          <span class="acts">
            <a v-if="d.state === 'done'" class="btn main" :href="api.deliveryUrl(d.id)" download>Download</a>
            <a v-if="d.beside" class="btn" :href="api.besideUrl(d.id)" download>What is beside</a>
            <button v-if="d.state === 'rendering'" type="button" class="btn" @click="act('It was not paused', api.pauseDelivery(d.id))">Pause</button>
            <button v-if="['failed', 'cancelled', 'paused'].includes(d.state)" type="button" class="btn" @click="act('It was not taken up again', api.retryDelivery(d.id))">Go on</button>
            <button v-if="isOpen(d) || d.state === 'paused'" type="button" class="btn" @click="act('It was not cancelled', api.cancelDelivery(d.id))">Cancel</button>
            <button v-if="!isOpen(d) && d.state !== 'paused'" type="button" class="btn quiet" @click="remove(d)">Remove</button>
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

.alone :deep(:is(th, td):first-child) {
  display: none;
}

:deep(tr:not(.open)) .grip {
  visibility: hidden;
}

.acts {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
}
</style>
