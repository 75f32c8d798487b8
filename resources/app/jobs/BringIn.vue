<script setup lang="ts">
/** Which files to bring in, and which of their frames. */
import { useFileDialog } from '@vueuse/core';
import Dialog from 'primevue/dialog';
import InputNumber from 'primevue/inputnumber';
import { computed, ref } from 'vue';
import FolderList from './FolderList.vue';
import type { Span } from './useUploads';

const open = defineModel<boolean>('open', { required: true });
const props = defineProps<{ jobId: number }>();
const emit = defineEmits<{ take: [files: FileList, span: Span]; taken: [] }>();
const from = ref<number | null>(null);
const to = ref<number | null>(null);
const { open: choose, onChange } = useFileDialog({ accept: '.webm,.mkv,.ogv,.ogg,.mp4,.mov,.m4v,.zip', multiple: true, reset: true });
const span = computed((): Span => ({ ...(from.value === null ? {} : { from: from.value }), ...(to.value === null ? {} : { to: to.value }) }));
onChange((files) => {
  if (!files?.length) return;
  emit('take', files, span.value);
  open.value = false;
});
</script>

<template>
  <Dialog v-model:visible="open" modal header="Bring in footage" :style="{ width: '460px' }">
    <div class="bring">
      <p>WebM, Matroska, Ogg, MP4 or MOV, 8 to 12 bit, or a zipped sequence of PNG, TIFF, JPEG, DPX or OpenEXR pictures.</p>
      <div class="span">
        <span class="dim">Frames</span>
        <InputNumber v-model="from" :min="0" :use-grouping="false" placeholder="first" aria-label="First frame" />
        <span class="dim">to</span>
        <InputNumber v-model="to" :min="from ?? 0" :use-grouping="false" placeholder="last" aria-label="Last frame" />
        <span class="dim">leave empty for all</span>
      </div>
      <button type="button" class="btn main pick" @click="choose()">Choose files</button>
      <FolderList v-if="open" :job-id="props.jobId" :span="span" @taken="emit('taken')" />
    </div>
  </Dialog>
</template>

<style scoped>
.bring {
  display: grid;
  gap: 16px;
}

.span {
  display: flex;
  gap: 8px;
  align-items: center;
}

.span :deep(input) {
  width: 72px;
}

.pick {
  justify-self: end;
}
</style>
