/** The steps in working order, with the one live figure each shows in the rail. */
import type { Component } from 'vue'

import type { Assessment, Design, Finding } from '@/api/client'
import { useDesign } from '@/design/store'
import { calendarDay, count, kilowattHours, kilowatts } from '@/shared/format'

import { useAlternatives } from './alternatives/alternatives'
import { useBuild } from './build/build'
import { useDrill } from './drill/drill'
import { useLogbook } from './logbook/logbook'
import { useOpinions } from './opinions/opinions'
import { usePapers } from './papers/papers'
import { useTrials } from './trials/trials'
import { useWatch } from './watch/watch'

/** The code of each page comes when it is opened, and that of all others once the first screen stands. */
const PAGES = {
  storm: () => import('./storm/StormPage.vue'),
  loads: () => import('./loads/LoadsPage.vue'),
  bank: () => import('./bank/BankPage.vue'),
  inverter: () => import('./inverter/InverterPage.vue'),
  charging: () => import('./charging/ChargingPage.vue'),
  transfer: () => import('./transfer/TransferPage.vue'),
  wiring: () => import('./wiring/WiringPage.vue'),
  stages: () => import('./stages/StagesPage.vue'),
  trials: () => import('./trials/TrialsPage.vue'),
  opinions: () => import('./opinions/OpinionsPage.vue'),
  sideBySide: () => import('./alternatives/SideBySidePage.vue'),
  build: () => import('./build/BuildPage.vue'),
  logbook: () => import('./logbook/LogbookPage.vue'),
  watch: () => import('./watch/WatchPage.vue'),
  drill: () => import('./drill/DrillPage.vue'),
  papers: () => import('./papers/PapersPage.vue'),
}

/** Fetch the code of all pages, so that they are there when the server is not. */
export function fetchAllPages(): void {
  for (const fetched of Object.values(PAGES)) void fetched().catch(() => undefined)
}

/** 2.9 kW: in the rail a tenth is enough. */
const tenths = (watts: number) => kilowatts(watts < 1000 ? watts : Math.round(watts / 100) * 100)

/** The rail's groups, in working order. */
export const GROUPS = [
  { key: 'plan', title: 'Plan' },
  { key: 'prove', title: 'Prove' },
  { key: 'keep', title: 'Keep' },
] as const
export type GroupKey = (typeof GROUPS)[number]['key']

export interface StepInfo {
  /** Of its address; findings name it where the core has some for it. */
  name: string
  group: GroupKey
  title: string
  /** What the page is for, beside its title. */
  purpose: string
  page: () => Promise<{ default: Component }>
  figure: (design: Design, assessment: Assessment | null) => string
  /** Read across a dark room: checks and strip make way for it. */
  isAlone?: boolean
  /** What is to be said beside the assessment's findings, where the page asks for it itself; none while it is not known. */
  findings?: () => readonly Finding[] | null
}

