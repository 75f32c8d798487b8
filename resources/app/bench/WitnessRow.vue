<script setup lang="ts">
import type { Witness } from './useWitnesses';

defineProps<{ witnesses: Witness[]; urls: Map<number, string>; frame: number; behind: boolean; hint: string }>();
defineEmits<{ go: [frame: number] }>();
</script>

<template>
  <div class="row" :class="{ behind }">
    <button v-for="w in witnesses" :key="w.frame" type="button" class="plain witness" :class="{ now: w.frame === frame, weak: w.weak }" :aria-label="`Frame ${w.frame}${w.weak ? ', weak' : ''}`" @click="$emit('go', w.frame)">
      <img v-if="urls.get(w.frame)" :src="urls.get(w.frame)" alt="">
      <i v-else></i>
      <span class="mono">{{ w.frame }}<template v-if="w.weak"> weak ▲</template></span>
    </button>
    <p v-if="witnesses.length === 0" class="dim">{{ hint }}</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 8px;
  height: 112px;
  padding: 0 16px 8px;
  background: var(--g0);
}

.witness {
  flex: 1;
  min-width: 0;
}

img,
i {
  display: block;
  width: 100%;
  height: 80px;
  object-fit: cover;
  background: var(--g1);
  border: 1px solid #000;
}

.witness:hover img {
  border-color: var(--t3);
}

.witness.now img {
  outline: 2px solid var(--t1);
  outline-offset: 1px;
}

span {
  display: block;
  margin-top: 4px;
  color: var(--t3);
  font-size: 11px;
  line-height: 16px;
  white-space: nowrap;
}

.weak span {
  color: var(--t1);
  font-weight: 600;
}

p {
  align-self: center;
  width: 100%;
  text-align: center;
}
</style>
