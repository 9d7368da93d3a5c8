<template>
  <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
    <path
      d="M3 11.5 12 4l9 7.5V21H3z"
      fill="none"
      stroke="currentColor"
      stroke-width="1.8"
      stroke-linejoin="round"
    />
    <path
      class="flame"
      d="M12 10.5c2.2 2.2 3 3.4 3 5a3 3 0 0 1-6 0c0-1 .5-1.8 1.3-2.4.1.9.5 1.3 1 1.5-.2-1.6.1-2.9.7-4.1z"
    />
  </svg>
</template>

<style scoped>
.flame {
  fill: var(--ember);
}
</style>
