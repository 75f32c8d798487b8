<script setup lang="ts">
/** The controls of a touch, by its kind. */
import { computed, type Component } from 'vue';
import { TOUCHES, type Control } from '../touches';
import { useTouch } from '../useTouch';
import BalanceRulers from './BalanceRulers.vue';
import CdlControl from './CdlControl.vue';
import ChoiceControl from './ChoiceControl.vue';
import CurveEditor from './CurveEditor.vue';
import FileControl from './FileControl.vue';
import HueBand from './HueBand.vue';
import HueControl from './HueControl.vue';
import MeasuredControl from './MeasuredControl.vue';
import RulerControl from './RulerControl.vue';
import TargetControl from './TargetControl.vue';

const props = defineProps<{ more: boolean }>();
const { touch } = useTouch();
const controls = computed<Control[]>(() => (TOUCHES[touch.value.kind]?.controls ?? []).filter((c) => !c.more || props.more));
const OF: Record<Control['type'], Component> = {
  ruler: RulerControl,
  choice: ChoiceControl,
  balance: BalanceRulers,
  curves: CurveEditor,
  hues: HueBand,
  hue: HueControl,
  target: TargetControl,
  cdl: CdlControl,
  cube: FileControl,
  footage: FileControl,
  grey: MeasuredControl,
  whites: MeasuredControl,
  cover: MeasuredControl,
};
</script>

<template>
  <component :is="OF[c.type]" v-for="c in controls" :key="`${c.type} ${c.name}`" :control="c" />
</template>
