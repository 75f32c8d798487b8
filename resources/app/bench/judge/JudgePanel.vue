<script setup lang="ts">
/** Views, what the picture is compared with, whether somebody has judged the part, tell-tales and kept versions. */
import Checkbox from 'primevue/checkbox';
import Select from 'primevue/select';
import { computed } from 'vue';
import { api } from '../../api/client';
import type { Against, Area, View } from '../../api/types';
import { useNotices } from '../../useNotices';
import PillChoice from '../../widgets/PillChoice.vue';
import RulerSlider from '../../widgets/RulerSlider.vue';
import { useBench } from '../bench';
import AnotherShot from './AnotherShot.vue';
import NoteList from './NoteList.vue';
import TelltaleList from './TelltaleList.vue';
import VersionList from './VersionList.vue';
import type { Layout } from './useCompare';

const props = defineProps<{ area: Area }>();
const { views, compare, moments, judged, store, shot } = useBench();
const { fail } = useNotices();

const VIEWS: { name: string; value: View; key: string }[] = [
  { name: 'Result', value: 'result', key: '' },
  { name: 'Original', value: 'original', key: 'O' },
  { name: 'Base only', value: 'base', key: 'B' },
  { name: 'Matte', value: 'matte', key: 'M' },
  { name: 'Tint', value: 'tint', key: 'T' },
  { name: 'Picked', value: 'picked', key: 'P' },
  { name: 'Difference', value: 'difference', key: 'D' },
  { name: 'Without area', value: 'without', key: 'X' },
];
const AGAINST: { label: string; value: Against }[] = [
  { label: 'Original', value: 'original' },
  { label: 'Base', value: 'base' },
  { label: 'Without area', value: 'without' },
];
const LAYOUTS: { label: string; value: Exclude<Layout, null> }[] = [{ label: 'Split line', value: 'split' }, { label: 'Side by side', value: 'side' }];
const CUTS = computed(() => [
  { label: 'Cut to it', value: 'into' as const, hint: `Plays the end of this shot and the beginning of ${compare.neighbour.value?.name}` },
  { label: 'From it', value: 'from' as const, hint: `Plays the end of ${compare.neighbour.value?.name} and the beginning of this shot` },
]);
const shots = computed(() => [{ id: 0, name: 'none' }, ...compare.neighbours.value]);
const isJudged = computed(() => judged.value.includes(props.area.id));

function chooseShot(id: number): void {
  void moments.playCut(null);
  compare.choose(id === 0 ? 'original' : `shot ${id}`);
  if (id === 0) compare.off();
}
async function tick(on: boolean): Promise<void> {
  try {
    await store.settled();
    const state = await api.tick(shot.id, props.area.id, on);
    if (state.revision === store.revision.value) store.saved.value = state;
  } catch (reason) {
    fail('The tick was not taken', reason);
  }
}
</script>

<template>
  <div class="panel">
    <div class="views" role="group" aria-label="View">
      <button v-for="v in VIEWS" :key="v.value" type="button" class="plain view" :aria-pressed="views.view.value === v.value" @click="views.show(v.value)">
        <span>{{ v.name }}</span><kbd v-if="v.key" class="mono">{{ v.key }}</kbd>
      </button>
    </div>
    <RulerSlider v-if="views.view.value === 'difference'" label="Amplified" :value="compare.gain.value" :least="1" :most="16" :neutral="1" :digits="0" unit="×" @change="compare.amplify($event)" />
    <div class="row">
      <span class="label">Compare</span>
      <PillChoice :options="LAYOUTS" :value="compare.layout.value" label="How they are laid" off @choose="compare.layout.value = $event" />
    </div>
    <div class="row">
      <span class="label">Against</span>
      <PillChoice :options="AGAINST" :value="compare.layout.value === null ? null : compare.against.value" label="Compare against" @choose="$event !== null && compare.choose($event)" />
    </div>
    <div v-if="compare.neighbours.value.length" class="row">
      <span class="label">Shot</span>
      <Select :model-value="compare.neighbour.value?.id ?? 0" :options="shots" option-label="name" option-value="id" aria-label="Another shot" @update:model-value="chooseShot($event)" />
      <PillChoice v-if="compare.neighbour.value" :options="CUTS" :value="moments.cut.value" label="Play across the cut" off @choose="moments.playCut($event)" />
    </div>
    <RulerSlider v-if="compare.neighbour.value" label="Its frame" :value="compare.neighbour.value.frame" :least="compare.neighbour.value.from" :most="compare.neighbour.value.to" :neutral="compare.neighbour.value.from" :digits="0" @change="compare.turn($event)" />
    <AnotherShot v-if="compare.neighbour.value" />
    <label class="tick judged"><Checkbox :model-value="isJudged" binary :disabled="store.unsaved.value" @update:model-value="tick($event)" /> <span>{{ area.name }} is judged</span><small class="dim">{{ isJudged ? 'until something is changed that is seen in it' : 'tick it once you have seen it in motion' }}</small></label>
    <TelltaleList :area="area" />
    <NoteList />
    <VersionList />
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  padding: 0 16px 12px;
}

.views {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 8px;
}

.view {
  display: flex;
  justify-content: space-between;
  min-height: 24px;
  padding: 3px 8px;
  border-radius: 2px;
  color: var(--t2);
}

.view:hover {
  background: var(--g2);
}

.view[aria-pressed='true'] {
  background: var(--g4);
  color: var(--t1);
}

.row {
  display: flex;
  gap: 6px;
  align-items: center;
}

.label {
  flex: none;
  width: 60px;
  color: var(--t2);
}

.row {
  flex-wrap: wrap;
}

.row :deep(.p-select) {
  flex: 1;
  min-width: 140px;
}

.judged {
  flex-wrap: wrap;
  gap: 2px 8px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
  color: var(--t1);
}

.judged span {
  flex: 1;
}

.judged small {
  flex: 1 0 100%;
  padding-left: 24px;
  font-size: 12px;
}
</style>
