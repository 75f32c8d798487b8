<script setup lang="ts">
import type { Against, Area, Cure, Finding, View } from '../api/types';
import RulerSlider from '../widgets/RulerSlider.vue';
import TelltaleList from './TelltaleList.vue';
import VersionList from './VersionList.vue';
import type { TelltaleStore } from './useTelltales';
import type { Compare } from './useCompare';

defineProps<{ view: View; compare: Compare; frame: number; telltales: TelltaleStore; area: Area; areas: Area[]; from: number; to: number; previewed: Cure | null }>();
const emit = defineEmits<{ view: [view: View]; go: [frame: number]; choose: [area: string]; preview: [cure: Cure | null]; cure: [cure: Cure, finding: Finding] }>();

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
  width: 68px;
  color: var(--t2);
}

.pills button {
  padding: 1px 8px;
  font-size: 12px;
}

p {
  font-size: 12px;
}
</style>
