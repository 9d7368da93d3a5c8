<script setup lang="ts">
/** A picture as SVG or PNG, as it stands on the page. */
import { storeToRefs } from 'pinia'

import { useDesign } from '@/design/store'

import { fileWords, pngOf, saveBlob, saveFile, svgText } from './saving'

const props = defineProps<{
  /** What the picture shows; the files are named after it. */
  label: string
  picture: () => SVGSVGElement | null | undefined
}>()
const { document: design } = storeToRefs(useDesign())
const name = () => [design.value?.name ?? '', props.label].map(fileWords).filter(Boolean).join('-')
const title = () => [props.label, design.value?.name].filter(Boolean).join(', ')
const groundOf = (picture: SVGSVGElement) => getComputedStyle(picture).getPropertyValue('--paper')

function saveSvg(): void {
  const picture = props.picture()
  if (picture) saveFile(`${name()}.svg`, svgText(picture, title(), groundOf(picture)), 'image/svg+xml')
}

async function savePng(): Promise<void> {
  const picture = props.picture()
  const drawn = picture && (await pngOf(picture, title(), groundOf(picture)))
  if (drawn) saveBlob(`${name()}.png`, drawn)
}
</script>

<template>
  <button type="button" data-test="picture-svg" :aria-label="`Save SVG of ${label}`" @click="saveSvg">
    Save SVG
  </button>
  <button type="button" data-test="picture-png" :aria-label="`Save PNG of ${label}`" @click="savePng">
    Save PNG
  </button>
</template>

<style scoped>
button {
  font-size: 13px;
  font-weight: 600;
  color: var(--pine);
}

button:hover {
  text-decoration: underline;
}
</style>
