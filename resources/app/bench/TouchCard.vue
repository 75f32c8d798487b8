<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Kind, Touch } from '../api/types';
import RulerSlider from '../widgets/RulerSlider.vue';
import SmallSwitch from '../widgets/SmallSwitch.vue';
import TouchControls from './TouchControls.vue';
import { useBench } from './context';
import { hold } from './drag';
import { TOUCHES, labelOf, markOf, toggledKey, valueAt, withValue } from './touches';

const props = defineProps<{ touch: Touch; kind: Kind | undefined; first: boolean; last: boolean }>();
const emit = defineEmits<{ change: [change: Partial<Touch>]; commit: [label: string]; remove: []; move: [by: number]; copy: []; without: [on: boolean]; grab: [event: PointerEvent] }>();

const bench = useBench();
const open = ref(true);
const words = computed(() => TOUCHES[props.touch.kind]);
const label = computed(() => labelOf(props.touch.kind));
const more = ref((words.value?.controls ?? []).some((c) => c.more && JSON.stringify(props.touch[c.name]) !== JSON.stringify(props.kind?.parameters.find((p) => p.name === c.name)?.neutral)));

function toggleSide(): void {
  emit('change', { side: props.touch.side === 'inside' ? 'outside' : 'inside' });
  emit('commit', `${label.value} ${props.touch.side}`);
}
function toggleOn(): void {
  emit('change', { on: !props.touch.on });
  emit('commit', `${label.value} ${props.touch.on ? 'on' : 'off'}`);
}
function keyAmount(): void {
  emit('change', { amount: toggledKey(props.touch.amount, bench.frame.value) });
  emit('commit', `${label.value}: amount, keyframe ${bench.frame.value}`);
}
function lookWithout(e: PointerEvent): void {
  emit('without', true);
  hold(e, () => undefined, () => emit('without', false));
}
</script>

<template>
  <article class="touch" :class="{ off: !touch.on }" :data-touch="touch.kind">
    <header>
      <span class="grip" title="Drag to another place" data-grip @pointerdown="emit('grab', $event)">⁝</span>
      <SmallSwitch :on="touch.on" :label="`${label} on`" @toggle="toggleOn" />
      <button type="button" class="plain title" :aria-expanded="open" @click="open = !open">{{ label }}</button>
      <button v-if="touch.side && !kind?.inArea" type="button" class="plain side" :aria-label="`Acts ${touch.side}; change`" @click="toggleSide">{{ touch.side }}</button>
      <span class="grow"></span>
      <button v-tooltip.bottom="'Hold to see it without'" type="button" class="plain small" :aria-label="`Hold to see it without ${label}`" @pointerdown.prevent="lookWithout">○</button>
      <button v-if="!first" v-tooltip.bottom="'Earlier'" type="button" class="plain small" aria-label="Move earlier" @click="emit('move', -1)">↑</button>
      <button v-if="!last" v-tooltip.bottom="'Later'" type="button" class="plain small" aria-label="Move later" @click="emit('move', 1)">↓</button>
      <button v-tooltip.bottom="'Copy'" type="button" class="plain small" :aria-label="`Copy ${label}`" @click="emit('copy')"><svg width="11" height="11" viewBox="0 0 11 11" aria-hidden="true"><path d="M3.5 3.5h7v7h-7zM7.5 3.5v-3h-7v7h3" /></svg></button>
      <button v-tooltip.bottom="'Remove'" type="button" class="plain small" :aria-label="`Remove ${label}`" @click="emit('remove')">×</button>
    </header>
    <div v-if="open" class="controls">
      <TouchControls :touch="touch" :kind="kind" :more="more" @change="emit('change', $event)" @commit="emit('commit', $event)" />
      <RulerSlider
        label="Amount" :value="valueAt(touch.amount, bench.frame.value)" :least="0" :most="1" :neutral="1" :digits="0" :scale="100" unit="%" :mark="markOf(touch.amount, bench.frame.value)"
        @change="emit('change', { amount: withValue(touch.amount, bench.frame.value, $event) })" @commit="emit('commit', `${label}: amount`)" @key="keyAmount"
      />
      <button v-if="words?.more" type="button" class="plain more" :aria-expanded="more" @click="more = !more">{{ more ? 'Fewer' : words.more }}</button>
    </div>
  </article>
</template>

<style scoped>
.touch {
  background: var(--g2);
  border: 1px solid var(--line);
  border-radius: 2px;
}

header {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 6px 10px 6px 4px;
}

.grip {
  width: 12px;
  color: var(--t3);
  text-align: center;
  cursor: grab;
  touch-action: none;
}

.title {
  font-weight: 600;
  white-space: nowrap;
}

.off .title {
  color: var(--t3);
}

.side {
  border: 1px solid var(--line);
  border-radius: 2px;
  padding: 0 6px;
  color: var(--t2);
  font-size: 11px;
}

.side:hover {
  border-color: var(--t3);
  color: var(--t1);
}

.small {
  padding: 0 3px;
  color: var(--t3);
}

.small svg {
  fill: none;
  stroke: currentcolor;
}

.small:hover {
  color: var(--t1);
}

.controls {
  padding: 0 10px 6px;
}

.more {
  padding: 2px 0;
  color: var(--t3);
  font-size: 12px;
}

.more:hover {
  color: var(--t1);
}
</style>
