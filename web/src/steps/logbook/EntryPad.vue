<script setup lang="ts">
/** Entry with large keys, for one hand at the rack: a reading or something done, kept on the device until the server has it. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import type { QuantityInfo } from '@/api/client'
import { useDesign } from '@/design/store'
import { readNumber } from '@/fields/numbers'
import { plain } from '@/fields/units'
import { amount } from '@/shared/format'

import { fromSite, siteNow, useBuild } from '../build/build'
import KeyPad from '../loads/walk/KeyPad.vue'
import { useLogbook } from './logbook'
import { useOutbox } from './outbox'
import { EVENTS, unitOf, type EventInfo } from './words'

/** Read most often at a rack; the others stand behind a key. */
const FIRST = ['bank_v', 'bank_a', 'charge', 'ah_from_full', 'days_since_full', 'highest_v']
/** Those that are below nothing in normal use. */
const MINUS = ['ah_from_full']
const LONGEST = 9

const build = useBuild()
const outbox = useOutbox()
const { current, who } = storeToRefs(build)
const { quantities, outlook } = storeToRefs(useLogbook())
const { document } = storeToRefs(useDesign())
const isAll = ref(false)
const chosen = ref<QuantityInfo | null>(null)
const event = ref<EventInfo | null>(null)
const text = ref('')
const values = ref<Record<string, number>>({})
const note = ref('')
const part = ref('')
const wrong = ref('')
const said = ref('')
/** What was asked about once, and is taken as it is the next time. */
const asked = ref('')
/** When it was, by the site's clock; empty for now. */
const when = ref('')

const shown = computed(() =>
  isAll.value
    ? quantities.value.filter((info) => info.quantity !== 'load_w')
    : FIRST.flatMap((key) => quantities.value.filter((info) => info.quantity === key)),
)
/** What this installation has: nothing is watered in lithium, and nobody buys fuel without a generator. */
const events = computed(() => {
  const design = document.value
  if (!design || isAll.value) return EVENTS
  const { controllers = [], grid_tied, generator } = design.charging ?? {}
  const has: Record<string, boolean> = {
    watered: design.bank.chemistry === 'flooded',
    equalised: design.bank.chemistry === 'flooded',
    cleaned: Boolean(grid_tied) || controllers.some((controller) => controller.arrays.length > 0),
    fuel_bought: Boolean(generator),
    fuel_turned_over: Boolean(generator),
  }
  has['snow_cleared'] = has['cleaned'] ?? true
  return EVENTS.filter((info) => has[info.what] ?? true)
})
const count = computed(() => Object.keys(values.value).length)

/** As the project's practice shows it. */
const unit = (kept: string) => (document.value ? unitOf(kept, document.value) : plain(kept))
const told = (info: QuantityInfo) =>
  `${amount(unit(info.unit).show(values.value[info.quantity] ?? 0))} ${unit(info.unit).label}`

function pick(info: QuantityInfo): void {
  take()
  if (wrong.value) return
  chosen.value = info
  event.value = null
  const known = values.value[info.quantity]
  text.value = known === undefined ? '' : String(unit(info.unit).show(known))
}

function pickEvent(info: EventInfo): void {
  take()
  if (wrong.value) return
  chosen.value = null
  event.value = info
  text.value = ''
  part.value = ''
}

function press(key: string): void {
  wrong.value = ''
  if (key === '⌫') text.value = text.value.slice(0, -1)
  else if (key === '±') text.value = text.value.startsWith('-') ? text.value.slice(1) : `-${text.value}`
  else if (text.value.length < LONGEST && !(key === '.' && text.value.includes('.'))) text.value += key
}

