<script setup lang="ts">
/** The power path in one position: closed contacts joined, open ones lifted, and on each node what it lives on, in words. */
import { storeToRefs } from 'pinia'
import { computed, ref, useTemplateRef, watch } from 'vue'

import type { PowerPath } from '@/api/client'
import { useDesign } from '@/design/store'
import PictureFiles from '@/charts/PictureFiles.vue'

const props = defineProps<{ path: PowerPath; small?: boolean }>()
const shown = ref(0)
watch(
  () => props.path,
  (path) => (shown.value = Math.min(shown.value, path.positions.length - 1)),
)
const position = computed(() => props.path.positions[shown.value] ?? props.path.positions[0])
const HALF_WIDTH = 12.5
const HALF_HEIGHT = 6
const nodes = computed(() => new Map(props.path.nodes.map((node) => [node.key, node])))
const box = computed(() => {
  const heights = props.path.nodes.map((node) => node.y)
  const top = Math.min(...heights) - 9
  return { top, height: Math.max(...heights) + 9 - top }
})
const live = (key: string) => position.value?.live[key] ?? ''
const { isOffGrid } = storeToRefs(useDesign())
/** A supply by name; without a grid nothing is a backup. */
const named = (supply: string) => (isOffGrid.value && supply === 'backup' ? 'inverter' : supply)

interface Drawn {
  key: string
  start: string
  end: string
  label: string
  kind: string
  isClosed: boolean
  by: string
  /** The two ends and the switch between them. */
  lines: string
  lever: string
  text: { x: number; y: number; anchor: string }
}

/** From edge to edge of its nodes: straight where they are in line, else with one bend above or below the end. */
const contacts = computed<Drawn[]>(() =>
  props.path.contacts.flatMap((contact) => {
    const start = nodes.value.get(contact.start)
    const end = nodes.value.get(contact.end)
    if (!start || !end) return []
    const isFixed = contact.kind === 'fixed'
    const isClosed = isFixed || (position.value?.closed.includes(contact.key) ?? false)
    const right = end.x >= start.x ? 1 : -1
    const down = end.y >= start.y ? 1 : -1
    const isUpright = start.x === end.x
    const isBent = !isUpright && start.y !== end.y
    const from = isUpright
      ? { x: start.x, y: start.y + down * HALF_HEIGHT }
      : { x: start.x + right * HALF_WIDTH, y: start.y }
    const to =
      isUpright || isBent
        ? { x: end.x, y: end.y - down * HALF_HEIGHT }
        : { x: end.x - right * HALF_WIDTH, y: end.y }
    // The switch stands in the first straight stretch.
    const until = isBent ? { x: end.x, y: start.y } : to
    const middle = { x: (from.x + until.x) / 2, y: (from.y + until.y) / 2 }
    const gap = 3
    const near = isUpright
      ? { x: middle.x, y: middle.y - down * gap }
      : { x: middle.x - right * gap, y: middle.y }
    const far = isUpright
      ? { x: middle.x, y: middle.y + down * gap }
      : { x: middle.x + right * gap, y: middle.y }
    const at = (point: { x: number; y: number }) => `${point.x} ${point.y}`
    const rest = isBent ? `L${at(until)} L${at(to)}` : `L${at(to)}`
    const lifted = isUpright
      ? { x: far.x + 3.4, y: far.y - down * 0.6 }
      : { x: far.x - right * 0.6, y: far.y - 3.4 }
    const by = isClosed ? live(contact.start) || live(contact.end) : ''
    return [
      {
        key: contact.key,
        start: contact.start,
        end: contact.end,
        label: contact.label,
        kind: contact.kind,
        isClosed,
        by: contact.kind === 'charger' ? live(contact.start) : by,
        lines: isFixed ? `M${at(from)} ${rest}` : `M${at(from)} L${at(near)} M${at(far)} ${rest}`,
        lever: isFixed ? '' : `M${at(near)} L${at(isClosed ? far : lifted)}`,
        text: isUpright
          ? middle.x > 70
            ? { x: middle.x - 3, y: middle.y + 1.1, anchor: 'end' }
            : { x: middle.x + 5, y: middle.y + 1.1, anchor: 'start' }
          : { x: middle.x, y: middle.y + 5.2, anchor: 'middle' },
      },
    ]
  }),
)
/** A unit that feeds nothing in this position stands by. */
const standsBy = (key: string) =>
  ((key === 'source' && live(key) === 'backup') || key === 'generator') &&
  !contacts.value.some(
    (contact) =>
      contact.isClosed && contact.kind !== 'charger' && (contact.start === key || contact.end === key),
  )
