<script setup lang="ts">
/** The frame ruler and a lane for each area: how surely it was followed, frame by frame. Below, hairlines to the witnesses. */
import { useBench } from '../bench';
import FollowLane from './FollowLane.vue';
import FrameRuler from './FrameRuler.vue';
import { provideLanes } from './useLanes';
import { witnessMiddle } from './useWitnesses';

const { areas, witnesses, playhead } = useBench();
const { box, width, at } = provideLanes();
</script>

<template>
  <section :ref="(el) => (box = el as HTMLElement)" class="strips" aria-label="Time">
    <svg width="0" height="0" aria-hidden="true"><pattern id="shut" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><line x1="0" x2="0" y1="0" y2="5" stroke="#9a9a9a" stroke-width="1.6" /></pattern></svg>
    <FrameRuler />
    <div class="lanes"><FollowLane v-for="area in areas.all.value" :key="area.id" :area="area" /></div>
    <svg v-if="witnesses.witnesses.value.length" class="hairlines" :width="width" height="14" aria-hidden="true">
      <path v-for="(w, i) in witnesses.witnesses.value" :key="w.frame" :class="{ now: w.frame === playhead.frame.value }" :d="`M${at(w.frame)} 0V2L${witnessMiddle(i, witnesses.witnesses.value.length, width)} 14`" />
    </svg>
  </section>
</template>

<style scoped>
.strips {
  display: flex;
  flex-direction: column;
  min-width: 0;
  background: var(--g0);
  border-top: 1px solid var(--line);
  user-select: none;
}

.lanes {
  min-height: 0;
  max-height: 160px;
  overflow-y: auto;
  scrollbar-width: thin;
}

.hairlines {
  display: block;
  flex: none;
}

.hairlines path {
  fill: none;
  stroke: #6e6e6e;
}

.hairlines path.now {
  stroke: #c8c8c8;
}
</style>
