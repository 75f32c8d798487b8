<script setup lang="ts">
/** What to deliver of a shot: the format and the frames. */
import InputNumber from 'primevue/inputnumber';
import { computed, ref } from 'vue';
import { api } from '../api/client';
import type { Shot, Wishes } from '../api/types';
import FormatChoice from './FormatChoice.vue';
import { useOrder } from './useOrder';
import { usual } from './wishes';

const props = defineProps<{ shot: Shot; areas?: { id: string; name: string }[] }>();
const emit = defineEmits<{ close: []; ordered: [] }>();
const { sending, place } = useOrder('The delivery was not taken', () => {
  emit('ordered');
  emit('close');
});
const { handles: _handles, name: _name, ...plain } = usual();
const wishes = ref<Wishes>(plain);
const from = ref(props.shot.from);
const to = ref(props.shot.to);
const own = computed(() => props.areas ?? (props.shot.progress?.areas ?? []).map((a) => ({ id: a.id, name: a.name })));

const order = (): Promise<void> => place({ ...wishes.value, from: from.value, to: to.value }, (wanted) => api.deliver(props.shot.id, wanted));
</script>

<template>
  <form class="deliver" @submit.prevent="order">
    <FormatChoice v-model="wishes" :areas="own" />
    <div class="span">
      <span class="dim word">Frames</span>
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
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}

.span,
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}

.word {
  width: 68px;
}

.row {
  justify-content: flex-end;
}

.span :deep(input) {
  width: 64px;
}
</style>
