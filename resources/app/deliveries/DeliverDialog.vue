<script setup lang="ts">
import Dialog from 'primevue/dialog';
import { onMounted, ref } from 'vue';
import { api } from '../api/client';
import type { Format, Shot } from '../api/types';
import { useNotices } from '../useNotices';

const props = defineProps<{ shot: Shot }>();
const emit = defineEmits<{ close: []; ordered: [] }>();
const { fail } = useNotices();
const formats = ref<Format[]>([]);
const format = ref('ffv1');
const from = ref(props.shot.from);
const to = ref(props.shot.to);
const sending = ref(false);

onMounted(async () => {
  try {
    formats.value = await api.formats();
  } catch (reason) {
    fail('The formats cannot be shown', reason);
  }
});

async function order(): Promise<void> {
  sending.value = true;
  try {
    await api.deliver(props.shot.id, { format: format.value, from: from.value, to: to.value });
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
  <Dialog :visible="true" modal :header="`Deliver ${shot.name}`" :style="{ width: '480px' }" @update:visible="emit('close')">
    <form class="deliver" @submit.prevent="order">
      <fieldset>
        <legend class="dim">As</legend>
        <label v-for="f in formats" :key="f.name" class="format">
          <input v-model="format" type="radio" name="format" :value="f.name">
          <span><b>{{ f.label }}</b><small class="dim">{{ f.purpose }}</small></span>
        </label>
      </fieldset>
      <div class="span">
        <span class="dim">Frames</span>
        <input v-model.number="from" class="mono" type="number" :min="shot.from" :max="to" aria-label="First frame">
        <span class="dim">to</span>
        <input v-model.number="to" class="mono" type="number" :min="from" :max="shot.to" aria-label="Last frame">
        <span class="dim">{{ to - from + 1 }} frames</span>
      </div>
      <div class="row">
        <button type="button" class="btn" @click="emit('close')">Leave it</button>
        <button type="submit" class="btn main" :disabled="sending || formats.length === 0">Render it</button>
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.deliver {
  display: grid;
  gap: 16px;
}

fieldset {
  display: grid;
  gap: 8px;
  border: 0;
  padding: 0;
}

legend {
  margin-bottom: 8px;
}

.format {
  display: flex;
  gap: 8px;
  align-items: baseline;
  cursor: pointer;
}

.format input {
  accent-color: #a8a8a8;
}

.format span {
  display: grid;
}

.format b {
  font-weight: 500;
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

.span input {
  width: 72px;
  background: var(--g1);
  border: 1px solid var(--g4);
  border-radius: 2px;
  padding: 3px 6px;
}
</style>
