<script setup lang="ts">
/** The head of every screen but the bench: where one is, and what can be done here. */
defineProps<{ trail: { name: string; to: string }[]; title: string; note?: string }>();
</script>

<template>
  <header class="bar">
    <nav aria-label="Where you are">
      <template v-for="step in trail" :key="step.to">
        <RouterLink :to="step.to" class="dim">{{ step.name }}</RouterLink>
        <span class="dim">/</span>
      </template>
    </nav>
    <h1>{{ title }}</h1>
    <span v-if="note" class="dim">{{ note }}</span>
    <span class="grow"></span>
    <slot></slot>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 64px;
  padding: 0 24px;
  border-bottom: 1px solid var(--line);
  white-space: nowrap;
}

nav {
  display: flex;
  gap: 12px;
}

nav a:hover {
  color: var(--t1);
}

nav:empty {
  display: none;
}

h1 {
  overflow: hidden;
  font-size: 20px;
  line-height: 1.3;
  font-weight: 600;
  text-overflow: ellipsis;
}
</style>
