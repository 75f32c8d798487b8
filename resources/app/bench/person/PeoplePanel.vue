<script setup lang="ts">
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';
import PeopleList from './PeopleList.vue';

const { people, panel, store } = useBench();

/** Their areas became nobody's, in this shot too. */
async function removed(): Promise<void> {
  await store.settled();
  if (!store.unsaved.value) await store.load();
}
</script>

<template>
  <SidePanel title="People of this job" @close="panel = null"><PeopleList :people="people" @removed="removed" /></SidePanel>
</template>
