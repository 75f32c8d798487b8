<script setup lang="ts">
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../api/client';
import type { Job } from '../api/types';
import { useNotices } from '../useNotices';
import TopBar from '../widgets/TopBar.vue';

const { fail } = useNotices();
const router = useRouter();
const jobs = ref<Job[] | null>(null);
const asking = ref(false);
const name = ref('');

onMounted(async () => {
  try {
    jobs.value = await api.jobs();
  } catch (reason) {
    jobs.value = [];
    fail('The jobs cannot be shown', reason);
  }
});

async function add(): Promise<void> {
  if (!name.value.trim()) return;
  try {
    const job = await api.addJob(name.value.trim());
    await router.push(`/jobs/${job.id}`);
  } catch (reason) {
    fail('The job was not made', reason);
  }
}

function left(job: Job): string {
  if (job.shots.length === 0) return 'no footage yet';
  const open = job.shots.filter((shot) => shot.state === 'ready' && shot.progress?.left !== 'delivered').length;
  return open === 0 ? 'all delivered' : `${open} of ${job.shots.length} shots to do`;
}
</script>

<template>
  <TopBar :trail="[]" title="Jobs">
    <RouterLink class="btn quiet" to="/deliveries">Deliveries</RouterLink>
    <button type="button" class="btn main" @click="asking = true">New job</button>
  </TopBar>
  <main>
    <p v-if="jobs === null" class="dim state">Reading the jobs…</p>
    <p v-else-if="jobs.length === 0" class="dim state">No job yet. Make one, then bring footage into it.</p>
    <RouterLink v-for="job in jobs ?? []" :key="job.id" class="job" :to="`/jobs/${job.id}`">
      <span class="posters">
        <img v-for="shot in job.shots.filter((s) => s.state === 'ready').slice(0, 5)" :key="shot.id" :src="api.posterUrl(shot, 'result')" alt="" width="192" height="108">
        <span v-if="job.shots.length === 0" class="none"></span>
      </span>
      <b>{{ job.name }}</b>
      <span class="dim">{{ job.shots.length }} {{ job.shots.length === 1 ? 'shot' : 'shots' }}<template v-if="job.people.length"> · {{ job.people.map((p) => p.name).join(', ') }}</template></span>
      <span class="left">{{ left(job) }}</span>
    </RouterLink>
  </main>
  <Dialog v-model:visible="asking" modal header="New job" :style="{ width: '380px' }">
    <form class="ask" @submit.prevent="add">
      <label for="job-name">Name</label>
      <InputText id="job-name" v-model="name" autofocus maxlength="120" />
      <div class="row">
        <button type="button" class="btn" @click="asking = false">Leave it</button>
        <button type="submit" class="btn main" :disabled="!name.trim()">Make the job</button>
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

.job {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  grid-template-rows: auto auto;
  gap: 2px 24px;
  align-content: center;
  padding: 16px 0;
  border-bottom: 1px solid var(--line);
}

.job:hover b {
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

.job b {
  align-self: end;
  font-size: 16px;
  font-weight: 600;
}

.job > .dim {
  grid-column: 2;
}

.left {
  grid-row: 1 / 3;
  grid-column: 3;
  align-self: center;
  color: var(--t2);
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
</style>
