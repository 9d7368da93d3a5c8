<script setup lang="ts">
/** Addresses of devices and services: typed here, kept with the installation, and nothing else is asked. */
import { storeToRefs } from 'pinia'
import { computed, watch } from 'vue'

import type { Sources } from '@/api/client'
import { useDesign } from '@/design/store'
import { LONGEST_NAME } from '@/fields/limits'

import { draftOf, useDevices } from './devices'
import { KIND_WORDS } from './words'

defineProps<{ now: string }>()
const { document } = storeToRefs(useDesign())
const store = useDevices()
const { told, standIns, trouble, draft, isChanged } = storeToRefs(store)
const kept = computed(() => told.value?.sources ?? null)
const offered = computed(() => standIns.value?.sources ?? null)
const isOffered = computed(
  () => offered.value && JSON.stringify(offered.value) !== JSON.stringify(kept.value),
)

function lay(sources: Sources | null): void {
  draft.value = draftOf(sources)
  isChanged.value = false
}
watch(kept, (now, before) => {
  if (!isChanged.value && JSON.stringify(now) !== JSON.stringify(before)) lay(now)
})
if (!isChanged.value) lay(kept.value)

function add(): void {
  const taken = new Set(draft.value.devices.map((each) => each.key))
  let number = draft.value.devices.length + 1
  while (taken.has(`d${number}`)) number += 1
  const unit = Math.min(Math.max(0, ...draft.value.devices.map((each) => each.unit)) + 1, 247)
  const last = draft.value.devices.at(-1)
  draft.value.devices.push({
    key: `d${number}`,
    name: `Device ${number}`,
    kind: 'monitor',
    host: last?.host ?? '127.0.0.1',
    port: last?.port ?? 502,
    unit,
  })
  isChanged.value = true
}
function remove(at: number): void {
  draft.value.devices.splice(at, 1)
  isChanged.value = true
}
async function save(): Promise<void> {
  const mail = draft.value.mailHost.trim()
    ? {
        host: draft.value.mailHost.trim(),
        port: Number(draft.value.mailPort),
        sender: draft.value.mailSender.trim(),
        to: draft.value.mailTo
          .split(',')
          .map((each) => each.trim())
          .filter(Boolean),
      }
    : null
  const sources: Sources = {
    every_s: kept.value?.every_s ?? 15,
    devices: draft.value.devices.map((each) => ({
      ...each,
      port: Number(each.port),
      unit: Number(each.unit),
    })),
    warnings: draft.value.warnings.trim() || null,
    certificate: draft.value.certificate,
    outages: draft.value.outages.trim() || null,
    mail,
  }
  if (await store.save(sources, document.value?.name ?? 'House')) isChanged.value = false
}
async function askStandIns(): Promise<void> {
  if (offered.value && (await store.save(offered.value, document.value?.name ?? 'House'))) lay(offered.value)
}
</script>

<template>
  <div>
    <p v-if="isOffered" class="offer">
      <button type="button" data-test="ask-stand-ins" @click="askStandIns">
        {{ kept?.devices.length ? 'Ask the simulated devices instead' : 'Ask the simulated devices' }}
      </button>
      <span class="lesser">{{ standIns?.state?.design }}, in an outage of its own beside this server</span>
    </p>
    <details data-test="sources" :open="isChanged">
      <summary>Addresses</summary>
      <p class="lesser">
        Modbus TCP with SunSpec models. Only what stands here is asked, and only on this machine unless the
        application is started with other hosts allowed.
      </p>
      <div
        v-for="(device, number) in draft.devices"
        :key="device.key"
        class="row"
        :data-test="`source-${number}`"
      >
        <label
          >Name
          <input
            v-model="device.name"
            :maxlength="LONGEST_NAME"
            data-test="source-name"
            @input="isChanged = true"
        /></label>
        <label
          >Kind
          <select v-model="device.kind" data-test="source-kind" @change="isChanged = true">
            <option v-for="(words, kind) in KIND_WORDS" :key="kind" :value="kind">{{ words }}</option>
          </select></label
        >
        <label>Host <input v-model="device.host" data-test="source-host" @input="isChanged = true" /></label>
        <label
          >Port
          <input
            v-model="device.port"
            inputmode="numeric"
            class="short"
            data-test="source-port"
            @input="isChanged = true"
        /></label>
        <label
          >Unit
          <input
            v-model="device.unit"
            inputmode="numeric"
            class="short"
            data-test="source-unit"
            @input="isChanged = true"
        /></label>
        <button type="button" :aria-label="`Remove ${device.name}`" @click="remove(number)">Remove</button>
      </div>
      <p><button type="button" data-test="source-add" @click="add">Add a device</button></p>
      <div class="row" @input="isChanged = true">
        <label class="long"
          >Warnings (Atom list of CAP 1.2)
          <input
            v-model="draft.warnings"
            placeholder="http://127.0.0.1:8791/alerts.atom"
            data-test="source-warnings"
        /></label>
        <label class="long"
          >Outages of the utility (JSON)
          <input
            v-model="draft.outages"
            placeholder="http://127.0.0.1:8791/outages.json"
            data-test="source-outages"
        /></label>
        <label class="long"
          >Certificate that warnings are signed by (PEM)
          <textarea v-model="draft.certificate" rows="2" data-test="source-certificate"></textarea>
        </label>
      </div>
      <div class="row" @input="isChanged = true">
        <label>Mail host <input v-model="draft.mailHost" data-test="source-mail-host" /></label>
        <label
          >Port
          <input v-model="draft.mailPort" inputmode="numeric" class="short" data-test="source-mail-port"
        /></label>
        <label>From <input v-model="draft.mailSender" data-test="source-mail-sender" /></label>
        <label class="long"
          >To, separated by commas <input v-model="draft.mailTo" data-test="source-mail-to"
        /></label>
      </div>
      <p>
        <button type="button" :disabled="!isChanged" data-test="sources-save" @click="save">Save</button>
        <button v-if="isChanged" type="button" class="plain" @click="lay(kept)">Leave as it was</button>
      </p>
    </details>
    <p v-if="trouble" class="wrong" role="alert" data-test="sources-trouble">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 6px 12px;
  margin: 6px 0;
}

label {
  display: grid;
  font-size: 12.5px;
  color: var(--slate);
}

label.long {
  flex: 1 1 300px;
}

input,
select,
textarea {
  min-height: 40px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  padding: 0 8px;
  font-size: 15px;
  min-width: 0;
}

.short {
  width: 84px;
}

summary {
  cursor: pointer;
}

button {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
  font-weight: 600;
}

button:disabled {
  opacity: 0.5;
}

.plain {
  border: 0;
  font-weight: 400;
  text-decoration: underline;
}

.offer {
  margin: 6px 0;
}

.offer .lesser {
  margin-left: 10px;
}

.wrong {
  color: var(--wine);
}

p {
  margin: 4px 0;
}
</style>