export const STEPS: readonly StepInfo[] = [
  {
    name: 'storm',
    group: 'plan',
    title: 'Storm',
    purpose: 'what must be survived, and under which skies',
    page: PAGES.storm,
    figure: ({ outage }) => `${count(outage.duration_h)} h, ${calendarDay(outage.start, 0).split(' ')[2]}`,
  },
  {
    name: 'loads',
    group: 'plan',
    title: 'Loads',
    purpose: 'what must stay on, when, and what it costs in hours',
    page: PAGES.loads,
    figure: (_, assessment) => (assessment ? `${kilowattHours(assessment.loads.daily_wh)}/day` : '–'),
  },
  {
    name: 'bank',
    group: 'plan',
    title: 'Bank',
    purpose: 'what holds the energy, how deep it is used, and where it stands',
    page: PAGES.bank,
    figure: (_, assessment) => (assessment ? kilowattHours(assessment.bank.rated_wh) : '–'),
  },
  {
    name: 'inverter',
    group: 'plan',
    title: 'Inverter',
    purpose: 'what turns the bank into house current',
    page: PAGES.inverter,
    figure: ({ inverter }) => kilowatts(inverter.rated_w),
  },
  {
    name: 'charging',
    group: 'plan',
    title: 'Charging',
    purpose: 'everything that puts energy back',
    page: PAGES.charging,
    figure: (_, assessment) => (assessment ? `${tenths(assessment.charging.stc_w)} sun` : '–'),
  },
  {
    name: 'transfer',
    group: 'plan',
    title: 'Transfer',
    purpose: 'how the house is switched over, and what that carries',
    page: PAGES.transfer,
    figure: ({ transfer }, assessment) => {
      if (!assessment || !transfer?.arrangement) return 'open'
      const { loads } = assessment.transfer
      return `${loads.filter((load) => load.fate === 'carried').length} of ${loads.length}`
    },
  },
  {
    name: 'wiring',
    group: 'plan',
    title: 'Wiring',
    purpose: 'every run sized and protected, ready to buy and build',
    page: PAGES.wiring,
    figure: (_, assessment) => (assessment ? `${assessment.wiring.run_count} runs` : '–'),
  },
  {
    name: 'stages',
    group: 'plan',
    title: 'Stages',
    purpose: 'the design as it grows, and what to buy large now',
    page: PAGES.stages,
    figure: ({ growth }) => (growth?.length ? `${growth.length} ahead` : '–'),
  },
  {
    name: 'trials',
    group: 'prove',
    title: 'Trials',
    purpose: 'the outage from every hour of a weather year',
    page: PAGES.trials,
    figure: () => useTrials().told,
    findings: () => useTrials().findings,
  },
  {
    name: 'opinions',
    group: 'prove',
    title: 'Opinions',
    purpose: 'the rules of thumb beside each other, the storm as referee',
    page: PAGES.opinions,
    figure: () => useOpinions().told,
    findings: () => (useOpinions().report ? [] : null),
  },
  {
    name: 'side-by-side',
    group: 'prove',
    title: 'Side by side',
    purpose: 'alternatives of this design, and what each difference is worth',
    page: PAGES.sideBySide,
    figure: () => useAlternatives().told,
  },
  {
    name: 'build',
    group: 'keep',
    title: 'Build',
    purpose: 'commissioned gate by gate, in the order that harms nothing',
    page: PAGES.build,
    figure: () => useBuild().told,
    findings: () => (useBuild().sheet ? [] : null),
  },
  {
    name: 'logbook',
    group: 'keep',
    title: 'Logbook',
    purpose: 'what was read and done, and what it says of the plan',
    page: PAGES.logbook,
    figure: () => useLogbook().told,
    findings: () => (useLogbook().outlook ? [] : null),
  },
  {
    name: 'watch',
    group: 'keep',
    title: 'Watch',
    purpose: 'how long it lasts, and what to do next',
    page: PAGES.watch,
    isAlone: true,
    figure: () => useWatch().told,
    findings: () => (useWatch().view ? [] : null),
  },
  {
    name: 'drill',
    group: 'keep',
    title: 'Drill',
    purpose: 'a storm with surprises, lived beforehand',
    page: PAGES.drill,
    isAlone: true,
    figure: () => useDrill().told,
    findings: () => (useDrill().scores.length ? [] : null),
  },
  {
    name: 'papers',
    group: 'keep',
    title: 'Papers',
    purpose: 'what goes to the electrician, the shop, the wall, the family and the client',
    page: PAGES.papers,
    figure: () => usePapers().told,
    // What is printed on every page as a band.
    findings: () => useDesign().assessment?.findings.filter(({ severity }) => severity === 'stop') ?? null,
  },
]

/** What is said about a page; none while that has not been asked yet. */
export function findingsOn(step: StepInfo, assessment: Assessment | null): readonly Finding[] | null {
  const own = step.findings?.()
  if (own === null) return null
  const here = assessment?.findings.filter((finding) => finding.step === step.name) ?? []
  return [...here, ...(own ?? [])]
}
