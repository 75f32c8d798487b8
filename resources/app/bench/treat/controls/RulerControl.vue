<script setup lang="ts">
import { computed } from 'vue';
import RulerSlider from '../../../widgets/RulerSlider.vue';
import { useBench } from '../../bench';
import { markOf } from '../../recipe/keyed';
import type { RulerControl } from '../touches';
import { useTouch } from '../useTouch';

const props = defineProps<{ control: RulerControl }>();
const { playhead } = useBench();
const { number, keyed, value, set, commit, toggleKey } = useTouch();
const bounds = computed(() => number(props.control.name));
const words = computed(() => props.control.label.toLowerCase());
</script>

<template>
  <RulerSlider
    v-if="bounds" :label="control.label" :value="value(control.name)" :least="bounds.least" :most="bounds.most" :neutral="bounds.neutral"
    :unit="control.unit ?? ''" :digits="control.digits" :sign="control.sign ?? false" :scale="control.scale ?? 1" :mark="markOf(keyed(control.name), playhead.frame.value)"
    @change="set({ [control.name]: $event })" @commit="commit(words)" @key="toggleKey(control.name, words)"
  />
</template>
