<script setup lang="ts">
/** Which files to bring in, and which of their frames. */
import { useFileDialog } from '@vueuse/core';
import Dialog from 'primevue/dialog';
import InputNumber from 'primevue/inputnumber';
import { ref } from 'vue';
import type { Span } from './useUploads';

const open = defineModel<boolean>('open', { required: true });
const emit = defineEmits<{ take: [files: FileList, span: Span] }>();
const from = ref<number | null>(null);
const to = ref<number | null>(null);
const { open: choose, onChange } = useFileDialog({ accept: '.webm,.mkv,.ogv,.ogg,.mp4,.mov,.m4v,.zip', multiple: true, reset: true });
onChange((files) => {
  if (!files?.length) return;
  emit('take', files, { ...(from.value === null ? {} : { from: from.value }), ...(to.value === null ? {} : { to: to.value }) });
  open.value = false;
});
</script>

<template>
  <Dialog v-model:visible="open" modal header="Bring in footage" :style="{ width: '460px' }">
    <div class="bring">
      <p>WebM, Matroska, Ogg, MP4 or MOV, 8 to 12 bit, or a zipped PNG or TIFF sequence.</p>
      <div class="span">
        <span class="dim">Frames</span>
        <InputNumber v-model="from" :min="0" :use-grouping="false" placeholder="first" aria-label="First frame" />
        <span class="dim">to</span>
        <InputNumber v-model="to" :min="from ?? 0" :use-grouping="false" placeholder="last" aria-label="Last frame" />
        <span class="dim">leave empty for all</span>
      </div>
      <button type="button" class="btn main pick" @click="choose()">Choose files</button>
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
