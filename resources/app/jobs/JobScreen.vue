<script setup lang="ts">
/** The progress list of a job: a row a shot, in an order that is dragged, with what is done and what is left to do. */
import { useDropZone, useTimeoutPoll } from '@vueuse/core';
import Checkbox from 'primevue/checkbox';
import Column from 'primevue/column';
import DataTable, { type DataTableRowReorderEvent } from 'primevue/datatable';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import Menu from 'primevue/menu';
import ProgressBar from 'primevue/progressbar';
import Select from 'primevue/select';
import Textarea from 'primevue/textarea';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../api/client';
import type { Shot } from '../api/types';
import PeopleList from '../bench/person/PeopleList.vue';
import { usePeople } from '../bench/person/usePeople';
import DeliverMany from '../deliveries/DeliverMany.vue';
import DeliverPanel from '../deliveries/DeliverPanel.vue';
import { useNotices } from '../useNotices';
import PillChoice from '../widgets/PillChoice.vue';
import TopBar from '../widgets/TopBar.vue';
import BringIn from './BringIn.vue';
import BringInCut from './BringInCut.vue';
import PeopleRows from './PeopleRows.vue';
import JobFilter from './JobFilter.vue';
import LayTreatment from './LayTreatment.vue';
import ShotParts from './ShotParts.vue';
import { EVERYTHING, filtered, type Filter } from './filters';
import { useJob } from './useJob';
import { useUploads, type Span } from './useUploads';

const props = defineProps<{ jobId: number }>();
const { say } = useNotices();
const router = useRouter();
const people = usePeople(props.jobId);
const { job, missing, load, rename, note, arrange, arrangeByCut, putAway, accept, read, remove } = useJob(props.jobId, people);
const { incoming, send, stop } = useUploads(props.jobId, load);
const bringing = ref(false);
const cutting = ref(false);
/** Ids of the shots that are chosen. */
const picked = ref<Set<number>>(new Set());
const isAll = computed(() => rows.value.length > 0 && rows.value.every((s) => picked.value.has(s.id)));
function pick(id: number): void {
  const next = new Set(picked.value);
  if (!next.delete(id)) next.add(id);
  picked.value = next;
}
const pickAll = (all: boolean): void => {
  picked.value = new Set(all ? rows.value.map((s) => s.id) : []);
};
/** As they are by now, and only those that can be delivered. */
const chosen = computed(() => (job.value?.shots ?? []).filter((s) => s.state === 'ready' && picked.value.has(s.id)));
/** Shots with something done in them, that it can be carried from. */
const sources = computed(() => (job.value?.shots ?? []).filter((s) => s.state === 'ready' && s.progress && (s.progress.base || s.progress.finish || s.progress.areas.some((a) => a.treat)) && !(chosen.value.length === 1 && picked.value.has(s.id))));
/** To the bench of the one that is carried from; what is chosen here, but for that, is chosen there. */
const carryFrom = (source: number): void => void router.push({ path: `/shots/${source}`, query: { panel: 'carry', to: chosen.value.flatMap((s) => (s.id === source ? [] : [s.id])).join() || undefined } });
const deliveringMany = ref(false);
const laying = ref(false);
const filter = ref<Filter>(EVERYTHING);
/** The rows there are: those that the filter lets through. */
const rows = computed(() => filtered(job.value?.shots ?? [], filter.value));
/** Rows as they stand in the whole job. */
const at = (row: number): number => job.value?.shots.findIndex((s) => s.id === rows.value[row]?.id) ?? -1;
/** The job by shots, or by people through the cut. */
const by = ref<'shots' | 'people'>('shots');
const VIEWS = [{ label: 'Shots', value: 'shots' as const }, { label: 'People', value: 'people' as const }];
/** Pixels that a row is high; only those in sight are built. */
const ROW = 124;
const knowing = ref(false);
const delivering = ref<Shot | null>(null);
const naming = ref<Shot | null>(null);
const name = ref('');
const meant = ref<Shot | null>(null);
const menu = ref<InstanceType<typeof Menu>>();
const outMenu = ref<InstanceType<typeof Menu>>();
/** What can be taken out of the job as a file. */
const outs = computed(() => [
  ...(inCut.value ? [{ label: 'Cut, OpenTimelineIO', url: api.cutUrl(props.jobId, 'otio') }, { label: 'Cut, decision list (EDL)', url: api.cutUrl(props.jobId, 'edl') }, { separator: true }] : []),
  { label: 'Report, PDF', url: api.reportUrl(props.jobId, 'pdf') },
  { label: 'Report, HTML', url: api.reportUrl(props.jobId, 'html') },
  { separator: true },
  { label: 'Bundle of the job', url: api.bundleUrl(props.jobId, false) },
  { label: 'Bundle with footage', url: api.bundleUrl(props.jobId, true) },
  { separator: true },
  { label: 'Checksums of what was delivered', url: api.sumsUrl(props.jobId) },
]);
const screen = ref<HTMLElement>();
/** Files, not rows that are dragged to another place. */
const areFiles = ref(false);
const { isOverDropZone } = useDropZone(screen, {
  onEnter: (_, e) => {
    areFiles.value = e.dataTransfer?.types.includes('Files') ?? false;
  },
  onDrop: (files) => take(files ?? [], {}),
});

