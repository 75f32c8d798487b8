<script setup lang="ts">
/** What to deliver as. */
import RadioButton from 'primevue/radiobutton';
import { onMounted, ref } from 'vue';
import { api } from '../api/client';
import type { Format } from '../api/types';
import { useNotices } from '../useNotices';

const format = defineModel<string>({ required: true });
const { fail } = useNotices();
const formats = ref<Format[]>([]);

onMounted(async () => {
  try {
    formats.value = await api.formats();
  } catch (reason) {
    fail('The formats cannot be shown', reason);
  }
});
</script>

<template>
  <fieldset>
    <legend class="dim">As</legend>
    <label v-for="f in formats" :key="f.name" class="format">
      <RadioButton v-model="format" name="format" :value="f.name" />
      <span><b>{{ f.label }}</b><small class="dim">{{ f.purpose }}</small></span>
    </label>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 8px;
  border: 0;
  padding: 0;
}

legend {
  margin: 0 0 8px -2px;
  padding: 0 2px;
}

.format {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  min-height: 24px;
  cursor: pointer;
}

.format span {
  display: grid;
}

.format b {
  font-weight: 500;
}
</style>
