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
/** One that an earlier release has kept is not read: it comes anew. */
const card = computed(() => (kept.value[id.value]?.texts ? kept.value[id.value] : null) ?? null)
const language = useLocalStorage('hearthkeep.card-language', '')
/** In the language that was chosen here, else in the household's own. */
const text = computed(
  () =>
    card.value?.texts.find((each) => each.language === language.value) ?? card.value?.texts.at(-1) ?? null,
)
const others = computed(() => card.value?.texts.filter((each) => each !== text.value) ?? [])
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
watch(text, (found) => found && (window.document.title = `${found.title} · ${card.value?.design_name}`), {
  immediate: true,
})
const reachable = (reach: string) => /^[+\d][\d ()/.-]{2,}$/.test(reach)
</script>

<template>
  <main class="card" data-test="family-card" :lang="text?.language">
    <template v-if="card && text">
      <h1>{{ text.title }}</h1>
      <p v-if="live" class="live" data-test="card-live">
        {{ live.words }} <span class="lesser">said {{ live.said }}</span>
      </p>
      <p class="how" data-test="card-how-long">{{ unbroken(text.how_long) }}</p>
      <ol class="steps" data-test="card-steps">
        <li v-for="step in text.steps" :key="step">{{ unbroken(step) }}</li>
      </ol>
      <section v-for="group in text.stays_on" :key="group.title">
        <h2>
          {{ group.title }} <span class="lesser">{{ group.meaning }}</span>
        </h2>
        <p>{{ group.names.join(' · ') }}</p>
      </section>
      <section class="off">
        <h2>{{ text.off_title }}</h2>
        <p data-test="card-off">
          {{ [...text.stays_off, text.anything_else].join(' · ') }}
        </p>
      </section>
      <section>
        <h2>{{ text.call_title }}</h2>
        <ul v-if="card.contacts.length" class="calls">
          <li v-for="contact in card.contacts" :key="contact.role + contact.name">
            <b>{{ contact.role }}</b> {{ contact.name }}
            <a v-if="reachable(contact.reach)" :href="`tel:${contact.reach.replace(/[^+\d]/g, '')}`">{{
              contact.reach
            }}</a>
            <span v-else>{{ contact.reach }}</span>
          </li>
        </ul>
        <p v-else>{{ text.nobody_named }}</p>
      </section>
      <p v-if="card.house_note" class="note">{{ card.house_note }}</p>
      <p v-for="caution in text.cautions" :key="caution" class="caution">{{ caution }}</p>
      <p class="foot lesser">
        {{ card.design_name }}, revision {{ card.revision }}.
        <span data-test="card-kept">{{ trouble ? text.nothing_answers : isKept ? text.kept : '' }}</span>
        {{ text.machine_made }}
        <button
          v-for="other in others"
          :key="other.language"
          type="button"
          :lang="other.language"
          data-test="card-language"
          @click="language = other.language"
        >
          {{ other.language_name }}
        </button>
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
