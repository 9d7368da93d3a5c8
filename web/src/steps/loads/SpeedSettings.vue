<script setup lang="ts">
/** The settings of a load with speeds: names, watts, and the one that counts. */
import { useId } from 'vue'

import type { SpeedTable } from '@/api/client'

import QuantityField from '@/fields/QuantityField.vue'

const props = defineProps<{ table: SpeedTable }>()
const emit = defineEmits<{ change: [table: SpeedTable] }>()
const group = useId()
const MOST_SETTINGS = 8

function setWatts(at: number, power_w: number | null): void {
  const settings = props.table.settings.map((entry, index) =>
    index === at ? { ...entry, power_w: power_w ?? 0 } : entry,
  )
  emit('change', { ...props.table, settings })
}

function rename(at: number, event: Event): void {
  const input = event.target as HTMLInputElement
  const name = input.value.trim().replace(/[,=*]/g, '')
  const old = props.table.settings[at]?.name
  if (!name || name === old || props.table.settings.some((entry) => entry.name === name)) {
    input.value = old ?? ''
    return
  }
  const settings = props.table.settings.map((entry, index) => (index === at ? { ...entry, name } : entry))
  emit('change', { ...props.table, settings, chosen: props.table.chosen === old ? name : props.table.chosen })
}

function add(): void {
  const names = props.table.settings.map((entry) => entry.name)
  const name = ['medium', 'boost'].find((word) => !names.includes(word)) ?? `setting ${names.length + 1}`
  const power_w = props.table.settings.at(-1)?.power_w ?? 0
  emit('change', { ...props.table, settings: [...props.table.settings, { name, power_w }] })
}
</script>

<template>
  <div class="settings">
    <div v-for="(setting, at) in table.settings" :key="setting.name" class="setting">
      <label>
        <input
          type="radio"
          :name="group"
          :checked="table.chosen === setting.name"
          :aria-label="`Use ${setting.name}`"
          @change="emit('change', { ...table, chosen: setting.name })"
        />
        <input
          class="name"
          :value="setting.name"
          maxlength="24"
          :aria-label="`Name of setting ${at + 1}`"
          @change="(event) => rename(at, event)"
        />
      </label>
      <QuantityField
        label="Watts"
        unit="W"
        :value="setting.power_w"
        @change="(value) => setWatts(at, value)"
      />
    </div>
    <button v-if="table.settings.length < MOST_SETTINGS" type="button" class="add" @click="add">
      Add a setting
    </button>
  </div>
</template>

<style scoped>
.settings {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  margin-bottom: 6px;
}

.setting {
  width: 128px;
}

label {
  display: flex;
  gap: 5px;
}

input[type='radio'] {
  accent-color: var(--pine);
}

.name {
  width: 90px;
  border-bottom: 1px solid var(--rule);
}

.add {
  color: var(--pine);
  font-weight: 600;
  padding: 6px 0;
}
</style>
