<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Kind, MaybeKeyed, Touch } from '../api/types';
import RulerSlider from '../widgets/RulerSlider.vue';
import SmallSwitch from '../widgets/SmallSwitch.vue';
import { TOUCHES, labelOf, valueOf, type Control } from './touches';

const props = defineProps<{ touch: Touch; kind: Kind | undefined; first: boolean; last: boolean }>();
const emit = defineEmits<{ change: [change: Partial<Touch>]; commit: [label: string]; remove: []; move: [by: number] }>();

const open = ref(true);
const controls = computed(() => TOUCHES[props.touch.kind]?.controls ?? []);
const parameter = (c: Control) => props.kind?.parameters.find((p) => p.name === c.name);
const value = (c: Control): number => valueOf(props.touch[c.name] as MaybeKeyed);
const usesMore = computed(() => controls.value.some((c) => c.more && value(c) !== parameter(c)?.neutral));
const more = ref(usesMore.value);
const shown = computed(() => controls.value.filter((c) => !c.more || more.value));
const label = computed(() => labelOf(props.touch.kind));

function toggleSide(): void {
  emit('change', { side: props.touch.side === 'inside' ? 'outside' : 'inside' });
  emit('commit', `${label.value} ${props.touch.side}`);
}
function toggleOn(): void {
  emit('change', { on: !props.touch.on });
  emit('commit', `${label.value} ${props.touch.on ? 'on' : 'off'}`);
}
</script>

<template>
  <article class="touch" :class="{ off: !touch.on }" :data-touch="touch.kind">
    <header>
      <SmallSwitch :on="touch.on" :label="`${label} on`" @toggle="toggleOn" />
      <button type="button" class="plain title" :aria-expanded="open" @click="open = !open">{{ label }}</button>
      <button v-if="touch.side" type="button" class="plain side" :aria-label="`Acts ${touch.side}; change`" @click="toggleSide">{{ touch.side }}</button>
      <span class="grow"></span>
      <button v-if="!first" v-tooltip.bottom="'Earlier'" type="button" class="plain small" aria-label="Move earlier" @click="emit('move', -1)">↑</button>
      <button v-if="!last" v-tooltip.bottom="'Later'" type="button" class="plain small" aria-label="Move later" @click="emit('move', 1)">↓</button>
      <button v-tooltip.bottom="'Remove'" type="button" class="plain small" :aria-label="`Remove ${label}`" @click="emit('remove')">×</button>
    </header>
    <div v-if="open" class="controls">
      <template v-for="c in shown" :key="c.name">
        <RulerSlider
          v-if="parameter(c)"
          :label="c.label" :value="value(c)" :least="parameter(c)?.least ?? 0" :most="parameter(c)?.most ?? 1" :neutral="parameter(c)?.neutral ?? 0"
          :unit="c.unit ?? ''" :digits="c.digits" :sign="c.sign ?? false" :scale="c.scale ?? 1"
          @change="emit('change', { [c.name]: $event })" @commit="emit('commit', `${label}: ${c.label.toLowerCase()}`)"
        />
      </template>
      <RulerSlider label="Amount" :value="valueOf(touch.amount)" :least="0" :most="1" :neutral="1" :digits="0" :scale="100" unit="%" @change="emit('change', { amount: $event })" @commit="emit('commit', `${label}: amount`)" />
      <button v-if="controls.some((c) => c.more)" type="button" class="plain more" :aria-expanded="more" @click="more = !more">{{ more ? 'Fewer' : 'Zones and pivot' }}</button>
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
  padding: 6px 10px;
}

.title {
  font-weight: 600;
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
  padding: 0 4px;
  color: var(--t3);
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
