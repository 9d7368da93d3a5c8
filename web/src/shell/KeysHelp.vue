<script setup lang="ts">
import { KEYS } from './keys'

const open = defineModel<boolean>({ required: true })
</script>

<template>
  <v-dialog v-model="open" aria-labelledby="keys-title">
    <v-sheet class="keys" color="sheet">
      <h2 id="keys-title">Keys</h2>
      <table class="ledger">
        <tbody>
          <tr v-for="entry in KEYS" :key="entry.meaning">
            <td class="key figures">{{ entry.keys }}</td>
            <td>{{ entry.meaning }}</td>
          </tr>
        </tbody>
      </table>
      <div class="close"><v-btn color="pine" @click="open = false">Close</v-btn></div>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.keys {
  padding: 20px;
}

h2 {
  margin-bottom: 8px;
}

.close {
  margin-top: 12px;
  text-align: right;
}

.key {
  width: 170px;
  white-space: nowrap;
}
</style>
