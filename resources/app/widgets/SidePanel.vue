<script setup lang="ts">
/** What speaks of the picture slides over the right column and leaves the picture alone. Esc closes it. */
defineProps<{ title: string }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <section class="side" :aria-label="title" @keydown.escape.stop="emit('close')">
    <header><h2>{{ title }}</h2><span class="grow"></span><button type="button" class="plain icon" :aria-label="`Close: ${title}`" @click="emit('close')">×</button></header>
    <div class="body" tabindex="0"><slot></slot></div>
    <footer v-if="$slots.acts"><slot name="acts"></slot></footer>
  </section>
</template>

<style scoped>
.side {
  position: absolute;
  inset: 0;
  z-index: 4;
  display: flex;
  flex-direction: column;
  background: var(--g2);
  animation: in 0.12s ease-out;
}

@keyframes in {
  from {
    transform: translateX(24px);
    opacity: 0;
  }
}

@media (prefers-reduced-motion: reduce) {
  .side {
    animation: none;
  }
}

header {
  display: flex;
  flex: none;
  align-items: center;
  height: 41px;
  padding: 0 8px 0 16px;
  border-bottom: 1px solid var(--line);
}

h2 {
  font-size: 16px;
  font-weight: 600;
}

.body {
  flex: 1;
  min-height: 0;
  padding: 12px 16px;
  overflow-y: auto;
  scrollbar-width: thin;
  scrollbar-color: var(--g4) transparent;
}

footer {
  display: flex;
  flex: none;
  gap: 8px;
  align-items: center;
  justify-content: flex-end;
  padding: 10px 16px;
  border-top: 1px solid var(--line);
}
</style>
