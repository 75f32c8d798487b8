<script setup lang="ts">
import Dialog from 'primevue/dialog';
import ProgressBar from 'primevue/progressbar';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { api } from '../api/client';
import type { AreaProgress, Job, Shot } from '../api/types';
import DeliverDialog from '../deliveries/DeliverDialog.vue';
import { useNotices } from '../useNotices';
import TopBar from '../widgets/TopBar.vue';
import { useUploads } from './useUploads';

const props = defineProps<{ jobId: number }>();
const { fail, say } = useNotices();
const job = ref<Job | null>(null);
const missing = ref<string | null>(null);
const bringing = ref(false);
const over = ref(false);
const from = ref('');
const to = ref('');
const delivering = ref<Shot | null>(null);
const { incoming, send, stop } = useUploads(props.jobId, load);
let timer: ReturnType<typeof setTimeout> | undefined;

const STEPS: { letter: string; step: keyof AreaProgress; name: string }[] = [
  { letter: 'O', step: 'outline', name: 'Outline' },
  { letter: 'F', step: 'follow', name: 'Follow' },
  { letter: 'P', step: 'pick', name: 'Pick' },
  { letter: 'T', step: 'treat', name: 'Treat' },
  { letter: 'J', step: 'judge', name: 'Judge' },
];

onMounted(load);
onBeforeUnmount(() => clearTimeout(timer));

async function load(): Promise<void> {
  clearTimeout(timer);
  try {
    job.value = await api.job(props.jobId);
    if (job.value.shots.some((shot) => shot.state === 'reading')) timer = setTimeout(load, 700);
  } catch (reason) {
    if (job.value === null) missing.value = reason instanceof Error ? reason.message : String(reason);
    else fail('The job cannot be refreshed', reason);
  }
}

function take(files: FileList | null | undefined): void {
  const span: { from?: number; to?: number } = {};
  if (from.value !== '') span.from = Number(from.value);
  if (to.value !== '') span.to = Number(to.value);
  for (const file of Array.from(files ?? [])) void send(file, span);
  bringing.value = false;
}

async function remove(shot: Shot): Promise<void> {
  try {
    await api.removeShot(shot.id);
    await load();
  } catch (reason) {
    fail('The shot was not removed', reason);
  }
}

async function note(shot: Shot, text: string): Promise<void> {
  if (text === shot.notes) return;
  try {
    await api.changeShot(shot.id, { notes: text });
    shot.notes = text;
  } catch (reason) {
    fail('The note was not saved', reason);
  }
}

function person(slug: string | null): string {
  return job.value?.people.find((p) => p.slug === slug)?.name ?? '';
}

function tells(shot: Shot, area: string | null): { telltale: string; frame: number }[] {
  return shot.progress?.telltales.filter((t) => t.area === area) ?? [];
}

function length(shot: Shot): string {
  const f = shot.footage;
  return f ? `${shot.to - shot.from + 1} f · ${Number(f.fps.toFixed(3))} · ${f.width}×${f.height}` : '';
}
</script>

