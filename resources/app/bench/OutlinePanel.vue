<script setup lang="ts">
import { computed } from 'vue';
import type { Area, Ellipse } from '../api/types';
import RulerSlider from '../widgets/RulerSlider.vue';

const props = defineProps<{ area: Area; aspect: number; drawing: boolean }>();
const emit = defineEmits<{ draw: []; change: [shape: Ellipse, change: Partial<Ellipse>]; commit: [what: string]; remove: [shape: Ellipse]; invert: [] }>();

const shape = computed(() => props.area.outline.shapes[0]);
</script>

<template>
  <div class="panel">
    <template v-if="shape">
      <RulerSlider label="Across" :value="shape.radii[0]" :least="0.001" :most="1" :neutral="0.001" :digits="1" :scale="200" unit="%" @change="emit('change', shape, { radii: [$event, shape.radii[1]] })" @commit="emit('commit', 'Resize outline')" />
      <RulerSlider label="Along" :value="shape.radii[1]" :least="0.001" :most="1" :neutral="0.001" :digits="1" :scale="200" unit="%" @change="emit('change', shape, { radii: [shape.radii[0], $event] })" @commit="emit('commit', 'Resize outline')" />
      <RulerSlider label="Turn" :value="shape.turn" :least="-180" :most="180" :neutral="0" :digits="1" unit="°" sign @change="emit('change', shape, { turn: $event })" @commit="emit('commit', 'Turn outline')" />
      <RulerSlider label="Feather in" :value="shape.featherIn" :least="0" :most="0.5" :neutral="0" :digits="1" :scale="100" unit="%" @change="emit('change', shape, { featherIn: $event })" @commit="emit('commit', 'Inner feather')" />
      <RulerSlider label="Feather out" :value="shape.featherOut" :least="0" :most="0.5" :neutral="0" :digits="1" :scale="100" unit="%" @change="emit('change', shape, { featherOut: $event })" @commit="emit('commit', 'Outer feather')" />
      <RulerSlider label="Grow" :value="shape.grow" :least="-0.25" :most="0.25" :neutral="0" :digits="1" :scale="100" unit="%" sign @change="emit('change', shape, { grow: $event })" @commit="emit('commit', 'Grow outline')" />
      <RulerSlider label="Opacity" :value="shape.opacity" :least="0" :most="1" :neutral="1" :digits="0" :scale="100" unit="%" @change="emit('change', shape, { opacity: $event })" @commit="emit('commit', 'Opacity')" />
      <div class="acts">
        <label><input type="checkbox" :checked="area.outline.invert" @change="emit('invert')"> Invert</label>
        <span class="grow"></span>
        <button type="button" class="btn small" @click="emit('draw')">{{ drawing ? 'Drag it on the picture…' : 'Draw anew' }}</button>
        <button type="button" class="btn small quiet" @click="emit('remove', shape)">Remove</button>
      </div>
      <p class="dim">Lengths are shares of the picture’s height.</p>
    </template>
    <template v-else>
      <p class="dim">Draw it generously, with texture inside for following; tighten and soften it afterwards.</p>
      <div class="acts"><button type="button" class="btn main" @click="emit('draw')">{{ drawing ? 'Drag it on the picture…' : 'Draw an ellipse' }}</button></div>
    </template>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 2px;
  padding: 0 16px 12px;
}

.acts {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 6px 0;
}

label {
  display: flex;
  gap: 6px;
  align-items: center;
  color: var(--t2);
}

input {
  accent-color: #a8a8a8;
}

p {
  font-size: 12px;
}
</style>
