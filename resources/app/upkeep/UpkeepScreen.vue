<script setup lang="ts">
/** How the system stands: what takes room, what waits, what runs, what failed; and what can be done about it. */
import { useTimeoutPoll } from '@vueuse/core';
import { useConfirm } from 'primevue/useconfirm';
import { computed, ref } from 'vue';
import { api } from '../api/client';
import type { Failure, Upkeep } from '../api/types';
import { useNotices } from '../useNotices';
import { bytes } from '../widgets/bytes';
import TopBar from '../widgets/TopBar.vue';

const { say, fail } = useNotices();
const confirm = useConfirm();
const state = ref<Upkeep | null>(null);
const offline = ref(false);
const making = ref(false);
useTimeoutPoll(load, 10000, { immediate: true, immediateCallback: true });

async function load(): Promise<void> {
  try {
    state.value = await api.upkeep();
    offline.value = false;
  } catch {
    offline.value = true;
  }
}
async function act(what: string, how: () => Promise<unknown>): Promise<void> {
  try {
    await how();
  } catch (reason) {
    fail(what, reason);
  }
  await load();
}

const most = computed(() => Math.max(1, ...(state.value?.disk.map((row) => row.bytes) ?? [])));
const spare = computed(() => state.value?.disk.filter((row) => row.spare).reduce((sum, row) => sum + row.bytes, 0) ?? 0);
const down = computed(() => state.value?.programs.filter((program) => !program.runs) ?? []);

function makeRoom(): void {
  confirm.require({
    header: 'Make room?',
    message: `Decoded frames and finished pictures are thrown away (${bytes(spare.value)}), and what is left over. Jobs, footage, recipes and deliveries stay. Pictures are made again as they are looked at, which takes longer the first time.`,
    acceptLabel: 'Make room',
    rejectLabel: 'Leave it',
    accept: () => void act('No room was made', async () => {
      making.value = true;
      try {
        say('There is room', `${bytes((await api.makeRoom()).freed)} more than before.`);
      } finally {
        making.value = false;
      }
    }),
  });
}
function when(at: string | null): string {
  return at === null ? '' : new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}
const again = (f: Failure): Promise<void> => act('It was not begun again', () => api.retryFailure(f.id));
const forget = (f: Failure): Promise<void> => act('It was not taken away', () => api.forgetFailure(f.id));
</script>

<template>
  <TopBar :trail="[{ name: 'Jobs', to: '/' }]" title="Upkeep" :note="offline ? '▲ the server cannot be reached' : ''">
    <button type="button" class="btn" :disabled="!state || making" @click="makeRoom">{{ making ? 'Making room…' : 'Make room' }}</button>
  </TopBar>
  <main v-if="state">
    <p v-for="trouble in state.troubles" :key="trouble" class="warn wide" role="alert">▲ {{ trouble }}</p>
    <div>
      <section aria-labelledby="failed">
        <h2 id="failed">What failed</h2>
        <p v-if="state.failures.length === 0" class="dim">Nothing.</p>
        <ul v-else class="failures">
          <li v-for="f in state.failures" :key="f.id">
            <span class="head"><b>{{ f.what }}</b><RouterLink v-if="f.shot" :to="`/shots/${f.shot.id}`">{{ f.shot.name }}</RouterLink><span class="dim mono">{{ when(f.at) }}</span></span>
            <span class="warn">▲ {{ f.reason }}</span>
            <span class="acts"><button type="button" class="btn small" @click="again(f)">Try again</button><button type="button" class="btn small quiet" @click="forget(f)">Take away</button></span>
          </li>
        </ul>
      </section>
      <section aria-labelledby="work">
        <h2 id="work">Work</h2>
        <table>
          <thead><tr><th scope="col"></th><th scope="col">being done</th><th scope="col">waiting</th></tr></thead>
          <tbody><tr v-for="queue in state.queues" :key="queue.name"><th scope="row">{{ queue.name }}</th><td class="mono">{{ queue.doing }}</td><td class="mono">{{ queue.waiting }}</td></tr></tbody>
        </table>
        <p v-if="state.programs.length === 0" class="dim">Nothing is supervised here.</p>
        <p v-else-if="down.length === 0" class="dim">All {{ state.programs.length }} programs run.</p>
        <p v-for="program in down" :key="program.name" class="warn">▲ {{ program.name }} does not run: {{ program.said }}</p>
        <p class="dim">{{ state.jail }}.</p>
      </section>
      <section aria-labelledby="backup">
        <h2 id="backup">Backup</h2>
        <p v-if="state.backup"><span>{{ when(state.backup.made) }}</span>, <span class="mono">{{ bytes(state.backup.bytes) }}</span> in {{ state.backup.files }} files, in <span class="mono">{{ state.backup.place }}</span></p>
        <p v-else class="warn">▲ There is none yet.</p>
        <p class="dim"><span class="mono">./cossel backup FOLDER</span> makes one while people work; into the same folder again it copies what is new.</p>
      </section>
    </div>
    <div>
      <section aria-labelledby="disk">
        <h2 id="disk">Disk</h2>
        <table>
          <tbody>
            <tr v-for="row in state.disk" :key="row.name">
              <th scope="row">{{ row.name }}</th>
              <td class="share"><span :class="{ spare: row.spare }" :style="{ width: `${(100 * row.bytes) / most}%` }"></span></td>
              <td class="mono">{{ bytes(row.bytes) }}</td>
            </tr>
            <tr><th scope="row">Free</th><td></td><td class="mono">{{ bytes(state.free) }}</td></tr>
          </tbody>
        </table>
        <p class="dim">The lighter ones can be made again at any time; Make room throws them away.</p>
      </section>
      <section aria-labelledby="versions">
        <h2 id="versions">Versions</h2>
        <table><tbody><tr v-for="(version, name) in state.versions" :key="name"><th scope="row">{{ name }}</th><td class="mono">{{ version }}</td></tr></tbody></table>
      </section>
    </div>
  </main>
</template>

<style scoped>
main {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(400px, 1fr));
  gap: 32px 48px;
  max-width: 1440px;
  padding: 24px;
  align-items: start;
}

main > div {
  display: grid;
  gap: 32px;
}

.wide {
  grid-column: 1 / -1;
  margin: 0;
}

section {
  display: grid;
  gap: 8px;
}

h2 {
  margin: 0;
  font-size: 15px;
  font-weight: 600;
}

p {
  margin: 0;
}

table {
  border-collapse: collapse;
}

th {
  padding: 4px 16px 4px 0;
  font-weight: 400;
  text-align: left;
  white-space: nowrap;
}

td {
  padding: 4px 0 4px 16px;
  text-align: right;
  white-space: nowrap;
}

thead th {
  padding-right: 0;
  color: var(--t2);
  text-align: right;
}

.share {
  width: 60%;
  padding-left: 0;
}

.share span {
  display: block;
  height: 6px;
  min-width: 1px;
  background: var(--mark);
}

.share .spare {
  background: var(--t1);
}

.failures {
  display: grid;
  gap: 12px;
  margin: 0;
  padding: 0;
  list-style: none;
}

.failures li {
  display: grid;
  gap: 4px;
}

.head,
.acts {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
</style>
