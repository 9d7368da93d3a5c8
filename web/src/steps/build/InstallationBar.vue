<script setup lang="ts">
/** Which installation of the design is being built, and who signs with which instrument. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId } from 'vue'

import { LONGEST_NAME } from '@/fields/limits'
import FieldFrame from '@/fields/FieldFrame.vue'

import { useBuild } from './build'

const build = useBuild()
const { installations, current, who, instrument } = storeToRefs(build)
const isNaming = ref(false)
const name = ref('')
const ids = { name: useId(), who: useId(), instrument: useId(), which: useId() }
const items = computed(() => installations.value.map((entry) => ({ value: entry.id, title: entry.name })))

function begin(): void {
  const typed = name.value.trim()
  if (!typed) return
  name.value = ''
  isNaming.value = false
  void build.begin(typed)
}
</script>

<template>
  <div class="bar">
    <template v-if="current && !isNaming">
      <FieldFrame label="Installation" :for="ids.which">
        <v-select
          :id="ids.which"
          class="words"
          :model-value="current.id"
          :items="items"
          aria-label="Installation"
          data-test="installation"
          @update:model-value="build.choose"
        />
      </FieldFrame>
      <button type="button" class="link" data-test="another-installation" @click="isNaming = true">
        Another
      </button>
    </template>
    <template v-else>
      <FieldFrame
        :label="current ? 'Name of the other installation' : 'Begin the record: where it is built'"
        :for="ids.name"
      >
        <v-text-field
          :id="ids.name"
          v-model="name"
          class="words"
          :maxlength="LONGEST_NAME"
          placeholder="a name, an address"
          data-test="installation-name"
          @keydown.enter="begin"
          @keydown.esc="isNaming = false"
        />
      </FieldFrame>
      <v-btn color="pine" :disabled="!name.trim()" data-test="begin-installation" @click="begin">Begin</v-btn>
    </template>
    <FieldFrame label="Who signs" :for="ids.who">
      <v-text-field :id="ids.who" v-model="who" class="words" :maxlength="LONGEST_NAME" data-test="who" />
    </FieldFrame>
    <FieldFrame label="With which meter" :for="ids.instrument">
      <v-text-field
        :id="ids.instrument"
        v-model="instrument"
        class="words"
        :maxlength="LONGEST_NAME"
        data-test="instrument"
      />
    </FieldFrame>
  </div>
</template>

<style scoped>
.bar {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) auto minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px 14px;
  align-items: end;
  margin-bottom: 12px;
}

.link {
  color: var(--pine);
  font-weight: 600;
  min-height: 32px;
}

@media (max-width: 640px) {
  .bar {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
</style>