/** Take what is typed into the reading under way; says what is wrong where it cannot be. */
function take(): void {
  wrong.value = ''
  if (!chosen.value || text.value === '' || text.value === '-') return
  const { quantity, low, high } = chosen.value
  const own = unit(chosen.value.unit)
  const typed = readNumber(text.value, 'group').value
  let value = typed === null ? null : own.keep(typed)
  if (value !== null && value > 0 && MINUS.includes(quantity)) value = -value
  if (value === null || value < low || value > high) {
    wrong.value = `needs ${amount(own.show(low))} to ${amount(own.show(high))} ${own.label} (got ${text.value})`
    return
  }
  const here = outlook.value?.can_show.find((range) => range.quantity === quantity)
  const question = `${quantity} ${text.value}`
  if (here && (value < here.low || value > here.high) && asked.value !== question) {
    asked.value = question
    wrong.value = `${amount(tidy(own.show(here.low)))} to ${amount(tidy(own.show(here.high)))} ${own.label} can be read here (got ${text.value}). If it is so, press the key once more.`
    return
  }
  values.value = { ...values.value, [quantity]: value }
}

/** Three figures are enough for a range. */
const tidy = (value: number) => Number(value.toPrecision(3))

function keep(body: Record<string, unknown>, words: string): void {
  if (!current.value || !document.value) return
  if (when.value > siteNow(document.value).slice(0, 16)) {
    wrong.value = `When needs a moment that is past (got ${when.value.replace('T', ' ')})`
    return
  }
  outbox.put({
    installation_id: current.value.id,
    who: who.value,
    body,
    ...(when.value ? { told: fromSite(document.value, when.value) } : {}),
  })
  said.value = when.value ? `${words.slice(0, -1)} for ${when.value.replace('T', ' ')}.` : words
  when.value = ''
  chosen.value = null
  event.value = null
  text.value = ''
  note.value = ''
  values.value = {}
}

/** Back to the keys; what is typed stays. */
function other(): void {
  take()
  if (wrong.value) return
  chosen.value = null
  event.value = null
  text.value = ''
}

function save(): void {
  take()
  if (wrong.value || !count.value) return
  keep(
    { kind: 'reading', values: values.value, part: '', note: note.value.trim() },
    `${count.value} ${count.value === 1 ? 'reading' : 'readings'} written down.`,
  )
}

function saveEvent(isWell: boolean): void {
  if (!event.value) return
  const typed = text.value === '' ? null : readNumber(text.value, 'group').value
  if (event.value.what === 'note' && !note.value.trim()) {
    wrong.value = 'needs some words'
    return
  }
  keep(
    {
      kind: 'event',
      what: event.value.what,
      is_well: isWell,
      amount: typed === null ? null : unit(event.value.unit).keep(typed),
      part: part.value.trim(),
      note: note.value.trim(),
    },
    `${event.value.title}: written down.`,
  )
}
</script>