<template>
  <div v-if="missing" class="gone">
    <p>{{ missing }}</p>
    <RouterLink class="btn" to="/">To the jobs</RouterLink>
  </div>
  <div v-else class="screen" :class="{ over }" @dragover.prevent="over = true" @dragleave.self="over = false" @drop.prevent="over = false; take($event.dataTransfer?.files)">
    <TopBar :trail="[{ name: 'Jobs', to: '/' }]" :title="job?.name ?? ''" :note="job ? `${job.shots.length} shots · ${job.people.length} people` : ''">
      <RouterLink class="btn quiet" to="/deliveries">Deliveries</RouterLink>
      <button type="button" class="btn main" @click="bringing = true">Bring in footage</button>
    </TopBar>
    <main>
      <div v-if="job" class="row head">
        <span>After | before</span><span>Shot</span><span>People and parts</span><span>Notes</span><span>Left to do</span>
      </div>
      <div v-for="entry in incoming" :key="entry.key" class="row">
        <span class="poster"></span>
        <span class="name"><b>{{ entry.name }}</b></span>
        <span v-if="entry.error" class="wide warn">▲ {{ entry.error }}</span>
        <span v-else class="wide"><ProgressBar :value="Math.round(entry.share * 100)" :show-value="false" style="height: 4px" /><span class="dim">coming in, {{ Math.round(entry.share * 100) }} %</span></span>
        <span><button type="button" class="btn small" @click="stop(entry)">{{ entry.error ? 'Remove' : 'Stop' }}</button></span>
      </div>
      <div v-for="shot in job?.shots ?? []" :key="shot.id" class="row">
        <template v-if="shot.state === 'ready'">
          <RouterLink class="poster" :to="`/shots/${shot.id}`" :aria-label="`Open ${shot.name}`">
            <img :src="api.posterUrl(shot, 'result')" alt="" width="176" height="99">
            <img class="before" :src="api.posterUrl(shot, 'original')" alt="" width="176" height="99">
          </RouterLink>
          <RouterLink class="name" :to="`/shots/${shot.id}`"><b>{{ shot.name }}</b><span class="mono dim">{{ length(shot) }}</span></RouterLink>
          <div class="parts">
            <div v-for="(area, i) in shot.progress?.areas ?? []" :key="area.id" class="part" :class="{ off: !area.on }">
              <b>{{ area.person !== shot.progress?.areas[i - 1]?.person ? person(area.person) : '' }}</b>
              <span class="area" :title="area.name">{{ area.name }}</span>
              <span class="letters">
                <i v-for="s in STEPS" :key="s.letter" v-tooltip.top="`${s.name}: ${area[s.step] ? 'done' : 'not yet'}`" :class="{ done: area[s.step] }">{{ s.letter }}</i>
              </span>
              <RouterLink v-if="tells(shot, area.id).length" class="tells" :to="{ path: `/shots/${shot.id}`, query: { area: area.id, frame: tells(shot, area.id)[0]?.frame } }">▲ {{ tells(shot, area.id).map((t) => `${t.telltale} (${t.frame})`).join(', ') }}</RouterLink>
            </div>
            <RouterLink v-if="tells(shot, null).length" class="tells" :to="`/shots/${shot.id}`">▲ the frame: {{ tells(shot, null).map((t) => t.telltale).join(', ') }}</RouterLink>
            <span v-if="!shot.progress?.areas.length" class="dim">nobody marked yet</span>
          </div>
          <textarea class="notes" rows="3" maxlength="4000" :value="shot.notes" :aria-label="`Notes on ${shot.name}`" placeholder="Notes" @change="note(shot, ($event.target as HTMLTextAreaElement).value)"></textarea>
          <span class="todo">{{ shot.following ? 'following…' : shot.progress?.left }}
            <button type="button" class="btn small" @click="delivering = shot">Deliver</button>
          </span>
        </template>
        <template v-else>
          <span class="poster"></span>
          <span class="name"><b>{{ shot.name }}</b></span>
          <span v-if="shot.state === 'reading'" class="wide dim">being read: every frame is decoded once to know its exact time…</span>
          <span v-else class="wide warn">▲ {{ shot.error }}</span>
          <span class="todo"><button v-if="shot.state === 'failed'" type="button" class="btn small" @click="remove(shot)">Remove</button></span>
        </template>
      </div>
      <div v-if="job && job.shots.length === 0 && incoming.length === 0" class="empty">
        <p>No footage in this job yet.</p>
        <p class="dim">Drop files here, or bring them in with the button above.</p>
      </div>
    </main>
    <Dialog v-model:visible="bringing" modal header="Bring in footage" :style="{ width: '460px' }">
      <div class="bring">
        <p>WebM, Matroska, Ogg, MP4 or MOV, 8 to 12 bit, or a zipped PNG or TIFF sequence.</p>
        <div class="span">
          <span class="dim">Frames</span>
          <input v-model="from" class="mono" inputmode="numeric" placeholder="first" aria-label="First frame">
          <span class="dim">to</span>
          <input v-model="to" class="mono" inputmode="numeric" placeholder="last" aria-label="Last frame">
          <span class="dim">leave empty for all</span>
        </div>
        <label class="btn main pick">Choose files<input type="file" multiple accept=".webm,.mkv,.ogv,.ogg,.mp4,.mov,.m4v,.zip" @change="take(($event.target as HTMLInputElement).files)"></label>
      </div>
    </Dialog>
    <DeliverDialog v-if="delivering" :shot="delivering" @close="delivering = null" @ordered="say('Rendering', 'Its progress is under Deliveries.')" />
  </div>