const told = computed(() => {
  const closed = contacts.value.filter((contact) => contact.isClosed && contact.label)
  const names = closed.map((contact) => contact.label).join(', ')
  const alive = props.path.nodes
    .filter((node) => live(node.key) && !['grid', 'source', 'generator'].includes(node.key))
    .map((node) => `${node.label} on ${named(live(node.key))}`)
  const dead = props.path.nodes.filter((node) => !live(node.key)).map((node) => node.label)
  return [
    `Closed: ${names || 'nothing'}.`,
    alive.length ? `Live: ${alive.join(', ')}.` : '',
    dead.length ? `Dead: ${dead.join(', ')}.` : '',
  ]
    .filter(Boolean)
    .join(' ')
})

function onKey(event: KeyboardEvent): void {
  const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  if (!by) return
  const count = props.path.positions.length
  shown.value = (shown.value + by + count) % count
  const tabs = (event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('[role="tab"]')
  tabs[shown.value]?.focus()
  event.preventDefault()
}
const picture = useTemplateRef<SVGSVGElement>('picture')
</script>

<template>
  <figure class="path" data-test="path">
    <div class="positions" role="tablist" aria-label="Position" @keydown="onKey">
      <button
        v-for="(entry, index) in path.positions"
        :key="entry.name"
        type="button"
        role="tab"
        :aria-selected="index === shown"
        :tabindex="index === shown ? 0 : -1"
        :data-test="`position-${entry.name}`"
        @click="shown = index"
      >
        {{ named(entry.name) }}
      </button>
    </div>
    <svg ref="picture" :viewBox="`-2 ${box.top} 104 ${box.height}`" role="img" :aria-label="told">
      <g
        v-for="contact in contacts"
        :key="contact.key"
        class="contact"
        :class="[contact.by, { open: !contact.isClosed }]"
      >
        <path :d="contact.lines" :class="{ oneway: contact.kind === 'charger' }" />
        <path v-if="contact.lever" :d="contact.lever" class="lever" />
        <text :x="contact.text.x" :y="contact.text.y" :text-anchor="contact.text.anchor">
          {{ contact.label }}
        </text>
      </g>
      <g
        v-for="node in path.nodes"
        :key="node.key"
        class="node"
        :class="standsBy(node.key) ? '' : live(node.key)"
      >
        <rect
          :x="node.x - HALF_WIDTH"
          :y="node.y - HALF_HEIGHT"
          :width="2 * HALF_WIDTH"
          :height="2 * HALF_HEIGHT"
        />
        <text :x="node.x" :y="node.y - 0.8" text-anchor="middle" class="name">{{ node.label }}</text>
        <text :x="node.x" :y="node.y + 3.2" text-anchor="middle" class="state">
          {{ standsBy(node.key) ? 'stands by' : live(node.key) ? `live: ${named(live(node.key))}` : 'dead' }}
        </text>
      </g>
    </svg>
    <figcaption role="status">{{ told }}</figcaption>
    <p class="files"><PictureFiles label="Power path" :picture="() => picture" /></p>
  </figure>
</template>

<style scoped>
.path {
  margin: 0;
}

.positions {
  display: flex;
  gap: 14px;
  margin-bottom: 2px;
}

.positions button {
  text-transform: capitalize;
  font-weight: 600;
  color: var(--slate);
  padding: 2px 1px 3px;
  border-bottom: 3px solid transparent;
}

.positions button[aria-selected='true'] {
  color: var(--ink);
  border-bottom-color: var(--ember);
}

svg {
  display: block;
  width: 100%;
  max-height: 300px;
}

.contact path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.7;
}

.contact.open path {
  stroke: var(--slate);
  stroke-width: 0.4;
}

.contact.backup path {
  stroke: var(--ember);
  stroke-width: 1;
}

.contact .lever {
  stroke-width: 1.1;
}

.contact .oneway {
  stroke-dasharray: 1.4 1;
}

.contact text {
  font-size: 2.9px;
  fill: var(--slate);
}

.node rect {
  fill: var(--sheet);
  stroke: var(--slate);
  stroke-width: 0.35;
  stroke-dasharray: 1 0.8;
}

.node.grid rect,
.node.generator rect {
  stroke: var(--ink);
  stroke-width: 0.6;
  stroke-dasharray: none;
}

.node.backup rect {
  stroke: var(--ember);
  stroke-width: 0.9;
  stroke-dasharray: none;
}

.node text {
  fill: var(--ink);
}

.node .name {
  font-size: 2.85px;
  font-weight: 700;
}

.node .state {
  font-size: 2.7px;
  fill: var(--slate);
}

.node.backup .state {
  fill: var(--ember-ink);
}

figcaption {
  font-size: 13px;
  color: var(--slate);
}
</style>
