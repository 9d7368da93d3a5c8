<script setup lang="ts">
/** The family's card: one page in large type that stays on the phone. No account, no rail, nothing to be switched. */
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'

import { api, outcome, refusal, SILENT, type FamilyCard } from '@/api/client'
import { unbroken } from '@/shared/format'
import { useNightTheme } from '@/shell/useNightTheme'
import { lastSaid, type HeldViews } from '@/steps/watch/held'

import { KEPT_MARK, keepOnDevice } from './offline'

const route = useRoute()
const id = computed(() => String(route.params['id']))
/** As it was had last: it is shown at once, and stays where nothing answers. */
const kept = useLocalStorage<Record<string, FamilyCard>>('hearthkeep.card', {})
const card = computed(() => kept.value[id.value] ?? null)
const trouble = ref('')
const isKept = ref(false)
const views = useLocalStorage<HeldViews>('hearthkeep.watch', {})
const now = shallowRef(Date.now())
/** What Watch said last of this design's outage, where it spoke of one. */
const live = computed(() => lastSaid(views.value, id.value, now.value))
const { isNight, toggle } = useNightTheme()

async function look(): Promise<void> {
  const params = { path: { design_id: id.value } }
  const answer = await outcome(api.GET('/api/designs/{design_id}/family-card', { params }))
  if (answer.kind === 'answer') kept.value = { ...kept.value, [id.value]: answer.value }
  const isOld = answer.kind === 'answer' && answer.headers.has(KEPT_MARK)
  trouble.value =
    answer.kind === 'refused' ? refusal(answer.problem) : answer.kind === 'silent' || isOld ? SILENT : ''
  now.value = Date.now()
  isKept.value = await keepOnDevice()
}
watch(id, () => void look(), { immediate: true })
watch(card, (found) => found && (window.document.title = `${found.title} · ${found.design_name}`), {
  immediate: true,
})
const reachable = (reach: string) => /^[+\d][\d ()/.-]{2,}$/.test(reach)
</script>

<template>
  <main class="card" data-test="family-card">
    <template v-if="card">
      <h1>{{ card.title }}</h1>
      <p v-if="live" class="live" data-test="card-live">
        {{ live.words }} <span class="lesser">said {{ live.said }}</span>
      </p>
      <p class="how" data-test="card-how-long">{{ unbroken(card.how_long) }}</p>
      <ol class="steps" data-test="card-steps">
        <li v-for="step in card.steps" :key="step">{{ unbroken(step) }}</li>
      </ol>
      <section v-for="group in card.stays_on" :key="group.title">
        <h2>
          {{ group.title }} <span class="lesser">{{ group.meaning }}</span>
        </h2>
        <p>{{ group.names.join(' · ') }}</p>
      </section>
      <section class="off">
        <h2>Stays off</h2>
        <p data-test="card-off">{{ card.stays_off.join(' · ') }}, and anything that is not on this card.</p>
      </section>
      <section>
        <h2>Whom to call</h2>
        <ul v-if="card.contacts.length" class="calls">
          <li v-for="contact in card.contacts" :key="contact.role + contact.name">
            <b>{{ contact.role }}</b> {{ contact.name }}
            <a v-if="reachable(contact.reach)" :href="`tel:${contact.reach.replace(/[^+\d]/g, '')}`">{{
              contact.reach
            }}</a>
            <span v-else>{{ contact.reach }}</span>
          </li>
        </ul>
        <p v-else>Nobody is named yet: write them on the Papers page.</p>
      </section>
      <p v-if="card.house_note" class="note">{{ card.house_note }}</p>
      <p v-for="caution in card.cautions" :key="caution" class="caution">{{ caution }}</p>
      <p class="foot lesser">
        {{ card.design_name }}, revision {{ card.revision }}.
        <span data-test="card-kept">{{
          trouble
            ? 'Nothing answers: this is what stays on this device.'
            : isKept
              ? 'Kept on this device.'
              : ''
        }}</span>
        <button type="button" @click="toggle">{{ isNight ? 'Day' : 'Night' }}</button>
        <RouterLink :to="{ name: 'watch', params: { id } }">Watch</RouterLink>
      </p>
    </template>
    <p v-else-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else>The card is coming…</p>
  </main>
</template>

<style scoped>
.card {
  height: 100dvh;
  overflow-y: auto;
  padding: 16px 18px 28px;
  font-size: 19px;
  line-height: 1.35;
  background: var(--paper);
}

.card > * {
  max-width: 720px;
  margin-inline: auto;
}

h1 {
  font-size: 30px;
  margin-bottom: 4px;
}

h2 {
  font-size: 20px;
  margin: 14px 0 0;
}

h2 .lesser {
  font-weight: 400;
  font-size: 16px;
}

p {
  margin-top: 0;
  margin-bottom: 6px;
  overflow-wrap: anywhere;
}

.live {
  border-left: 6px solid var(--ember);
  padding-left: 12px;
  font-size: 24px;
  font-weight: 700;
}

.live .lesser {
  font-size: 16px;
  font-weight: 400;
}

.how {
  font-weight: 600;
}

.steps {
  padding-left: 30px;
  font-size: 22px;
  font-weight: 600;
  margin: 10px auto;
}

.steps li {
  margin-bottom: 6px;
}

.off {
  border-left: 6px solid var(--wine);
  padding-left: 12px;
}

.calls {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}

.calls li {
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}

.calls a {
  display: inline-block;
  min-height: 44px;
  line-height: 44px;
  font-weight: 700;
}

.caution {
  color: var(--wine);
}

.foot {
  font-size: 15px;
  margin-top: 18px;
}

.foot button,
.foot a {
  display: inline-block;
  min-height: 44px;
  line-height: 44px;
  padding: 0 14px;
  margin-left: 8px;
  border: 1px solid var(--slate);
  color: inherit;
  text-decoration: none;
}
</style>
