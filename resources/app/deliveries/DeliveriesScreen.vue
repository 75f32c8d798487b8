<script setup lang="ts">
import ProgressBar from 'primevue/progressbar';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { api } from '../api/client';
import type { Delivery } from '../api/types';
import { useNotices } from '../useNotices';
import TopBar from '../widgets/TopBar.vue';

const { fail } = useNotices();
const deliveries = ref<Delivery[] | null>(null);
const offline = ref(false);
let timer: ReturnType<typeof setTimeout> | undefined;

onMounted(load);
onBeforeUnmount(() => clearTimeout(timer));

async function load(): Promise<void> {
  clearTimeout(timer);
  try {
    deliveries.value = await api.deliveries();
    offline.value = false;
  } catch {
    offline.value = true;
  }
  const busy = offline.value || deliveries.value?.some((d) => d.state === 'rendering' || d.state === 'finishing');
  timer = setTimeout(load, busy ? 500 : 3000);
}

async function act(what: string, action: Promise<unknown>): Promise<void> {
  try {
    await action;
  } catch (reason) {
    fail(what, reason);
  }
  await load();
}

const WORDS: Record<Delivery['state'], string> = { rendering: 'rendering', finishing: 'putting the file together', done: 'done', cancelled: 'cancelled', failed: 'failed' };

function size(bytes: number | null): string {
  if (bytes === null) return '';
  return bytes > 1e9 ? `${(bytes / 1e9).toFixed(2)} GB` : `${(bytes / 1e6).toFixed(1)} MB`;
}
</script>

<template>
  <TopBar :trail="[{ name: 'Jobs', to: '/' }]" title="Deliveries" :note="offline ? '▲ the server cannot be reached' : ''" />
  <main>
    <p v-if="deliveries?.length === 0" class="dim state">Nothing has been delivered yet. Open a shot and press Deliver.</p>
    <div v-for="d in deliveries ?? []" :key="d.id" class="row" :data-state="d.state">
      <span class="name">
        <RouterLink :to="`/shots/${d.shotId}`"><b>{{ d.shot }}</b></RouterLink>
        <span class="dim">{{ d.job }} · revision {{ d.revision }}</span>
      </span>
      <span class="name"><span>{{ d.formatLabel }}</span><span class="mono dim">frames {{ d.from }}–{{ d.to }}</span></span>
      <span class="state-of">
        <template v-if="d.state === 'rendering' || d.state === 'finishing'">
          <ProgressBar :value="Math.round((100 * d.done) / d.frames)" :show-value="false" style="height: 4px" />
          <span class="dim">{{ WORDS[d.state] }}, <span class="mono">{{ d.done }} of {{ d.frames }}</span> frames</span>
        </template>
        <span v-else-if="d.state === 'failed'" class="warn">▲ {{ d.error }}</span>
        <span v-else-if="d.state === 'done'"><span class="mono">{{ d.file }}</span> <span class="dim">{{ size(d.bytes) }}</span></span>
        <span v-else class="dim">{{ WORDS[d.state] }} at <span class="mono">{{ d.done }} of {{ d.frames }}</span> frames</span>
      </span>
      <span class="acts">
        <a v-if="d.state === 'done'" class="btn main" :href="api.deliveryUrl(d.id)" download>Download</a>
        <button v-if="d.state === 'rendering' || d.state === 'finishing'" type="button" class="btn" @click="act('It was not cancelled', api.cancelDelivery(d.id))">Cancel</button>
        <button v-if="d.state === 'failed' || d.state === 'cancelled'" type="button" class="btn" @click="act('It was not taken up again', api.retryDelivery(d.id))">Go on</button>
        <button v-if="d.state !== 'rendering' && d.state !== 'finishing'" type="button" class="btn quiet" @click="act('It was not removed', api.removeDelivery(d.id))">Remove</button>
      </span>
    </div>
  </main>
</template>

<style scoped>
main {
  padding: 0 24px;
}

.state {
  padding: 32px 0;
}

.row {
  display: grid;
  grid-template-columns: 220px 240px minmax(0, 1fr) auto;
  gap: 24px;
  align-items: center;
  padding: 16px 0;
  border-bottom: 1px solid var(--line);
}

.name {
  display: grid;
  gap: 2px;
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
}

.acts .btn.main {
  display: inline-block;
}
</style>
