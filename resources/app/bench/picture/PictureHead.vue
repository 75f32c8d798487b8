<script setup lang="ts">
/** The line over the picture: where one is, playing, views, zoom and what surrounds the picture. */
import { useFullscreen } from '@vueuse/core';
import { computed } from 'vue';
import { useBench } from '../bench';
import { useSurround } from './useSurround';

const { shot, playback, playhead, compare, views, stage, areas, moments } = useBench();
const { surround, GREYS } = useSurround();
const { enter } = useFullscreen(stage.element);
const playWords = computed(() => (moments.cut.value ? 'Play across the cut (Space)' : `Play frames ${moments.loop.value[0]} to ${moments.loop.value[1]} (Space)`));
const coarse = computed(() => ({ 1: '', 2: '½ size', 3: '⅓ size' })[playback.coarse.value]);

function result(): void {
  views.show('result');
  compare.off();
}
</script>

<template>
  <header class="head">
    <RouterLink class="dim job" :to="`/jobs/${shot.jobId}`">{{ shot.job }}</RouterLink><span class="dim" aria-hidden="true">/</span><h1>{{ shot.name }}</h1>
    <span class="grow"></span>
    <span v-if="coarse" class="mono dim coarse">{{ coarse }}</span>
    <span class="mono frame"><template v-if="playback.elsewhere.value !== null">{{ playback.elsewhere.value }} <span class="dim">of {{ compare.neighbour.value?.name }}</span></template><template v-else>{{ playhead.frame.value }} <span class="dim">of {{ shot.from }}–{{ shot.to }}</span></template></span>
    <button v-tooltip.bottom="playWords" type="button" class="btn small" :aria-pressed="playback.playing.value" @click="playback.play()">{{ playback.playing.value ? 'Stop' : 'Play' }}</button>
    <span class="pills" role="group" aria-label="View">
      <button type="button" :aria-pressed="views.view.value === 'result' && compare.layout.value === null" @click="result">Result</button>
      <button type="button" :aria-pressed="views.view.value === 'original'" @click="views.toggle('original')">Original</button>
      <button v-tooltip.bottom="`Split against ${compare.words.value} (S)`" type="button" :aria-pressed="compare.layout.value === 'split'" @click="compare.toggle('split')">Split</button>
      <button type="button" :aria-pressed="views.shown.value === 'matte'" :disabled="!areas.chosen.value" @click="views.toggle('matte')">Matte</button>
    </span>
    <span class="pills mono" role="group" aria-label="Zoom">
      <button type="button" :aria-pressed="stage.zoom.value === null" :title="`${Math.round(stage.percent.value)} %`" @click="stage.fit()">Fit</button>
      <button type="button" :aria-pressed="stage.zoom.value === 1" @click="stage.zoomTo(1)">100</button>
      <button type="button" :aria-pressed="stage.zoom.value === 2" @click="stage.zoomTo(2)">200</button>
    </span>
    <button v-tooltip.bottom="'Full screen; Esc leaves it'" type="button" class="btn small" @click="enter">Full</button>
    <span class="surrounds" role="group" aria-label="Surround">
      <button v-for="(grey, i) in GREYS" :key="grey" type="button" class="plain" :aria-label="['dim', 'mid', 'light'][i]" :aria-pressed="surround === i" @click="surround = i"><i :style="{ background: grey }"></i></button>
    </span>
  </header>
</template>

<style scoped>
.head {
  display: flex;
  gap: 10px;
  background: var(--g1);
  align-items: center;
  padding: 0 16px;
  border-bottom: 1px solid var(--line);
  white-space: nowrap;
}

.head .job,
h1 {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}

.head .job {
  flex: 0 100 auto;
  line-height: 24px;
}

h1 {
  flex: 0 0 auto;
  max-width: 40%;
  font-size: 13px;
  font-weight: 600;
}

.head > :not(.job, h1, .grow) {
  flex: none;
}

.job:hover {
  color: var(--t1);
}

.surrounds {
  display: flex;
}

.surrounds button {
  display: grid;
  place-content: center;
  width: 24px;
  height: 24px;
}

.surrounds i {
  width: 12px;
  height: 12px;
  border: 1px solid var(--t3);
  border-radius: 2px;
}

.surrounds [aria-pressed='true'] i {
  width: 16px;
  height: 16px;
  border-color: var(--t1);
}

@media (width < 1250px) {
  .head {
    gap: 6px;
    padding: 0 8px;
  }

  .head .job,
  .head .job + .dim {
    display: none;
  }
}

@media (width < 1150px) {
  h1 {
    flex: 0 1 auto;
    max-width: none;
  }

  .pills button {
    padding: 0 5px;
  }
}
</style>
