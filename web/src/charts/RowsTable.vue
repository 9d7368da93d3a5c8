<script setup lang="ts">
/** The numbers of a picture as a plain table: a header, then rows; numbers stand right. */
defineProps<{ rows: readonly (readonly (string | number)[])[] }>()
</script>

<template>
  <table class="ledger">
    <thead>
      <tr>
        <th v-for="(title, column) in rows[0]" :key="column" scope="col" :class="{ number: column > 0 }">
          {{ title }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(row, at) in rows.slice(1)" :key="at">
        <td v-for="(value, column) in row" :key="column" :class="{ number: typeof value === 'number' }">
          {{ value }}
        </td>
      </tr>
    </tbody>
  </table>
</template>
