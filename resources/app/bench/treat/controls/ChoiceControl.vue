<script setup lang="ts">
import { computed } from 'vue';
import PillChoice from '../../../widgets/PillChoice.vue';
import type { ChoiceControl } from '../touches';
import { useTouch } from '../useTouch';

const props = defineProps<{ control: ChoiceControl }>();
const { touch, change, commit } = useTouch();
const options = computed(() => Object.entries(props.control.words).map(([value, label]) => ({ value, label })));

function choose(word: string | null): void {
  if (word === null) return;
  change({ [props.control.name]: word });
  commit((props.control.words[word] ?? word).toLowerCase());
}
</script>

<template>
  <div class="line"><span class="label">{{ control.label }}</span><PillChoice :options="options" :value="String(touch[control.name])" :label="control.label" @choose="choose" /></div>
</template>

<style scoped src="./controls.css"></style>
