/** Devices and services of the installation: which are asked, what they say, and the stand-ins where there are some. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { defineStore, storeToRefs } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import type { DeviceSource, DevicesNow, HouseWish, Sources, StandInsNow, SwitchState } from '@/api/client'
import { api, outcome, refusal, SILENT, type Outcome } from '@/api/client'
import { useDesign } from '@/design/store'

import { useBuild } from '../build/build'

/** Addresses as they are typed, until they are kept: they outlive the form. */
export interface Draft {
  devices: DeviceSource[]
  warnings: string
  certificate: string
  outages: string
  mailHost: string
  mailPort: string
  mailSender: string
  mailTo: string
}

export function draftOf(sources: Sources | null): Draft {
  return {
    devices: (sources?.devices ?? []).map((each) => ({ ...each })),
    warnings: sources?.warnings ?? '',
    certificate: sources?.certificate ?? '',
    outages: sources?.outages ?? '',
    mailHost: sources?.mail?.host ?? '',
    mailPort: sources?.mail ? String(sources.mail.port) : '',
    mailSender: sources?.mail?.sender ?? '',
    mailTo: sources?.mail?.to.join(', ') ?? '',
  }
}

/** How often they are looked at while somebody looks [ms]. */
const LOOK_EVERY_MS = 15_000

export const useDevices = defineStore('devices', () => {
  const build = useBuild()
  const { current } = storeToRefs(build)
  const { id } = storeToRefs(useDesign())
  const told = shallowRef<DevicesNow | null>(null)
  const standIns = shallowRef<StandInsNow | null>(null)
  const trouble = ref('')
  const isLookedAt = ref(false)
  /** The simulated house does what is decided on Watch. */
  const isFollowed = useLocalStorage('hearthkeep.house-follows', false)
  const draft = ref<Draft>(draftOf(null))
  const isChanged = ref(false)

  async function look(): Promise<void> {
    const place = current.value?.id
    const [devices, standing] = await Promise.all([
      place
        ? outcome(
            api.GET('/api/installations/{installation_id}/devices', {
              params: { path: { installation_id: place } },
            }),
          )
        : null,
      outcome(api.GET('/api/stand-ins')),
    ])
    if (current.value?.id !== place) return
    if (devices === null) told.value = null
    else if (devices.kind === 'answer') told.value = devices.value
    if (standing.kind === 'answer') standIns.value = standing.value
  }

  /** Say what is asked from now on; an installation is begun where there is none. Whether it was taken. */
  async function save(sources: Sources, name: string): Promise<boolean> {
    if (!current.value) await build.begin(name)
    if (!current.value) return false
    const path = { installation_id: current.value.id }
    const answer = await outcome(
      api.PUT('/api/installations/{installation_id}/sources', { params: { path }, body: sources }),
    )
    trouble.value =
      answer.kind === 'refused' ? refusal(answer.problem) : answer.kind === 'silent' ? SILENT : ''
    if (answer.kind === 'answer') await look()
    return answer.kind === 'answer'
  }

  function switchFault(wish: SwitchState): Promise<void> {
    return heed(outcome(api.POST('/api/stand-ins/fault', { body: wish })))
  }

  /** Let the people of the simulated house do this. */
  function liveThere(wish: HouseWish): Promise<void> {
    return heed(outcome(api.POST('/api/stand-ins/house', { body: wish })))
  }

  async function heed(asked: Promise<Outcome<StandInsNow>>): Promise<void> {
    const answer = await asked
    if (answer.kind === 'answer') standIns.value = answer.value
    trouble.value =
      answer.kind === 'refused' ? refusal(answer.problem) : answer.kind === 'silent' ? SILENT : ''
  }

  /** Hand a message to the gateway; whom it was taken for, nobody where it was not. */
  async function send(subject: string, text: string): Promise<readonly string[]> {
    if (!current.value) return []
    const path = { installation_id: current.value.id }
    const answer = await outcome(
      api.POST('/api/installations/{installation_id}/messages', {
        params: { path },
        body: { subject, text },
      }),
    )
    trouble.value =
      answer.kind === 'refused' ? refusal(answer.problem) : answer.kind === 'silent' ? SILENT : ''
    return answer.kind === 'answer' ? answer.value.to : []
  }

  watch(id, () => {
    // What was typed belongs to the design that was left.
    told.value = null
    draft.value = draftOf(null)
    isChanged.value = false
    trouble.value = ''
  })
  watch(current, () => isLookedAt.value && void look())
  useIntervalFn(() => isLookedAt.value && void look(), LOOK_EVERY_MS)

  return {
    told,
    standIns,
    trouble,
    isLookedAt,
    draft,
    isChanged,
    isFollowed,
    look,
    save,
    switchFault,
    liveThere,
    send,
  }
})
