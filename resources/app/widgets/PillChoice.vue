<script setup lang="ts" generic="T">
/** One of a few words side by side. With `off` the chosen one can be let go again, which chooses null. */
import SelectButton from 'primevue/selectbutton';

export interface Pill<V> { label: string; value: V; hint?: string; disabled?: boolean; marked?: boolean }

defineProps<{ options: Pill<T>[]; value: T | null; label: string; off?: boolean }>();
defineEmits<{ choose: [value: T | null] }>();
</script>

<template>
  <SelectButton
    class="pills" :model-value="value" :options="options" option-label="label" option-value="value" option-disabled="disabled" :allow-empty="off ?? false" :aria-label="label"
    @update:model-value="$emit('choose', $event)"
  >
    <template #option="{ option }"><span v-tooltip.bottom="(option as Pill<T>).hint ?? ''">{{ (option as Pill<T>).label }}<sup v-if="(option as Pill<T>).marked">•</sup></span></template>
  </SelectButton>
</template>

<style scoped>
sup {
  line-height: 0;
}
</style>
