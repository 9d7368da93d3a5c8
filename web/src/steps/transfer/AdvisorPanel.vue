<script setup lang="ts">
/** Every arrangement for this design, the one that suits best first, with why and why not; one of them looked at closely. */
import { computed, ref, watch } from 'vue'

import { api, outcome, type Advice } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import { hours } from '@/shared/format'
import TakeButton from '@/shared/TakeButton.vue'

import PathPicture from './PathPicture.vue'

const store = useDesign()
const { value: advice, trouble } = useAnswer<Advice[]>({
  ask: () => (store.document ? outcome(api.POST('/api/transfer/advice', { body: store.document })) : null),
  on: () => store.document,
  wait: 150,
})
const chosen = computed(() => store.document?.transfer?.arrangement ?? null)
const looked = ref('')
watch(
  [advice, chosen],
  () => {
    if (!looked.value) looked.value = chosen.value ?? advice.value?.[0]?.suit.kind ?? ''
  },
  { immediate: true },
)
// What is chosen elsewhere, by a Try or an undo, is looked at.
watch(chosen, (kind) => {
  if (kind) looked.value = kind
})
const shown = computed(
  () => advice.value?.find((entry) => entry.suit.kind === looked.value) ?? advice.value?.[0] ?? null,
)

function onKey(event: KeyboardEvent): void {
  const list = advice.value ?? []
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  const next = list[list.findIndex((entry) => entry.suit.kind === looked.value) + by]
  if (!by || !next) return
  event.preventDefault()
  looked.value = next.suit.kind
  ;(event.currentTarget as HTMLElement).querySelector<HTMLElement>(`[data-kind="${next.suit.kind}"]`)?.focus()
}
</script>

<template>
  <div class="advisor">
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <ol
      v-if="advice"
      role="listbox"
      aria-label="Arrangements, best first"
      data-test="advice"
      @keydown="onKey"
    >
      <li
        v-for="(entry, index) in advice"
        :key="entry.suit.kind"
        role="option"
        :aria-selected="entry.suit.kind === shown?.suit.kind"
        :tabindex="entry.suit.kind === shown?.suit.kind ? 0 : -1"
        :class="{ out: entry.suit.ruled_out, chosen: entry.suit.kind === chosen }"
        :data-kind="entry.suit.kind"
        :data-test="`advice-${entry.suit.kind}`"
        @click="looked = entry.suit.kind"
      >
        <span class="rank figures">{{ index + 1 }}</span>
        <div>
          <p class="title">
            {{ entry.arrangement.title }}
            <b v-if="entry.suit.kind === chosen" class="mark">chosen</b>
            <b v-else-if="entry.suit.ruled_out" class="mark lesser">not here</b>
          </p>
          <p v-if="!entry.suit.ruled_out">
            <span class="sign" aria-hidden="true">+</span> {{ entry.suit.why }}
          </p>
          <p class="lesser"><span class="sign" aria-hidden="true">−</span> {{ entry.suit.why_not }}</p>
        </div>
      </li>
    </ol>
    <p v-else-if="!trouble" class="lesser">Comparing</p>
    <section v-if="shown" class="looked" data-test="looked">
      <h2>{{ shown.arrangement.title }}</h2>
      <PathPicture :path="shown.path" />
      <dl>
        <div>
          <dt>Hours carried with it</dt>
          <dd>
            <b class="figures">{{ hours(shown.hours_carried_h) }}</b>
            <span v-if="shown.left_out.length" class="lesser">
              without {{ shown.left_out.slice(0, 3).join(', ')
              }}{{ shown.left_out.length > 3 ? ` and ${shown.left_out.length - 3} more` : '' }}</span
            >
          </dd>
        </div>
        <div>
          <dt>Gap at the change-over</dt>
          <dd>{{ shown.gap }} <span class="lesser">usual</span></dd>
        </div>
        <div>
          <dt>Carries</dt>
          <dd>{{ shown.arrangement.carries }}</dd>
        </div>
        <div>
          <dt>Costs</dt>
          <dd>{{ shown.arrangement.cost }}</dd>
        </div>
        <div>
          <dt>Who may install it</dt>
          <dd>{{ shown.arrangement.installer }}.</dd>
        </div>
        <div>
          <dt>One failure</dt>
          <dd>{{ shown.arrangement.failure }}</dd>
        </div>
      </dl>
      <p>
        <TakeButton
          v-if="shown.suit.kind !== chosen"
          :carried_h="shown.hours_carried_h"
          label="Choose it"
          data-test="choose"
          @take="store.set('transfer.arrangement', shown.suit.kind)"
        />
        <button
          v-else
          type="button"
          class="leave"
          data-test="leave-open"
          @click="store.set('transfer.arrangement', null)"
        >
          Leave it open
        </button>
      </p>
    </section>
  </div>
</template>

<style scoped>
.advisor {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}

ol {
  list-style: none;
  padding: 0;
  margin: 0;
}

li {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr);
  padding: 6px 8px 7px 4px;
  border-bottom: 1px solid var(--rule);
  border-left: 3px solid transparent;
  cursor: pointer;
}

li:hover {
  background: var(--sheet);
}

li[aria-selected='true'] {
  background: var(--sheet);
  border-left-color: var(--ink);
}

li p {
  margin: 0;
  font-size: 13px;
  line-height: 1.35;
}

li .title {
  font-size: 14px;
  font-weight: 700;
}

.out .title,
.out .rank {
  color: var(--slate);
  font-weight: 400;
}

.mark {
  font-size: 12.5px;
  color: var(--ember-ink);
  margin-left: 6px;
}

.mark.lesser {
  color: var(--slate);
  font-weight: 400;
}

.sign {
  font-family: var(--hk-figures);
}

.looked {
  position: sticky;
  top: 0;
}

h2 {
  margin-bottom: 6px;
}

dl {
  margin: 8px 0;
}

dl > div {
  display: grid;
  grid-template-columns: 128px minmax(0, 1fr);
  gap: 8px;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
  font-size: 13px;
}

dt {
  color: var(--slate);
}

.leave {
  color: var(--slate);
  text-decoration: underline;
}

.trouble {
  color: var(--wine);
}

@media (max-width: 1000px) {
  .advisor {
    grid-template-columns: minmax(0, 1fr);
  }

  .looked {
    position: static;
  }
}
</style>
