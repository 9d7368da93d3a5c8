<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import type { SheetSource } from '@/api/client'
import { useDesign } from '@/design/store'
import { useIsPhone } from '@/shell/usePanes'
import SheetTools from '@/sheets/SheetTools.vue'
import { useCursor } from '@/strip/cursor'

import AuditQuality from './AuditQuality.vue'
import DailyLedger from './DailyLedger.vue'
import EntryLine from './EntryLine.vue'
import LoadsLedger from './LoadsLedger.vue'
import SheetDialog from './SheetDialog.vue'
import TypicalSearch from './TypicalSearch.vue'
import { MOST_LOADS, useLedger } from './useLedger'
import WalkAudit from './walk/WalkAudit.vue'

const { document, assessment } = storeToRefs(useDesign())
const cursor = useCursor()
const ledger = useLedger()
const { loads, add, take, change } = ledger
/** In the hand the audit is walked through, load by load. */
const isPhone = useIsPhone()
/** The load in front of the meter; its page begins at its top. */
const walking = ref('')
watch(walking, () => window.document.querySelector('main.page')?.scrollTo({ top: 0 }))
/** A sheet being looked at before it is taken. */
const sheet = ref<SheetSource | null>(null)
const bank_v = computed(() => assessment.value?.bank.nominal_v ?? 12)
const mains_v = computed(() => (document.value?.practice === 'metric_230' ? 230 : 120))
const nextName = computed(
  () => loads.value.find((load) => load.id === assessment.value?.loads.measure_next)?.name ?? '',
)
</script>

<template>
  <div v-if="document">
    <div v-show="!walking" class="entries">
      <EntryLine
        class="line"
        :full="loads.length >= MOST_LOADS"
        :bank_v="bank_v"
        :practice="document.practice"
        @add="add"
        @sheet="(text) => (sheet = { text })"
      />
      <TypicalSearch class="typical" :full="loads.length >= MOST_LOADS" @add="add" />
      <SheetTools
        class="tools"
        :design="document"
        label="Sheet of loads"
        export-at="/api/loads/export"
        file-name="loads"
        @sheet="(found) => (sheet = found)"
      />
    </div>
    <SheetDialog
      v-if="sheet"
      :sheet="sheet"
      :loads="loads"
      :practice="document!.practice"
      @take="
        (rows) => {
          take(rows)
          sheet = null
        }
      "
      @close="sheet = null"
    />
    <WalkAudit
      v-if="loads.length && isPhone"
      v-model:open="walking"
      :loads="loads"
      :mains_v="mains_v"
      :bank_v="bank_v"
      @change="change"
    />
    <LoadsLedger v-else-if="loads.length" :ledger="ledger" />
    <p v-else class="first">
      Type the first load above, for example <span class="figures">fridge 120W starts 780 duty 36%</span>, and
      press Enter. Watts, starts, duty, hours (<span class="figures">7-8,17-18</span> or
      <span class="figures">4 h/day</span>), <span class="figures">120V 5A pf 0.8</span>,
      <span class="figures">300kWh/year</span>, <span class="figures">dc</span>,
      <span class="figures">2x</span>, and a tier word are understood in any order; rows copied from a sheet
      can be pasted there. Or press <span class="figures">/</span> and seek a typical device.
    </p>
    <template v-if="loads.length && assessment && !walking">
      <AuditQuality :assessment="assessment" :next-name="nextName" />
      <DailyLedger :assessment="assessment" :pinned-hour="cursor.pinnedHourOfDay" />
    </template>
  </div>
</template>

<style scoped>
.entries {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 176px;
  gap: 0 10px;
  position: relative;
  align-items: start;
}

.tools {
  position: absolute;
  right: 0;
  top: 37px;
  padding-left: 12px;
}

.first {
  margin-top: 18px;
  max-width: 620px;
}

@media (max-width: 640px) {
  .entries {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px 0;
  }
}
</style>
