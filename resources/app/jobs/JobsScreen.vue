<script setup lang="ts">
import { useFileDialog } from '@vueuse/core';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import Menu from 'primevue/menu';
import { useConfirm } from 'primevue/useconfirm';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../api/client';
import type { JobRow } from '../api/types';
import { useNotices } from '../useNotices';
import TopBar from '../widgets/TopBar.vue';
import { useTakenIn } from './useTakenIn';

const { fail } = useNotices();
const router = useRouter();
const confirm = useConfirm();
const jobs = ref<JobRow[] | null>(null);
/** What the name is asked for: a new job, or one that is to be renamed. */
const naming = ref<{ job: JobRow | null } | null>(null);
const name = ref('');
const menu = ref<InstanceType<typeof Menu>>();
const meant = ref<JobRow | null>(null);
const acts = computed(() => [
  { label: 'Rename', command: () => ask(meant.value) },
  { label: 'Remove', command: () => meant.value && remove(meant.value) },
]);

const bundle = useTakenIn(null, api.takeBundle, () => void load());
const { open: chooseBundle, onChange } = useFileDialog({ accept: '.zip', multiple: false, reset: true });
onChange((files) => {
  if (files?.[0]) void bundle.send(files[0]);
});

onMounted(load);
async function load(): Promise<void> {
  try {
    jobs.value = await api.jobs();
  } catch (reason) {
    jobs.value ??= [];
    fail('The jobs cannot be shown', reason);
  }
}

function ask(job: JobRow | null): void {
  name.value = job?.name ?? '';
  naming.value = { job };
}
async function take(): Promise<void> {
  const wanted = name.value.trim();
  const renamed = naming.value?.job;
  if (!wanted) return;
  try {
    if (renamed) {
      await api.renameJob(renamed.id, wanted);
      naming.value = null;
      await load();
    } else await router.push(`/jobs/${(await api.addJob(wanted)).id}`);
  } catch (reason) {
    fail(renamed ? 'The name was not taken' : 'The job was not made', reason);
  }
}
function remove(job: JobRow): void {
  const shots = `${job.shots} ${job.shots === 1 ? 'shot' : 'shots'}`;
  confirm.require({
    header: `Remove “${job.name}”?`,
    message: job.shots ? `Its ${shots}, all treatments with their history, and all deliveries are deleted. Footage that no other job uses goes too. This cannot be undone.` : 'There is nothing in it.',
    acceptLabel: 'Remove the job',
    rejectLabel: 'Keep it',
    accept: async () => {
      try {
        await api.removeJob(job.id);
      } catch (reason) {
        fail('The job was not removed', reason);
      }
      await load();
    },
  });
}
function show(e: MouseEvent, job: JobRow): void {
  meant.value = job;
  menu.value?.toggle(e);
}

function left(job: JobRow): string {
  if (job.shots === 0) return 'no footage yet';
  return job.left === 0 ? 'all done' : `${job.left} of ${job.shots} shots to do`;
}
</script>

<template>
  <TopBar :trail="[]" title="Jobs">
    <RouterLink class="btn quiet" to="/upkeep">Upkeep</RouterLink>
    <RouterLink class="btn quiet" to="/deliveries">Deliveries</RouterLink>
    <button type="button" class="btn" @click="chooseBundle()">Bring in a bundle</button>
    <button type="button" class="btn main" @click="ask(null)">New job</button>
  </TopBar>
  <main>
    <div v-if="bundle.name.value" class="bundle" role="status">
      <b>{{ bundle.name.value }}</b>
      <span v-if="bundle.problem.value" class="warn">▲ {{ bundle.problem.value }}</span>
      <ul v-else-if="bundle.told.value.length"><li v-for="t in bundle.told.value" :key="t">{{ t }}</li></ul>
      <span v-else class="dim">{{ bundle.doing.value }}</span>
      <button type="button" class="btn small" @click="bundle.close()">Close</button>
    </div>
    <p v-if="jobs === null" class="dim state">Reading the jobs…</p>
    <p v-else-if="jobs.length === 0" class="dim state">No job yet. Make one, then bring footage into it.</p>
    <ul v-else aria-label="Jobs">
      <li v-for="job in jobs" :key="job.id" class="job">
        <RouterLink class="open" :to="`/jobs/${job.id}`">
          <span class="posters">
            <img v-for="shot in job.posters" :key="shot.id" :src="api.posterUrl(shot, 'result')" alt="" width="192" height="108">
            <span v-if="job.posters.length === 0" class="none"></span>
          </span>
          <b>{{ job.name }}</b>
          <span class="dim">{{ job.shots }} {{ job.shots === 1 ? 'shot' : 'shots' }}<template v-if="job.people.length"> · {{ job.people.map((p) => p.name).join(', ') }}</template></span>
          <span class="left">{{ left(job) }}</span>
        </RouterLink>
        <button type="button" class="plain icon" :aria-label="`More for ${job.name}`" aria-haspopup="menu" @click="show($event, job)">⋯</button>
      </li>
    </ul>
    <Menu ref="menu" :model="acts" popup append-to="main" />
  </main>
  <Dialog :visible="naming !== null" modal :header="naming?.job ? 'Rename the job' : 'New job'" :style="{ width: '380px' }" @update:visible="naming = null">
    <form class="ask" @submit.prevent="take">
      <label for="job-name">Name</label>
      <InputText id="job-name" v-model="name" autofocus maxlength="120" />
      <div class="row">
        <button type="button" class="btn" @click="naming = null">Leave it</button>
        <button type="submit" class="btn main" :disabled="!name.trim()">{{ naming?.job ? 'Rename it' : 'Make the job' }}</button>
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
main {
  padding: 8px 24px;
}

.state {
  padding: 32px 0;
}

ul {
  padding: 0;
  list-style: none;
}

.job {
  display: flex;
  gap: 16px;
  align-items: center;
  border-bottom: 1px solid var(--line);
}

.open {
  display: grid;
  flex: 1;
  grid-template-columns: auto minmax(0, 1fr) auto;
  grid-template-rows: auto auto;
  gap: 2px 24px;
  align-content: center;
  padding: 16px 0;
}

.open:hover b {
  text-decoration: underline;
}

.posters {
  display: flex;
  grid-row: 1 / 3;
  gap: 4px;
}

.posters img,
.none {
  width: 112px;
  height: 63px;
  object-fit: cover;
  background: var(--g0);
}

.open b {
  align-self: end;
  font-size: 16px;
  font-weight: 600;
}

.open > .dim {
  grid-column: 2;
}

.left {
  grid-row: 1 / 3;
  grid-column: 3;
  align-self: center;
  color: var(--t2);
}

.bundle {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: 24px;
  align-items: center;
  padding: 12px 24px;
  border-bottom: 1px solid var(--line);
}

.bundle ul {
  display: block;
  padding: 0;
}

.bundle li {
  list-style: none;
}

.ask {
  display: grid;
  gap: 8px;
}

.row {
  display: flex;
  gap: 8px;
  justify-content: flex-end;
  margin-top: 8px;
}

@media (width < 1150px) {
  .posters img:nth-child(n + 4) {
    display: none;
  }
}
</style>
