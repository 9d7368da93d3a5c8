<script setup lang="ts">
import { WORDS, type Severity } from './severity'

defineProps<{ severity: Severity }>()

/** Stop an octagon, Mend a triangle, Mind a lozenge, Good a disc. */
const SHAPES: Record<Severity, string> = {
  stop: 'M4 .5h4L11.5 4v4L8 11.5H4L.5 8V4z',
  mend: 'M6 .8 11.6 11H.4z',
  mind: 'M6 .6 11.4 6 6 11.4.6 6z',
  good: 'M6 1.5a4.5 4.5 0 1 0 0 9 4.5 4.5 0 0 0 0-9z',
}
</script>

<template>
  <svg
    class="mark"
    :class="severity"
    viewBox="0 0 12 12"
    width="11"
    height="11"
    role="img"
    :aria-label="WORDS[severity]"
  >
    <path :d="SHAPES[severity]" />
  </svg>
</template>

<style scoped>
.mark {
  flex: none;
}

.stop {
  fill: var(--wine);
}

.mend {
  fill: var(--ember);
}

.mind {
  fill: var(--sun);
}

.good {
  fill: var(--pine);
}
</style>
