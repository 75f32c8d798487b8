<script setup lang="ts">
import SidePanel from '../../widgets/SidePanel.vue';
import { useBench } from '../bench';
import { SHORTCUTS } from './shortcuts';

const { panel } = useBench();
</script>

<template>
  <SidePanel title="Keys" @close="panel = null">
    <dl><template v-for="[key, does] in SHORTCUTS" :key="key"><dt class="mono">{{ key }}</dt><dd>{{ does }}</dd></template></dl>
  </SidePanel>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 4px 12px;
}

dt {
  color: var(--t1);
}

dd {
  margin: 0;
  color: var(--t2);
}
</style>
