<script setup lang="ts">
/** What others say: the weather service's warnings and the utility's outages. Nothing of it counts until somebody says so. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { WatchView } from '@/api/client'
import { useDesign } from '@/design/store'
import { count } from '@/shared/format'

import { atSite } from '../build/build'
import { useDevices } from './devices'
import { useWatch } from './watch'
import { at } from './words'

const props = defineProps<{ view: WatchView; now: string }>()
const { document } = storeToRefs(useDesign())
const store = useWatch()
const { told } = storeToRefs(useDevices())
const local = (moment: string) => (document.value ? atSite(document.value, moment) : moment)
const when = (moment: string) => at(local(moment), props.now)
const alerts = computed(() =>
  (told.value?.gathered?.alerts ?? []).map((alert) => ({
    ...alert,
    line: [alert.severity, alert.urgency, alert.certainty].filter(Boolean).join(', ').toLowerCase(),
    isAhead: !!alert.onset && local(alert.onset) > props.now,
  })),
)
const outages = computed(() => told.value?.gathered?.utility_outages ?? [])
const troubles = computed(() => {
  const { warnings, utility } = told.value?.gathered ?? {}
  return [
    ...(warnings ? [warnings.trouble, ...warnings.wrong] : []),
    ...(utility ? [utility.trouble, ...utility.wrong] : []),
  ].filter(Boolean)
})
const note = (what: string, moment: string) => store.tell({ kind: 'watch', what, moment: local(moment) })
const isOn = computed(() => props.view.phase === 'on')
</script>

<template>
  <section v-if="alerts.length || outages.length || troubles.length" class="outside" data-test="outside">
    <h2>What others say</h2>
    <details v-for="alert in alerts" :key="alert.identifier" :data-test="`alert-${alert.identifier}`">
      <summary>
        {{ alert.headline || alert.event }}
        <span class="lesser"
          >{{ alert.line }}; {{ alert.areas.join(', ') }}; said {{ when(alert.sent) }},
          {{ alert.is_signed ? 'signed' : 'not signed: ask before you believe it'
          }}{{ alert.status !== 'Actual' ? ', an exercise' : '' }}</span
        >
      </summary>
      <p>{{ alert.description }} {{ alert.instruction }}</p>
      <p v-if="alert.onset" class="lesser">
        Expected {{ when(alert.onset)
        }}<template v-if="alert.expires">, over {{ when(alert.expires) }}</template>
      </p>
      <button
        v-if="alert.isAhead && view.phase === 'quiet' && alert.onset"
        type="button"
        data-test="note-warning"
        @click="note('warning', alert.onset)"
      >
        Make ready for {{ when(alert.onset) }}
      </button>
    </details>
    <div v-for="outage in outages" :key="outage.id" class="outage" :data-test="`utility-${outage.id}`">
      <p>
        <b>{{ outage.area || outage.id }}</b>
        out since {{ when(outage.began) }},
        <template v-if="outage.estimated_restoration"
          >thought to be back {{ when(outage.estimated_restoration) }}</template
        ><template v-else>nobody says yet when it is back</template>.
        <span class="lesser"
          >{{ outage.cause
          }}<template v-if="outage.customers_out">; {{ count(outage.customers_out) }} customers</template
          ><template v-if="outage.revised">; said {{ when(outage.revised) }}</template></span
        >
      </p>
      <button v-if="!isOn" type="button" data-test="note-began" @click="note('began', outage.began)">
        It is ours: out since {{ when(outage.began) }}
      </button>
      <button
        v-else-if="outage.estimated_restoration && local(outage.estimated_restoration) > now"
        type="button"
        data-test="note-help"
        @click="note('help', outage.estimated_restoration)"
      >
        Count with it: back {{ when(outage.estimated_restoration) }}
      </button>
    </div>
    <p v-for="each in troubles" :key="each" class="old" data-test="outside-trouble">{{ each }}</p>
  </section>
</template>

<style scoped>
.outside {
  margin-bottom: 10px;
}

h2 {
  margin: 12px 0 2px;
}

summary {
  cursor: pointer;
  font-weight: 700;
}

summary .lesser {
  font-weight: 400;
}

p {
  margin: 2px 0;
}

.outage {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
}

button {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
  font-weight: 600;
}

.old {
  color: var(--sun-ink);
}
</style>
