<script setup lang="ts">
/** The pick: sampled on the picture, set by ranges on bands, cleaned and softened. */
import Checkbox from 'primevue/checkbox';
import { computed } from 'vue';
import type { Area, Triple, View } from '../../api/types';
import PillChoice from '../../widgets/PillChoice.vue';
import RulerSlider from '../../widgets/RulerSlider.vue';
import { useBench } from '../bench';
import RangeBand from './RangeBand.vue';

const props = defineProps<{ area: Area }>();
const { picking, outlines, treating, views, following, goTo } = useBench();
const { edit, commit } = picking;
const { weak } = following;
const { colours } = treating;
const pick = computed(() => props.area.pick);
/** How far the lightness has moved from where the ranges were set. */
const shift = computed(() => (pick.value?.follow != null && colours.value ? colours.value.mean[0] - pick.value.follow : 0));
const HUES = `linear-gradient(90deg, ${Array.from({ length: 25 }, (_, i) => `oklch(0.62 0.09 ${i * 15})`).join(', ')})`;
const VIEWS: { value: View; label: string }[] = [{ value: 'result', label: 'Picture' }, { value: 'matte', label: 'Matte' }, { value: 'picked', label: 'Picked over grey' }];
const chip = (rgb: Triple): string => `rgb(${rgb.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 255)).join(' ')})`;

function range(name: 'hue' | 'chroma' | 'light', value: Triple): void {
  edit((own) => (own[name] = value));
}
function drop(index: number): void {
  edit((own) => own.samples.splice(index, 1));
  void commit('sample away');
}
function invert(): void {
  edit((own) => (own.invert = !own.invert));
  void commit('invert');
}
function sampleWeak(frame: number): void {
  goTo(frame);
  outlines.tool.value = 'take';
}
</script>

<template>
  <div class="panel">
    <p v-if="!pick" class="dim">{{ area.outline.shapes.length ? 'Everything inside the outline is treated.' : 'Without an outline the pick takes from the whole frame.' }} Sample the picture to take only some colours.</p>
    <div class="acts">
      <button type="button" class="btn small" :class="{ main: outlines.tool.value === 'take' }" :aria-pressed="outlines.tool.value === 'take'" @click="outlines.draw('take')">Sample +</button>
      <button type="button" class="btn small" :class="{ main: outlines.tool.value === 'leave' }" :aria-pressed="outlines.tool.value === 'leave'" :disabled="!pick" @click="outlines.draw('leave')">Sample −</button>
      <button v-if="!pick" type="button" class="btn small quiet" @click="picking.begin()">By ranges</button>
      <template v-else>
        <span class="grow"></span>
        <PillChoice :options="VIEWS" :value="views.view.value" label="View" @choose="$event && views.show($event)" />
      </template>
    </div>
    <template v-if="pick">
      <div v-if="pick.samples.length" class="samples" role="group" aria-label="Samples">
        <span v-for="(s, i) in pick.samples" :key="i" class="sample">
          <button type="button" class="plain chip" :style="{ background: chip(s.rgb) }" :aria-label="`Sample ${s.sign} of frame ${s.frame}; go there`" @click="goTo(s.frame)">{{ s.sign }}</button>
          <button type="button" class="plain away" :aria-label="`Take sample ${i + 1} away`" @click="drop(i)">×</button>
        </span>
      </div>
      <RangeBand label="Hue" :range="pick.hue" :most="360" round :shares="colours?.shares.hue ?? null" :digits="0" unit="°" :colours="HUES" @change="range('hue', $event)" @commit="commit('hue')" />
      <RangeBand label="Chroma" :range="pick.chroma" :most="0.3" :shares="colours?.shares.chroma ?? null" :digits="3" @change="range('chroma', $event)" @commit="commit('chroma')" />
      <RangeBand label="Lightness" :range="pick.light" :most="1" :shift="shift" :shares="colours?.shares.light ?? null" :digits="0" :scale="100" unit=" %" @change="range('light', $event)" @commit="commit('lightness')" />
      <label class="tick"><Checkbox :model-value="pick.follow !== null" binary @update:model-value="picking.follow(pick.follow === null)" /> Lightness follows the area’s mean<span v-if="pick.follow !== null" class="mono dim"> {{ shift >= 0 ? '+' : '−' }}{{ Math.abs(shift * 100).toFixed(0) }} here</span></label>
      <RulerSlider label="Specks" :value="pick.clean.specks" :least="0" :most="0.05" :neutral="0" :digits="1" :scale="100" unit="%" @change="edit((p) => (p.clean.specks = $event))" @commit="commit('specks')" />
      <RulerSlider label="Holes" :value="pick.clean.holes" :least="0" :most="0.05" :neutral="0" :digits="1" :scale="100" unit="%" @change="edit((p) => (p.clean.holes = $event))" @commit="commit('holes')" />
      <RulerSlider label="Blur" :value="pick.blur" :least="0" :most="0.05" :neutral="0" :digits="2" :scale="100" unit="%" @change="edit((p) => (p.blur = $event))" @commit="commit('blur')" />
      <div class="acts">
        <label class="tick"><Checkbox :model-value="pick.invert" binary @update:model-value="invert" /> Invert</label>
        <span class="grow"></span>
        <button v-if="weak[0] !== undefined" type="button" class="btn small" @click="sampleWeak(weak[0])">Sample on weak frame {{ weak[0] }}</button>
        <button type="button" class="btn small quiet" @click="picking.clear()">Remove the pick</button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  padding: 0 16px 12px;
}

.acts,
.samples {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding: 2px 0;
}

.pills button {
  padding: 0 7px;
  font-size: 11px;
}

.sample {
  display: flex;
  align-items: center;
}

.chip {
  width: 20px;
  height: 20px;
  color: #fff;
  font-weight: 700;
  line-height: 20px;
  text-align: center;
  text-shadow: 0 0 2px #000;
}

.away {
  padding: 0 3px;
  color: var(--t3);
}

.tick {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