<template>
  <section class="pad-place" :class="{ typing: chosen || event }" aria-label="Write down">
    <div class="keys">
      <div class="chips" role="group" aria-label="What is read">
        <button
          v-for="info in shown"
          :key="info.quantity"
          type="button"
          :class="{ on: chosen?.quantity === info.quantity, has: values[info.quantity] !== undefined }"
          :aria-pressed="chosen?.quantity === info.quantity"
          :data-test="`read-${info.quantity}`"
          @click="pick(info)"
        >
          <span>{{ info.label }}</span>
          <b v-if="values[info.quantity] !== undefined" class="figures">{{ told(info) }}</b>
          <span v-else class="lesser">{{ unit(info.unit).label }}</span>
        </button>
        <button type="button" class="more" data-test="all-quantities" @click="isAll = !isAll">
          {{ isAll ? 'Fewer' : 'More' }}
        </button>
      </div>
      <div class="chips events" role="group" aria-label="What was done">
        <button
          v-for="info in events"
          :key="info.what"
          type="button"
          :class="{ on: event?.what === info.what }"
          :aria-pressed="event?.what === info.what"
          :data-test="`event-${info.what}`"
          @click="pickEvent(info)"
        >
          {{ info.title }}
        </button>
      </div>
    </div>
    <div class="entry">
      <p v-if="!current" class="lesser">Begin the record of an installation on Build to write in its log.</p>
      <template v-else-if="chosen || (event && event.unit)">
        <p class="typed figures" data-test="typed" aria-live="polite">
          <span class="lesser what">{{ chosen?.label ?? event?.title }}</span>
          {{ text || '–' }} <span class="lesser">{{ unit(chosen?.unit ?? event?.unit ?? '').label }}</span>
        </p>
        <KeyPad @key="press" />
        <button
          v-if="chosen && chosen.low < 0 && !MINUS.includes(chosen.quantity)"
          type="button"
          class="wide"
          aria-label="Change the sign"
          data-test="pad-sign"
          @click="press('±')"
        >
          ±
        </button>
      </template>
      <p v-else-if="!event" class="lesser start">
        Press what you read or what you did. It is kept on this device until Hearth Keep has it.
      </p>
      <p v-if="event && !event.unit" class="typed title">{{ event.title }}</p>
      <label v-if="event?.part" class="words">
        {{ event.part }}
        <input v-model="part" maxlength="200" data-test="event-part" />
      </label>
      <label v-if="event || count || chosen" class="words">
        Note
        <input v-model="note" maxlength="2000" data-test="log-note" />
      </label>
      <p v-if="wrong" class="bad" role="alert" data-test="pad-wrong">{{ wrong }}</p>
      <template v-if="event">
        <button type="button" class="save" data-test="save-event" @click="saveEvent(true)">
          {{ event.isChecked ? 'It is well' : 'Write down' }}
        </button>
        <button
          v-if="event.isChecked"
          type="button"
          class="save not"
          data-test="save-not-well"
          @click="saveEvent(false)"
        >
          It is not
        </button>
      </template>
      <button v-else-if="chosen || count" type="button" class="save" data-test="save-reading" @click="save">
        Write down
      </button>
      <button v-if="chosen || event" type="button" class="other" data-test="pad-other" @click="other">
        {{ chosen ? 'Something else as well' : 'Back' }}
      </button>
      <label v-if="event || count || chosen" class="words">
        When, if not now
        <input v-model="when" type="datetime-local" data-test="log-when" />
      </label>
      <p class="lesser" role="status" data-test="pad-said">{{ said }}</p>
    </div>
  </section>
</template>

<style scoped>
.pad-place {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 212px;
  gap: 16px;
  margin-bottom: 14px;
}

.chips {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(108px, 1fr));
  gap: 5px;
  margin-bottom: 8px;
}

.chips button,
.wide {
  min-height: 44px;
  padding: 3px 7px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  text-align: left;
  line-height: 1.2;
  touch-action: manipulation;
}

.chips button span,
.chips button b {
  display: block;
  font-size: 12.5px;
}

.chips button b {
  font-size: 14px;
}

.events button {
  background: transparent;
}

.chips .on {
  border: 2px solid var(--ember);
  padding: 3px 7px;
}

.chips .has {
  border-color: var(--pine);
}

.more {
  color: var(--pine);
  font-weight: 600;
}

.typed {
  font-size: 30px;
  line-height: 1.1;
  margin: 0 0 6px;
}

.typed .what {
  display: block;
  font-family: var(--hk-text);
  font-size: 13px;
}

.wide {
  width: 100%;
  margin-top: 6px;
  text-align: center;
  font-size: 20px;
}

.words {
  display: block;
  margin-top: 8px;
  font-size: 12.5px;
  color: var(--slate);
}

.words input {
  display: block;
  width: 100%;
  min-height: 40px;
  padding: 0 8px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  font-size: 15px;
}

.save {
  width: 100%;
  min-height: 52px;
  margin-top: 8px;
  background: var(--pine);
  color: var(--paper);
  font-size: 17px;
  font-weight: 700;
  touch-action: manipulation;
}

.save.not {
  background: var(--wine);
}

.bad {
  color: var(--wine);
  margin: 6px 0 0;
}

.title {
  font-family: var(--hk-text);
  font-size: 20px;
}

.other {
  display: none;
}

/* In the hand one thing at a time: the keys of what is read, then those of its digits, under the thumb. */
@media (max-width: 640px) {
  .pad-place {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }

  .typing .keys {
    display: none;
  }

  .other {
    display: block;
    width: 100%;
    min-height: 44px;
    margin-top: 6px;
    border: 1px solid var(--slate);
    color: var(--pine);
    font-weight: 600;
  }

  .chips {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
}
</style>
