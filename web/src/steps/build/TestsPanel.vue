<script setup lang="ts">
/** Three tests that measure the built thing, each ending in corrections of the plan. */
import BankTests from './BankTests.vue'
import LoadTestPanel from './LoadTestPanel.vue'
</script>

<template>
  <LoadTestPanel />
  <BankTests />
</template>
