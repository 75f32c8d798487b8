<script setup lang="ts">
/** What to deliver as: the format, the size, what is burnt in, what is written beside. */
import Checkbox from 'primevue/checkbox';
import MultiSelect from 'primevue/multiselect';
import Select from 'primevue/select';
import { computed, onMounted, ref, watch } from 'vue';
import { api } from '../api/client';
import type { Format, Wishes } from '../api/types';
import { useNotices } from '../useNotices';
import { BESIDE, HEIGHTS, isPlain, MATTES, NONE } from './wishes';

/** The areas there are to choose mattes of; left out where several shots are delivered. */
const props = defineProps<{ areas?: { id: string; name: string }[] }>();
const wishes = defineModel<Wishes>({ required: true });
const { fail } = useNotices();
const formats = ref<Format[]>([]);
const format = computed(() => formats.value.find((f) => f.name === wishes.value.format));
const set = (change: Partial<Wishes>): void => {
  wishes.value = { ...wishes.value, ...change };
};
watch(() => wishes.value.format, (name) => {
  if (isPlain(name)) set({ height: null, burn: false });
});
const chosen = computed({
  get: () => wishes.value.areas ?? (props.areas ?? []).map((a) => a.id),
  set: (ids: string[]) => set({ areas: ids.length === props.areas?.length ? null : ids }),
});

onMounted(async () => {
  try {
    formats.value = await api.formats();
  } catch (reason) {
    fail('The formats cannot be shown', reason);
  }
});
</script>

<template>
  <div class="choice">
    <label for="delivery-format" class="dim">As</label>
    <div>
      <Select :model-value="wishes.format" input-id="delivery-format" :options="formats" option-label="label" option-value="name" :option-disabled="(f: Format) => !f.there" aria-label="Format" @update:model-value="set({ format: $event })">
        <template #option="{ option }"><span class="format"><b>{{ option.label }}</b><small class="dim">{{ option.there ? option.purpose : 'This machine’s ffmpeg cannot write it.' }}</small></span></template>
      </Select>
      <small class="dim">{{ format?.purpose }}</small>
    </div>
    <span class="dim">Size</span>
    <div class="row">
      <Select :model-value="wishes.height ?? NONE" :options="HEIGHTS" option-label="label" option-value="value" :disabled="isPlain(wishes.format)" aria-label="Size" @update:model-value="set({ height: $event === NONE ? null : $event })" />
      <label class="tick"><Checkbox :model-value="wishes.burn" binary :disabled="isPlain(wishes.format)" @update:model-value="set({ burn: $event })" /> name, frame and timecode burnt in</label>
    </div>
    <span class="dim">Mattes</span>
    <div class="row">
      <Select :model-value="wishes.mattes ?? NONE" :options="MATTES" option-label="label" option-value="value" aria-label="Mattes" @update:model-value="set({ mattes: $event === NONE ? null : $event })" />
      <MultiSelect v-if="wishes.mattes && areas?.length" v-model="chosen" :options="areas" option-label="name" option-value="id" :max-selected-labels="1" :selected-items-label="`{0} of ${areas.length} areas`" :show-toggle-all="false" aria-label="Whose mattes" />
      <small v-else-if="wishes.mattes" class="dim">of every area</small>
    </div>
    <span class="dim">Beside</span>
    <div class="ticks">
      <label v-for="b in BESIDE" :key="b.value" class="tick"><Checkbox :model-value="wishes.beside" :value="b.value" @update:model-value="set({ beside: $event })" /> {{ b.label }}</label>
    </div>
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 10px 12px;
}

.choice > .dim {
  line-height: 28px;
}

.choice > div {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  min-width: 0;
}

.choice > .row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
}

.choice > .ticks {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
  gap: 2px 12px;
}

.format {
  display: grid;
}

.format b {
  font-weight: 500;
}
</style>
