<script setup lang="ts">
/** A hue by ready swatches or a ruler. */
import RulerSlider from '../../../widgets/RulerSlider.vue';
import { useBench } from '../../bench';
import { markOf } from '../../recipe/keyed';
import { useTouch } from '../useTouch';

const { playhead } = useBench();
const { value, keyed, set, commit, toggleKey } = useTouch();
const HUES = [20, 55, 70, 95, 130, 150, 175, 200, 230, 250, 280, 310];

function choose(hue: number): void {
  set({ hue });
  commit(`hue ${hue}`);
}
</script>

<template>
  <div class="line">
    <span class="label">Hue</span>
    <span class="swatches" role="group" aria-label="Ready hues"><button v-for="h in HUES" :key="h" type="button" class="plain" :aria-label="`Hue ${h}°`" :aria-pressed="Math.abs(value('hue') - h) < 0.5" @click="choose(h)"><i :style="{ background: `oklch(0.5 0.085 ${h})` }"></i></button></span>
    <RulerSlider class="whole" label="Hue" :value="value('hue')" :least="0" :most="360" :neutral="0" :digits="0" unit="°" :mark="markOf(keyed('hue'), playhead.frame.value)" @change="set({ hue: $event })" @commit="commit('hue')" @key="toggleKey('hue', 'hue')" />
  </div>
</template>

<style scoped src="./controls.css"></style>
<style scoped>
.swatches {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
}

.swatches button {
  display: grid;
  flex: 1;
  min-width: 24px;
  height: 24px;
  padding: 4px 1px;
}

.swatches i {
  height: 16px;
}

.swatches [aria-pressed='true'] i {
  outline: 1px solid var(--t1);
  outline-offset: 1px;
}

.whole {
  flex-basis: 100%;
}
</style>
