<script setup lang="ts">
/** What to deliver of a shot: the format and the frames. */
import InputNumber from 'primevue/inputnumber';
import { ref } from 'vue';
import { api } from '../api/client';
import type { Shot } from '../api/types';
import FormatChoice from './FormatChoice.vue';
import { useOrder } from './useOrder';

const props = defineProps<{ shot: Shot }>();
const emit = defineEmits<{ close: []; ordered: [] }>();
const { sending, place } = useOrder('The delivery was not taken', () => {
  emit('ordered');
  emit('close');
});
const format = ref('ffv1');
const from = ref(props.shot.from);
const to = ref(props.shot.to);

const order = (): Promise<void> => place({ format: format.value, from: from.value, to: to.value }, (wanted) => api.deliver(props.shot.id, wanted));
</script>

<template>
  <form class="deliver" @submit.prevent="order">
    <FormatChoice v-model="format" />
    <div class="span">
      <span class="dim">Frames</span>
      <InputNumber v-model="from" :min="shot.from" :max="to" :use-grouping="false" aria-label="First frame" />
      <span class="dim">to</span>
      <InputNumber v-model="to" :min="from" :max="shot.to" :use-grouping="false" aria-label="Last frame" />
      <span class="dim">{{ to - from + 1 }} frames</span>
    </div>
    <div class="row">
      <button type="button" class="btn" @click="emit('close')">Leave it</button>
      <button type="submit" class="btn main" :disabled="sending">Render it</button>
    </div>
  </form>
</template>

<style scoped>
.deliver {
  display: grid;
  gap: 16px;
}

.span,
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}

.row {
  justify-content: flex-end;
}

.span :deep(input) {
  width: 72px;
}
</style>
