<template>
  <main class="missing">
    <h1>There is nothing at this address.</h1>
    <RouterLink class="btn" to="/">To the jobs</RouterLink>
  </main>
</template>

<style scoped>
.missing {
  display: grid;
  gap: 16px;
  place-content: center;
  justify-items: center;
  height: 100%;
}

h1 {
  font-size: 16px;
  font-weight: 500;
}
</style>
