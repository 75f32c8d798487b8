<script setup lang="ts">
import type { Against, Area, Cure, Finding, View } from '../api/types';
import RulerSlider from '../widgets/RulerSlider.vue';
import TelltaleList from './TelltaleList.vue';
import VersionList from './VersionList.vue';
import type { TelltaleStore } from './useTelltales';
import type { Compare } from './useCompare';

const props = defineProps<{ view: View; compare: Compare; frame: number; telltales: TelltaleStore; area: Area; areas: Area[]; from: number; to: number; previewed: Cure | null; cut: Cut }>();
const emit = defineEmits<{ cut: [cut: Cut]; view: [view: View]; go: [frame: number]; choose: [area: string]; preview: [cure: Cure | null]; cure: [cure: Cure, finding: Finding] }>();

function chooseShot(id: string): void {
  emit('cut', null);
  props.compare.choose(id === '' ? 'original' : `shot ${Number(id)}`);
  if (id === '') props.compare.off();
}

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
const AGAINST: { name: string; value: Against }[] = [
  { name: 'Original', value: 'original' },
  { name: 'Base', value: 'base' },
  { name: 'Without area', value: 'without' },
];
</script>

<script lang="ts">
/** Playing across a cut: into the shot compared with, or from it into this one. */
export type Cut = 'into' | 'from' | null;
</script>

<template>
  <div class="panel">
    <div class="views">
      <button v-for="v in VIEWS" :key="v.value" type="button" class="plain view" :aria-pressed="view === v.value" @click="emit('view', v.value)">
        <span>{{ v.name }}</span><kbd v-if="v.key" class="mono">{{ v.key }}</kbd>
      </button>
    </div>
    <RulerSlider v-if="view === 'difference'" label="Amplified" :value="compare.gain.value" :least="1" :most="16" :neutral="1" :digits="0" unit="×" @change="compare.amplify($event)" />
    <div class="row">
      <span class="label">Compare</span>
      <span class="pills" role="group" aria-label="How they are laid">
        <button type="button" :aria-pressed="compare.layout.value === 'split'" @click="compare.toggle('split')">Split line</button>
        <button type="button" :aria-pressed="compare.layout.value === 'side'" @click="compare.toggle('side')">Side by side</button>
      </span>
    </div>
    <div class="row">
      <span class="label">Against</span>
      <span class="pills" role="group" aria-label="Compare against"><button v-for="a in AGAINST" :key="a.value" type="button" :aria-pressed="compare.layout.value !== null && compare.against.value === a.value" @click="compare.choose(a.value)">{{ a.name }}</button></span>
    </div>
    <div v-if="compare.neighbours.value.length" class="row">
      <span class="label">Shot</span>
      <select aria-label="Another shot" :value="compare.neighbour.value?.id ?? ''" @change="chooseShot(($event.target as HTMLSelectElement).value)">
        <option value="">none</option>
        <option v-for="n in compare.neighbours.value" :key="n.id" :value="n.id">{{ n.name }}</option>
      </select>
      <template v-if="compare.neighbour.value">
        <span class="pills" role="group" aria-label="Play across the cut">
          <button v-tooltip.top="`Plays the end of this shot and the beginning of ${compare.neighbour.value.name}`" type="button" :aria-pressed="cut === 'into'" @click="emit('cut', cut === 'into' ? null : 'into')">Cut to it</button>
          <button v-tooltip.top="`Plays the end of ${compare.neighbour.value.name} and the beginning of this shot`" type="button" :aria-pressed="cut === 'from'" @click="emit('cut', cut === 'from' ? null : 'from')">From it</button>
        </span>
      </template>
    </div>
    <RulerSlider v-if="compare.neighbour.value" label="Its frame" :value="compare.neighbour.value.frame" :least="compare.neighbour.value.from" :most="compare.neighbour.value.to" :neutral="compare.neighbour.value.from" :digits="0" @change="compare.turn($event)" />
    <TelltaleList
      :telltales="telltales" :area="area" :areas="areas" :from="from" :to="to" :frame="frame" :previewed="previewed"
      @go="emit('go', $event)" @choose="emit('choose', $event)" @preview="emit('preview', $event)" @cure="(c, f) => emit('cure', c, f)"
    />
    <VersionList :compare="compare" :frame="frame" />
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

select {
  min-width: 0;
  flex: 1;
  padding: 2px 4px;
  background: var(--g0);
  border: 1px solid var(--line);
  border-radius: 2px;
  color: inherit;
  font: inherit;
  font-size: 12px;
}

.pills button {
  padding: 1px 7px;
  font-size: 12px;
  white-space: nowrap;
}

p {
  font-size: 12px;
}
</style>