// While a shot is being read, its row is told anew.
const reading = computed(() => job.value?.shots.some((shot) => shot.state === 'reading') ?? false);
useTimeoutPoll(() => (reading.value ? load() : Promise.resolve()), 700, { immediate: true });
onMounted(load);

const index = computed(() => job.value?.shots.findIndex((s) => s.id === meant.value?.id) ?? -1);
const acts = computed(() => {
  const shot = meant.value;
  if (!shot) return [];
  return [
    { label: 'Rename', command: () => ask(shot) },
    { label: 'Move up', disabled: index.value === 0, command: () => arrange(index.value, index.value - 1) },
    { label: 'Move down', disabled: index.value === (job.value?.shots.length ?? 0) - 1, command: () => arrange(index.value, index.value + 1) },
    ...(shot.state === 'ready' ? [{ label: 'Carry from this shot', command: () => carryFrom(shot.id) }] : []),
    { label: shot.archived ? 'Take out again' : 'Put away', command: () => putAway([shot], !shot.archived) },
    { separator: true },
    { label: 'Report (PDF)', url: api.shotReportUrl(shot.id, 'pdf') },
    { label: 'Report (HTML)', url: api.shotReportUrl(shot.id, 'html') },
    { separator: true },
    { label: 'Remove', command: () => remove(shot) },
  ];
});
function show(e: MouseEvent, shot: Shot): void {
  meant.value = shot;
  menu.value?.toggle(e);
}
function ask(shot: Shot): void {
  naming.value = shot;
  name.value = shot.name;
}
async function takeName(): Promise<void> {
  if (!naming.value || !name.value.trim()) return;
  await rename(naming.value, name.value.trim());
  naming.value = null;
}
function take(files: Iterable<File>, span: Span): void {
  for (const file of files) void send(file, span);
}
/** Where it stands in the cut. */
const placed = (shot: Shot): string => (shot.cut?.retired ? 'no longer in the cut' : shot.cut ? `event ${shot.cut.number}, ${shot.cut.in}–${shot.cut.out}` : '');
const inCut = computed(() => job.value?.shots.some((shot) => shot.cut && !shot.cut.retired) ?? false);
function length(shot: Shot): string {
  const f = shot.footage;
  const frames = shot.state === 'ready' ? shot.to - shot.from + 1 : f?.frames;
  return f ? `${frames} f · ${Number(f.fps.toFixed(3))} · ${f.width}×${f.height}` : '';
}
</script>

