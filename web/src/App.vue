<script setup lang="ts">
import { RouterView } from 'vue-router'

import { useNightTheme } from './shell/useNightTheme'

useNightTheme()
</script>

<template>
  <v-app>
    <RouterView />
  </v-app>
</template>
