<script setup lang="ts">
/** What to deliver of a shot: the format and the frames. */
import InputNumber from 'primevue/inputnumber';
import { ref } from 'vue';
import { api } from '../api/client';
import type { Shot } from '../api/types';
import { useNotices } from '../useNotices';
import FormatChoice from './FormatChoice.vue';

const props = defineProps<{ shot: Shot }>();
const emit = defineEmits<{ close: []; ordered: [] }>();
const { fail } = useNotices();
const format = ref('ffv1');
const from = ref(props.shot.from);
const to = ref(props.shot.to);
const sending = ref(false);
/** Sent again after a lost answer, the same order is not placed twice. */
const slip = Math.random().toString(36).slice(2, 12);

async function order(): Promise<void> {
  sending.value = true;
  try {
    await api.deliver(props.shot.id, { format: format.value, from: from.value, to: to.value, slip: `${slip} ${format.value} ${from.value} ${to.value}` });
    emit('ordered');
    emit('close');
  } catch (reason) {
    fail('The delivery was not taken', reason);
  } finally {
    sending.value = false;
  }
}
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