</template>

<style scoped>
.screen {
  display: flex;
  flex-direction: column;
  height: 100%;
}

.screen.over {
  outline: 2px dashed var(--t2);
  outline-offset: -8px;
}

main {
  flex: 1;
  overflow: auto;
}

.gone {
  display: grid;
  gap: 16px;
  place-content: center;
  justify-items: center;
  height: 100%;
}

.row {
  display: grid;
  grid-template-columns: 176px 180px minmax(240px, 1fr) minmax(120px, 240px) 150px;
  gap: 24px;
  align-items: center;
  padding: 12px 24px;
  border-bottom: 1px solid var(--line);
}

.row.head {
  padding: 8px 24px;
  color: var(--t3);
  font-size: 12px;
}

.poster {
  position: relative;
  display: block;
  width: 176px;
  height: 99px;
  background: var(--g0);
}

.poster img {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: cover;
}

.before {
  clip-path: inset(0 100% 0 0);
  border-right: 1px solid var(--t1);
}

.poster:hover .before,
.poster:focus-visible .before {
  clip-path: inset(0 50% 0 0);
}

.name {
  display: grid;
  gap: 2px;
  overflow: hidden;
}

.name b {
  overflow: hidden;
  font-size: 15px;
  font-weight: 600;
  text-overflow: ellipsis;
}

.wide {
  display: grid;
  grid-column: 3 / 5;
  gap: 4px;
}

.parts {
  display: grid;
  gap: 6px;
}

.part {
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
}

.area {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

@media (max-width: 1200px) {
  .row {
    grid-template-columns: 176px 150px minmax(250px, 1fr) minmax(90px, 160px) 130px;
    gap: 16px;
  }

  .part {
    gap: 8px;
  }
}

.part b {
  font-weight: 600;
}

.tells {
  color: var(--warn);
  font-size: 12px;
}

.part .tells {
  grid-column: 2 / 4;
  margin-top: -8px;
}

.tells:hover {
  text-decoration: underline;
}

.part.off {
  color: var(--t3);
  text-decoration: line-through;
}

.letters {
  display: flex;
  gap: 4px;
}

.letters i {
  display: grid;
  place-content: center;
  width: 18px;
  height: 18px;
  border: 1px solid var(--g4);
  border-radius: 2px;
  color: var(--t3);
  font-size: 11px;
  font-style: normal;
  font-weight: 600;
}

.letters i.done {
  background: #a8a8a8;
  border-color: #a8a8a8;
  color: #161616;
}

.notes {
  width: 100%;
  background: none;
  border: 1px solid transparent;
  border-radius: 2px;
  padding: 4px;
  color: var(--t2);
  font-size: 12px;
  line-height: 16px;
  resize: none;
}

.notes:hover,
.notes:focus {
  border-color: var(--g4);
}

.todo {
  display: grid;
  gap: 8px;
  justify-items: start;
  color: var(--t2);
}

.empty {
  display: grid;
  gap: 8px;
  place-items: center;
  padding: 96px 0;
}

.bring {
  display: grid;
  gap: 16px;
}

.span {
  display: flex;
  gap: 8px;
  align-items: center;
}

.span input {
  width: 64px;
  background: var(--g1);
  border: 1px solid var(--g4);
  border-radius: 2px;
  padding: 3px 6px;
}

.pick {
  justify-self: end;
}

.pick input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}

.pick:focus-within {
  outline: 1px solid var(--t1);
  outline-offset: 1px;
}
</style>
