<script setup lang="ts">
/** The outlines of all areas over the picture: thin dashes with small letters, and everything that can be dragged on the chosen one. */
import { computed } from 'vue';
import type { Pair } from '../../api/types';
import { useBench } from '../bench';
import ActiveShape from './ActiveShape.vue';
import { apart, flagPlace } from './useShapeOnStage';
import ShapeLine from './ShapeLine.vue';

const { areas, outlines, following, stage, store } = useBench();
const DASHES = ['7 4', '2 4', '10 3 2 3', '4 2', '12 5', '1 3', '8 3 2 3 2 3', '5 5'];
/** Boxes that the letters take, with what stands before them. */
const FLAG = { width: 24, height: 18 };
const CHOSEN_FLAG = { width: 33, height: 24 };

/** The chosen shape first: it keeps its place, the others' letters give way to it. */
const shapes = computed(() => {
  const list = areas.all.value.flatMap((area, i) => {
    if (!area.on && area.id !== areas.chosen.value?.id) return [];
    const staged = outlines.staged(area, following);
    return staged.map((s, k) => ({
      ...s,
      area,
      dash: DASHES[i % DASHES.length] ?? '',
      letter: `${areas.letters.value[area.id] ?? ''}${staged.length > 1 ? k + 1 : ''}`,
      active: area.id === areas.chosen.value?.id && s.shape.id === outlines.active.value,
    }));
  }).sort((a, b) => Number(b.active) - Number(a.active));
  const places = apart(list.map((s) => ({ at: flagPlace(s.shape, s.matrix, stage), ...(s.active ? CHOSEN_FLAG : FLAG) })));
  return list.map((s, i) => ({ ...s, flag: places[i] as Pair })).reverse();
});
const spots = computed(() => following.spots.value.map((p) => stage.onScreen(p)));

function choose(area: string, shape: string): void {
  areas.choose(area);
  outlines.work(shape);
}
</script>

<template>
  <g class="outlines" :class="{ thin: store.held.value !== null }">
    <template v-for="s in shapes" :key="`${s.area.id} ${s.shape.id}`">
      <ActiveShape v-if="s.active" :shape="s.shape" :matrix="s.matrix" :letter="s.letter" :flag="s.flag" :area="s.area" />
      <ShapeLine v-else :shape="s.shape" :matrix="s.matrix" :letter="s.letter" :flag="s.flag" :dash="s.dash" :name="s.area.name" @choose="choose(s.area.id, s.shape.id)" />
    </template>
    <g v-for="(spot, i) in spots" :key="`spot${i}`" class="spot" aria-hidden="true" :transform="`translate(${spot[0]} ${spot[1]})`">
      <template v-for="pass in ['dark', 'light']" :key="pass"><circle r="9" :class="pass" /><path d="M-13 0h8M5 0h8M0 -13v8M0 5v8" :class="pass" /></template>
    </g>
  </g>
</template>

<style scoped>
/* While something is dragged the picture is what counts. */
.outlines {
  transition: opacity 0.1s;
}

.thin {
  opacity: 0.28;
}

.spot {
  fill: none;
  pointer-events: none;
  stroke: #fff;
  stroke-width: 1.2;
}

.spot .dark {
  stroke: #000;
  stroke-opacity: 0.55;
  stroke-width: 3;
}
</style>