<template>
  <main v-if="missing" class="gone">
    <h1>{{ missing }}</h1>
    <RouterLink class="btn" to="/">To the jobs</RouterLink>
  </main>
  <div v-else ref="screen" class="screen" :class="{ over: isOverDropZone && areFiles }">
    <TopBar :trail="[{ name: 'Jobs', to: '/' }]" :title="job?.name ?? 'Job'" :note="job ? `${job.shots.length} shots · ${job.people.length} people` : ''">
      <PillChoice :options="VIEWS" :value="by" label="The job by" @choose="by = $event ?? 'shots'" />
      <RouterLink class="btn quiet" to="/deliveries">Deliveries</RouterLink>
      <button type="button" class="btn quiet" @click="knowing = true">People…</button>
      <button type="button" class="btn quiet" aria-haspopup="menu" @click="outMenu?.toggle($event)">Take out…</button>
      <button type="button" class="btn" @click="cutting = true">Bring in a cut</button>
      <button type="button" class="btn main" @click="bringing = true">Bring in footage</button>
    </TopBar>
    <main>
      <div v-for="entry in incoming" :key="entry.key" class="incoming">
        <b>{{ entry.name }}</b>
        <span v-if="entry.error" class="warn" role="alert">▲ {{ entry.error }}</span>
        <span v-else class="coming"><ProgressBar :value="Math.round(entry.share * 100)" :show-value="false" :aria-label="`${entry.name} coming in`" style="height: 4px" /><span class="dim">coming in, {{ Math.round(entry.share * 100) }} %</span></span>
        <button type="button" class="btn small" @click="stop(entry)">{{ entry.error ? 'Remove' : 'Stop' }}</button>
      </div>
      <JobFilter v-if="job?.shots.length && by === 'shots'" v-model="filter" :job="job"><button v-if="inCut" type="button" class="btn small" title="Puts the rows in the order of the cut" @click="arrangeByCut()">Order by the cut</button></JobFilter>
      <PeopleRows v-if="job && by === 'people'" :job="job" />
      <p v-else-if="job?.shots.length && rows.length === 0" class="none dim">No shot is like that. <button type="button" class="btn small" @click="filter = EVERYTHING">Show all</button></p>
      <DataTable v-else-if="job?.shots.length" :value="rows" data-key="id" scrollable scroll-height="flex" :virtual-scroller-options="{ itemSize: ROW, numToleratedItems: 4 }" :row-class="() => 'shot'" :pt="{ table: { 'aria-label': 'Shots of the job' } }" @row-reorder="({ dragIndex, dropIndex }: DataTableRowReorderEvent) => arrange(at(dragIndex), at(dropIndex))">
        <Column row-reorder style="width: 24px"><template #header><span class="unseen">Order</span></template><template #rowreordericon><span class="grip" data-pc-section="reorderablerowhandle" title="Drag to another place; or move it by its menu">⁝</span></template></Column>
        <Column style="width: 28px">
          <template #header><Checkbox :model-value="isAll" :indeterminate="!isAll && picked.size > 0" binary aria-label="Choose all" @update:model-value="pickAll($event === true)" /></template>
          <template #body="{ data: shot }"><Checkbox :model-value="picked.has(shot.id)" binary :aria-label="`Choose ${shot.name}`" @update:model-value="pick(shot.id)" /></template>
        </Column>
        <Column header="After | before" style="width: 188px">
          <template #body="{ data: shot }">
            <RouterLink v-if="shot.state === 'ready'" class="poster" :to="`/shots/${shot.id}`" :aria-label="`Open ${shot.name}`">
              <img :src="api.posterUrl(shot, 'result')" alt="" width="176" height="99">
              <img class="before" :src="api.posterUrl(shot, 'original')" alt="" width="176" height="99">
            </RouterLink>
            <span v-else class="poster"></span>
          </template>
        </Column>
        <Column header="Shot" style="width: 180px">
          <template #body="{ data: shot }">
            <component :is="shot.state === 'ready' ? 'RouterLink' : 'span'" class="name" :to="`/shots/${shot.id}`"><b>{{ shot.name }}</b><span class="mono dim">{{ length(shot) }}</span><span v-if="shot.cut" class="dim">{{ placed(shot) }}</span></component>
          </template>
        </Column>
        <Column header="People and parts">
          <template #body="{ data: shot }">
            <span v-if="shot.state === 'reading'" class="dim">being read: every frame is decoded once to know its exact time…</span>
            <span v-else-if="shot.error" class="warn">▲ {{ shot.error }}</span>
            <div v-else class="scrolled" tabindex="0" :aria-label="`Parts of ${shot.name}`"><ShotParts :shot="shot" :people="job.people" /></div>
          </template>
        </Column>
        <Column header="Notes" style="width: var(--notes)"><template #body="{ data: shot }"><Textarea v-if="shot.state === 'ready'" class="notes" rows="3" maxlength="4000" :model-value="shot.notes" :aria-label="`Notes on ${shot.name}`" placeholder="Notes" @change="note(shot, ($event.target as HTMLTextAreaElement).value)" /></template></Column>
        <Column header="Left to do" style="width: 150px">
          <template #body="{ data: shot }">
            <span class="todo"><span class="left">{{ shot.following ? 'following…' : shot.progress?.left }}</span><RouterLink v-if="shot.openNotes" class="dim" :to="`/shots/${shot.id}?notes=1`">{{ shot.openNotes === 1 ? '1 open note' : `${shot.openNotes} open notes` }}</RouterLink><button v-if="shot.state === 'ready'" type="button" class="btn small" @click="delivering = shot">Deliver</button><template v-else-if="shot.state !== 'reading'"><button v-if="shot.state === 'doubtful'" type="button" class="btn small" @click="accept(shot)">Use it as it is</button><button v-else-if="shot.canBeReadAgain" type="button" class="btn small" @click="read(shot)">Read it again</button><button type="button" class="btn small" @click="remove(shot)">Remove</button></template></span>
          </template>
        </Column>
        <Column style="width: 40px"><template #header><span class="unseen">More</span></template><template #body="{ data: shot }"><button type="button" class="plain icon" :aria-label="`More for ${shot.name}`" aria-haspopup="menu" @click="show($event, shot)">⋯</button></template></Column>
      </DataTable>
      <div v-else-if="job && incoming.length === 0" class="empty">
        <p>No footage in this job yet.</p>
        <p class="dim">Drop files here, or bring them in with the button above.</p>
      </div>
      <Menu ref="menu" :model="acts" popup append-to="main" />
    </main>
    <footer v-if="chosen.length && by === 'shots'" class="chosen"><b>{{ chosen.length === 1 ? '1 shot' : `${chosen.length} shots` }} chosen</b><span class="grow"></span><button type="button" class="btn quiet" @click="pickAll(false)">None</button><a class="btn" :href="api.bundleUrl(jobId, false, chosen.map((s) => s.id))" download>Bundle</a><button type="button" class="btn" @click="putAway(chosen, true); pickAll(false)">Put away</button><Select v-if="sources.length" class="from" :model-value="null" :options="sources" option-label="name" option-value="id" filter placeholder="Carry from…" aria-label="Carry from" @update:model-value="carryFrom($event)" /><button type="button" class="btn" @click="laying = true">Lay a treatment on</button><button type="button" class="btn main" @click="deliveringMany = true">Deliver {{ chosen.length === 1 ? 'it' : `all ${chosen.length}` }}</button></footer>
    <Dialog v-if="job" v-model:visible="deliveringMany" modal :header="chosen.length === 1 ? `Deliver ${chosen[0]?.name}` : `Deliver ${chosen.length} shots`" :style="{ width: '520px' }"><DeliverMany :job-id="jobId" :job="job.name" :shots="chosen" @close="deliveringMany = false" @ordered="say('Rendering', 'Its progress is under Deliveries.')" /></Dialog>
    <Dialog v-if="job" v-model:visible="laying" modal header="Lay a treatment on" :style="{ width: '520px' }"><LayTreatment :job="job" :shots="chosen" @close="laying = false" @taken="load" /></Dialog>
    <Menu ref="outMenu" :model="outs" popup append-to="main" />
    <BringIn v-model:open="bringing" :job-id="jobId" @take="take" @taken="load" />
    <BringInCut v-model:open="cutting" :job-id="jobId" @done="load" />
    <Dialog :visible="delivering !== null" modal :header="`Deliver ${delivering?.name}`" :style="{ width: '480px' }" @update:visible="delivering = null"><DeliverPanel v-if="delivering" :shot="delivering" @close="delivering = null" @ordered="say('Rendering', 'Its progress is under Deliveries.')" /></Dialog>
    <Dialog v-model:visible="knowing" modal header="People of this job" :style="{ width: '420px' }"><PeopleList :people="people" @removed="load" /></Dialog>
    <Dialog :visible="naming !== null" modal header="Rename the shot" :style="{ width: '380px' }" @update:visible="naming = null">
      <form class="ask" @submit.prevent="takeName">
        <label for="shot-name">Name</label>
        <InputText id="shot-name" v-model="name" autofocus maxlength="120" />
        <div class="row"><button type="button" class="btn" @click="naming = null">Leave it</button><button type="submit" class="btn main" :disabled="!name.trim()">Rename it</button></div>
      </form>
    </Dialog>
  </div>
</template>

<style scoped src="./job.css"></style>
