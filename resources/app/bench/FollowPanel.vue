<script setup lang="ts">
import ProgressBar from 'primevue/progressbar';
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Area, Channel, Follow, Model } from '../api/types';
import RulerSlider from '../widgets/RulerSlider.vue';

const props = defineProps<{ area: Area; frame: number; from: number; to: number; open: Follow | null; last: Follow | null; weak: number[]; confidence: (number | null)[] }>();
const emit = defineEmits<{
  follow: [from: number, to: number];
  stop: [];
  model: [model: Model];
  margin: [value: number];
  marginDone: [];
  channel: [channel: Channel];
  go: [frame: number];
}>();

const MODELS: { name: string; value: Model }[] = [
  { name: 'Move, turn and scale', value: 'similarity' },
  { name: 'Move only', value: 'position' },
];
const CHANNELS: { name: string; value: Channel }[] = [
  { name: 'Position', value: 'position' },
  { name: 'Rotation', value: 'rotation' },
  { name: 'Scale', value: 'scale' },
];
const drawn = computed(() => props.area.outline.shapes.length > 0);
const total = computed(() => (props.open ? props.open.to - props.open.from : 1));
</script>

<template>
  <div class="panel">
    <p v-if="!drawn" class="dim">There is no outline yet. Draw one, on the frame that shows the thing best.</p>
    <template v-else>
      <div class="line">
        <span>Motion</span>
        <Select size="small" :model-value="area.motion.model ?? 'similarity'" :options="MODELS" option-label="name" option-value="value" aria-label="Motion" @update:model-value="emit('model', $event)" />
      </div>
      <RulerSlider label="Look round" :value="area.motion.look?.margin ?? 0" :least="0" :most="0.25" :neutral="0" :digits="1" :scale="100" unit="%" @change="emit('margin', $event)" @commit="emit('marginDone')" />
      <template v-if="open">
        <ProgressBar :value="Math.round((100 * open.steps.length) / total)" :show-value="false" style="height: 4px" />
        <div class="acts">
          <span class="dim">following, <span class="mono">{{ open.steps.length }} of {{ total }}</span> frames</span>
          <span class="grow"></span>
          <button type="button" class="btn" @click="emit('stop')">Stop</button>
        </div>
      </template>
      <div v-else class="acts">
        <button type="button" class="btn" :disabled="frame === from" @click="emit('follow', from, frame)">← Back</button>
        <button type="button" class="btn main" @click="emit('follow', from, to)">Follow both ways</button>
        <button type="button" class="btn" :disabled="frame === to" @click="emit('follow', frame, to)">On →</button>
      </div>
      <p v-if="last?.state === 'failed' && !open" class="fail">▲ {{ last.message }}</p>
      <template v-if="area.motion.track">
        <div class="line">
          <span>Use</span>
          <span class="pills">
            <button v-for="c in CHANNELS" :key="c.value" type="button" :aria-pressed="area.motion.use.includes(c.value)" @click="emit('channel', c.value)">{{ c.name }}</button>
          </span>
        </div>
        <div class="line">
          <span>Weakest</span>
          <span v-if="weak.length === 0" class="dim">no weak frame</span>
          <button v-for="w in weak" :key="w" type="button" class="btn small mono" @click="emit('go', w)">{{ w }} · {{ Math.round((confidence[w - from] ?? 0) * 100) }} %</button>
        </div>
      </template>
      <p v-else class="dim">Starts from frame {{ frame }}, the one you are on.</p>
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 8px;
  padding: 0 16px 12px;
}

.line,
.acts {
  display: flex;
  gap: 8px;
  align-items: center;
}

.line > span:first-child {
  width: 80px;
  color: var(--t2);
}

.fail {
  color: var(--t1);
}

p {
  font-size: 12px;
}
</style>
