<script setup lang="ts">
/** A touch: its switch, side and order, folded to a line or unfolded to its controls. */
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref } from 'vue';
import type { Recipe, Touch } from '../../api/types';
import RulerSlider from '../../widgets/RulerSlider.vue';
import { useBench } from '../bench';
import { hold } from '../picture/drag';
import { markOf } from '../recipe/keyed';
import TouchControls from './controls/TouchControls.vue';
import { TOUCHES, labelOf } from './touches';
import { provideTouch } from './useTouch';

const props = defineProps<{ touch: Touch; where: string; touches: (recipe: Recipe) => Touch[]; first: boolean; last: boolean; unfolded: boolean }>();
const emit = defineEmits<{ remove: []; move: [by: number]; copy: []; grab: [event: PointerEvent] }>();

const { store, kinds, playhead, treating } = useBench();
const kind = computed(() => kinds.find((k) => k.name === props.touch.kind));
const words = computed(() => TOUCHES[props.touch.kind]);
const label = computed(() => labelOf(props.touch.kind));
const open = ref(props.unfolded);
if (!open.value) treating.fold(props.touch.id);
const isNeutral = (name: string): boolean => JSON.stringify(props.touch[name]) === JSON.stringify(kind.value?.parameters.find((p) => p.name === name)?.neutral);
const more = ref((words.value?.controls ?? []).some((c) => c.more && !isNeutral(c.name)));

function change(settings: Partial<Touch>): void {
  store.pull((recipe) => {
    const own = props.touches(recipe).find((t) => t.id === props.touch.id);
    if (own) Object.assign(own, settings);
  }, props.touch);
}
const commit = (what: string): void => void store.commit(`${props.where}, ${what}`);
const own = provideTouch({ touch: computed(() => props.touch), kind, change, commit });

function toggleOpen(): void {
  open.value = !open.value;
  (open.value ? treating.unfold : treating.fold)(props.touch.id);
}
function toggleSide(): void {
  const side = props.touch.side === 'inside' ? 'outside' : 'inside';
  change({ side });
  commit(`${label.value} ${side}`);
}
function toggleOn(): void {
  const on = !props.touch.on;
  change({ on });
  commit(`${label.value} ${on ? 'on' : 'off'}`);
}
function lookWithout(e: PointerEvent): void {
  treating.without.value = props.touch.id;
  hold(e, () => undefined, () => (treating.without.value = null));
}
/** By the keyboard it goes to and fro. */
function keyWithout(): void {
  treating.without.value = treating.without.value === null ? props.touch.id : null;
}
</script>

<template>
  <article class="touch" :class="{ off: !touch.on }" :data-touch="touch.kind" :aria-label="label" @pointerdown="treating.current.value = touch.id">
    <header>
      <span class="grip" title="Drag to another place" data-grip aria-hidden="true" @pointerdown="emit('grab', $event)">⁝</span>
      <ToggleSwitch :model-value="touch.on" :aria-label="`${label} on`" @update:model-value="toggleOn" />
      <button type="button" class="plain title" :aria-expanded="open" @click="toggleOpen">{{ label }}</button>
      <button v-if="touch.side && !kind?.inArea" type="button" class="plain side" :aria-label="`Acts ${touch.side}; change`" @click="toggleSide">{{ touch.side }}</button>
      <span class="grow"></span>
      <button v-tooltip.bottom="'Hold to see it without'" type="button" class="plain icon" :aria-label="`Hold to see it without ${label}`" :aria-pressed="treating.without.value === touch.id" @pointerdown.prevent="lookWithout" @keydown.enter.prevent="keyWithout" @keydown.space.prevent="keyWithout">○</button>
      <button v-if="!first" v-tooltip.bottom="'Earlier'" type="button" class="plain icon" :aria-label="`Move ${label} earlier`" @click="emit('move', -1)">↑</button>
      <button v-if="!last" v-tooltip.bottom="'Later'" type="button" class="plain icon" :aria-label="`Move ${label} later`" @click="emit('move', 1)">↓</button>
      <button v-tooltip.bottom="'Copy'" type="button" class="plain icon" :aria-label="`Copy ${label}`" @click="emit('copy')"><svg width="11" height="11" viewBox="0 0 11 11" aria-hidden="true"><path d="M3.5 3.5h7v7h-7zM7.5 3.5v-3h-7v7h3" /></svg></button>
      <button v-tooltip.bottom="'Remove'" type="button" class="plain icon" :aria-label="`Remove ${label}`" @click="emit('remove')">×</button>
    </header>
    <div v-if="open" class="controls">
      <TouchControls :more="more" />
      <RulerSlider label="Amount" :value="own.value('amount')" :least="0" :most="1" :neutral="1" :digits="0" :scale="100" unit="%" :mark="markOf(touch.amount, playhead.frame.value)" @change="own.set({ amount: $event })" @commit="own.commit('amount')" @key="own.toggleKey('amount', 'amount')" />
      <button v-if="words?.more" type="button" class="plain more" :aria-expanded="more" @click="more = !more">{{ more ? 'Fewer' : words.more }}</button>
    </div>
  </article>
</template>

<style scoped>
.touch {
  container-type: inline-size;
  background: var(--g2);
  border: 1px solid var(--line);
  border-radius: 2px;
}

header {
  display: flex;
  gap: 4px;
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
  min-height: 24px;
  padding: 0 4px;
  font-weight: 600;
  white-space: nowrap;
}

.off .title {
  min-height: 24px;
  padding: 0 4px;
  color: var(--t3);
}

.side {
  min-height: 24px;
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

.icon {
  color: var(--t3);
}

.icon svg {
  fill: none;
  stroke: currentcolor;
}

@container (max-width: 300px) {
  header {
    gap: 1px;
  }

  .side {
    padding: 0 3px;
  }

  .icon {
    width: 22px;
  }
}

.icon:hover {
  color: var(--t1);
}

.controls {
  padding: 0 10px 6px;
}

.more {
  min-height: 24px;
  padding: 2px 0;
  color: var(--t3);
  font-size: 12px;
}

.more:hover {
  color: var(--t1);
}
</style>
