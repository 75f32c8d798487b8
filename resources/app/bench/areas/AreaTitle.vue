<script setup lang="ts">
/** The chosen area's name, to be changed in place, its switch, and what can be done to it as a whole. */
import InputText from 'primevue/inputtext';
import Menu from 'primevue/menu';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, nextTick, ref } from 'vue';
import type { Area } from '../../api/types';
import { useBench } from '../bench';

const props = defineProps<{ area: Area }>();
const { areas, people } = useBench();
const menu = ref<InstanceType<typeof Menu>>();
const naming = ref(false);
const name = ref('');
const field = ref<{ $el: HTMLInputElement }>();
const more = defineModel<boolean>('more', { required: true });
const index = computed(() => areas.all.value.findIndex((a) => a.id === props.area.id));
const acts = computed(() => [
  { label: 'Rename', command: () => void rename() },
  { label: 'Duplicate with its motion', command: () => areas.duplicate(true) },
  { label: 'Duplicate without motion', command: () => areas.duplicate(false) },
  { label: 'Move earlier', disabled: index.value === 0, command: () => areas.arrange(props.area.id, index.value - 1) },
  { label: 'Move later', disabled: index.value === areas.all.value.length - 1, command: () => areas.arrange(props.area.id, index.value + 1) },
  { separator: true },
  { label: 'Remove', command: () => areas.remove() },
]);
const person = computed(() => people.list.value.find((p) => p.slug === props.area.person)?.name ?? '');

async function rename(): Promise<void> {
  name.value = props.area.name;
  naming.value = true;
  await nextTick();
  field.value?.$el.select();
}
function take(): void {
  if (!naming.value) return;
  naming.value = false;
  areas.rename(name.value.trim());
}
</script>

<template>
  <header class="title">
    <ToggleSwitch :model-value="area.on" :aria-label="`${area.name} on`" @update:model-value="areas.toggle()" />
    <InputText v-if="naming" ref="field" v-model="name" class="field" maxlength="80" aria-label="Name of the area" @keydown.enter.prevent="take" @keydown.escape.stop="naming = false" @blur="take" />
    <h2 v-else v-tooltip.bottom="'Double-click to rename'" @dblclick="rename">{{ area.name }}</h2>
    <span v-if="person && !naming" class="dim who">{{ person }}</span>
    <span class="grow"></span>
    <button type="button" class="plain live" :aria-expanded="more" @click="more = !more"><span class="mono">live {{ area.live.from }}–{{ area.live.to }}</span><span class="unseen"> person, part, strength and live span</span> <span aria-hidden="true">{{ more ? '⌄' : '›' }}</span></button>
    <button type="button" class="plain icon" aria-label="More for this area" aria-haspopup="menu" @click="menu?.toggle($event)">⋯</button>
    <Menu ref="menu" :model="acts" popup append-to="main" />
  </header>
</template>

<style scoped>
.title {
  display: flex;
  flex: none;
  gap: 8px;
  align-items: center;
  height: 41px;
  padding: 0 8px 0 16px;
  border-bottom: 1px solid var(--line);
}

h2 {
  min-width: 0;
  overflow: hidden;
  font-size: 16px;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.who {
  white-space: nowrap;
}

.field {
  width: 140px;
}

.live {
  height: 24px;
  color: var(--t2);
  white-space: nowrap;
}
</style>
