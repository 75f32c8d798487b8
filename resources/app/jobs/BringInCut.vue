<script setup lang="ts">
/** Which cut to bring in, and how much is kept on either side of its events; what came of it is told. */
import { useFileDialog } from '@vueuse/core';
import Dialog from 'primevue/dialog';
import InputNumber from 'primevue/inputnumber';
import Select from 'primevue/select';
import { ref, watch } from 'vue';
import { api } from '../api/client';
import { useTakenIn } from './useTakenIn';

const props = defineProps<{ jobId: number }>();
const open = defineModel<boolean>('open', { required: true });
const emit = defineEmits<{ done: [] }>();

const RATES = [['23.976', '24000/1001'], ['24', '24/1'], ['25', '25/1'], ['29.97', '30000/1001'], ['30', '30/1'], ['50', '50/1'], ['59.94', '60000/1001']].map(([label, value]) => ({ label, value }));
const rate = ref('24/1');
const handles = ref(12);
const { doing, told, problem, send } = useTakenIn(props.jobId, (upload) => api.takeCut(upload, { rate: rate.value, handles: handles.value }), () => emit('done'));
watch(open, () => {
  if (doing.value) return;
  told.value = [];
  problem.value = null;
});

const { open: choose, onChange } = useFileDialog({ accept: '.otio,.edl', multiple: false, reset: true });
onChange((files) => {
  if (files?.[0]) void send(files[0]);
});
</script>

<template>
  <Dialog v-model:visible="open" modal header="Bring in a cut" :style="{ width: '480px' }">
    <div class="bring">
      <ul v-if="told.length" class="told" role="status"><li v-for="(sentence, i) in told" :key="i">{{ sentence }}</li></ul>
      <template v-else>
        <p>An OpenTimelineIO file or an edit decision list (CMX 3600). Its events become shots in the order of the cut; a new version of a cut moves, trims and adds, and takes no treatment away.</p>
        <div class="row"><span class="dim">Handles</span><InputNumber v-model="handles" :min="0" :max="1000" :use-grouping="false" aria-label="Frames kept on either side" /><span class="dim">frames on either side</span></div>
        <div class="row"><span class="dim">Rate</span><Select v-model="rate" :options="RATES" option-label="label" option-value="value" aria-label="Rate of an edit decision list" /><span class="dim">of an edit decision list, which does not tell it</span></div>
      </template>
      <p v-if="problem" role="alert">▲ {{ problem }}</p>
      <p v-if="doing" class="dim">{{ doing }} It goes on when this is closed.</p>
      <div class="row acts">
        <button v-if="told.length" type="button" class="btn main" @click="open = false">Done</button>
        <button v-else type="button" class="btn main" :disabled="doing !== null" @click="choose()">Choose a cut</button>
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.bring {
  display: grid;
  gap: 14px;
}

.row {
  display: flex;
  gap: 8px;
  align-items: center;
}

.row :deep(input) {
  width: 64px;
}

.row > .dim:first-child {
  width: 60px;
}

.acts {
  justify-content: flex-end;
}

.told {
  display: grid;
  gap: 4px;
  max-height: 260px;
  padding-left: 18px;
  overflow-y: auto;
}
</style>
