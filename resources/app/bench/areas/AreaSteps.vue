<script setup lang="ts">
/** The five steps of the chosen area, one open at a time, each closed one telling in a line what it comes to. */
import Accordion from 'primevue/accordion';
import AccordionContent from 'primevue/accordioncontent';
import AccordionHeader from 'primevue/accordionheader';
import AccordionPanel from 'primevue/accordionpanel';
import type { Component } from 'vue';
import type { Area } from '../../api/types';
import { useBench } from '../bench';
import FollowPanel from '../follow/FollowPanel.vue';
import JudgePanel from '../judge/JudgePanel.vue';
import OutlinePanel from '../outline/OutlinePanel.vue';
import PickPanel from '../pick/PickPanel.vue';
import TreatPanel from '../treat/TreatPanel.vue';
import { STEPS, useStepWords } from './stepWords';

defineProps<{ area: Area }>();
const bench = useBench();
const words = useStepWords(bench);
const PANELS: Component[] = [OutlinePanel, FollowPanel, PickPanel, TreatPanel, JudgePanel];
</script>

<template>
  <Accordion class="steps" lazy :value="bench.areas.step.value" @update:value="bench.areas.step.value = Number($event ?? 0)">
    <AccordionPanel v-for="(name, i) in STEPS" :key="name" :value="i + 1" class="step" :class="{ open: bench.areas.step.value === i + 1 }">
      <AccordionHeader class="line"><em class="mono">{{ i + 1 }}</em><b>{{ name }}</b><span>{{ words[i] }}</span><template #toggleicon><em aria-hidden="true">{{ bench.areas.step.value === i + 1 ? '⌄' : '›' }}</em></template></AccordionHeader>
      <AccordionContent><component :is="PANELS[i]" :area="area" /></AccordionContent>
    </AccordionPanel>
  </Accordion>
</template>

<style scoped>
.steps {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
  scrollbar-color: var(--g4) transparent;
}

.step {
  border-bottom: 1px solid var(--line);
}

.step.open {
  background: var(--g3);
}

.line {
  display: grid;
  grid-template-columns: 20px 62px minmax(0, 1fr) 14px;
  align-items: center;
  width: 100%;
  padding: 8px 12px 8px 16px;
  text-align: left;
}

.line em {
  color: var(--t3);
  font-style: normal;
}

.line b {
  font-weight: 600;
}

.line span {
  overflow: hidden;
  color: var(--t2);
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
