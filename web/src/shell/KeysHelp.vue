<script setup lang="ts">
const open = defineModel<boolean>({ required: true })

const keys: readonly [string, string][] = [
  ['N', 'new row: go to the entry line'],
  ['[  and  ]', 'previous and next step'],
  ['Ctrl + Z', 'undo, across the whole design'],
  ['Ctrl + Shift + Z', 'redo'],
  ['↑ ↓, Enter', 'move through a table as in a spreadsheet'],
  ['Esc', 'leave a cell without a change'],
  ['← →, Space', 'in painted hours: move, and switch an hour on or off'],
  ['Shift + ← →', 'in painted hours: paint along'],
  ['← → on the strip', 'move the reading cursor; Enter pins it'],
  ['/', 'seek a typical device'],
  ['Alt + ↑ ↓', 'in the ledger: move the row, over its tier’s edge into the next'],
  ['Alt + 1 … 4', 'in the ledger: to Life, Keep, Ease, Spare'],
  ['Delete', 'on a row’s handle: delete the row or the selected rows'],
  ['?', 'this list'],
]
</script>

<template>
  <v-dialog v-model="open" aria-labelledby="keys-title">
    <v-sheet class="pa-5" color="sheet">
      <h2 id="keys-title" class="mb-2">Keys</h2>
      <table class="ledger">
        <tbody>
          <tr v-for="[key, meaning] in keys" :key="key">
            <td class="key figures">{{ key }}</td>
            <td>{{ meaning }}</td>
          </tr>
        </tbody>
      </table>
      <div class="text-right mt-3"><v-btn color="pine" @click="open = false">Close</v-btn></div>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.key {
  width: 170px;
  white-space: nowrap;
}
</style>
