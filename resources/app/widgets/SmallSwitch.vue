<script setup lang="ts">
defineProps<{ on: boolean; label: string }>();
defineEmits<{ toggle: [] }>();
</script>

<template>
  <button type="button" role="switch" class="plain switch" :class="{ off: !on }" :aria-checked="on" :aria-label="label" @click="$emit('toggle')"></button>
</template>

<style scoped>
.switch {
  position: relative;
  flex: none;
  width: 24px;
  height: 14px;
  border: 1px solid var(--t2);
  border-radius: 8px;
}

.switch::after {
  position: absolute;
  top: 2px;
  right: 2px;
  width: 8px;
  height: 8px;
  background: var(--t1);
  border-radius: 50%;
  content: '';
}

.switch.off {
  border-color: var(--t3);
}

.switch.off::after {
  right: auto;
  left: 2px;
  background: var(--t3);
}
</style>
