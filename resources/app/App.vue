<script setup lang="ts">
import ConfirmDialog from 'primevue/confirmdialog';
import Toast from 'primevue/toast';
import { useToast } from 'primevue/usetoast';
import type { ToastMessageOptions } from 'primevue/toast';
import type { NoticeAct } from './useNotices';

interface Notice extends ToastMessageOptions { summary: string; detail: string; act?: NoticeAct }

const toast = useToast();
function act(notice: Notice): void {
  notice.act?.act();
  toast.remove(notice);
}
</script>

<template>
  <!-- Another shot is another bench. -->
  <RouterView :key="$route.path" />
  <Toast position="bottom-right">
    <template #message="{ message }">
      <div class="notice">
        <span class="p-toast-summary">{{ (message as Notice).summary }}</span>
        <span v-if="(message as Notice).detail" class="p-toast-detail">{{ (message as Notice).detail }}</span>
        <button v-if="(message as Notice).act" type="button" class="btn small" @click="act(message as Notice)">{{ (message as Notice).act?.words }}</button>
      </div>
    </template>
  </Toast>
  <ConfirmDialog :style="{ width: '400px' }" />
</template>

<style scoped>
.notice {
  display: grid;
  flex: 1;
  gap: 4px;
  justify-items: start;
}
</style>

<style>
/* Over the scope, which nobody presses; what is under it takes the pointer all the same. */
.p-toast.p-toast-bottom-right {
  right: 12px;
  bottom: 56px;
  width: 320px;
  pointer-events: none;
}

.p-toast-message button {
  pointer-events: auto;
}
</style>
