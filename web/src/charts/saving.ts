/** A picture and its numbers as files: SVG as it stands on the screen, CSV as its table says it. */

/** What a picture takes from the page's styles, written into the file so that it looks the same elsewhere. */
const STYLES = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
] as const

/** The text of an SVG file of a picture on the page, on its page's own ground. */
export function svgText(picture: SVGSVGElement, title: string, ground: string): string {
  const copy = picture.cloneNode(true) as SVGSVGElement
  const here = [...picture.querySelectorAll<SVGElement>('*')]
  for (const [at, part] of [...copy.querySelectorAll<SVGElement>('*')].entries()) {
    const original = here[at]
    if (!original) continue
    const seen = getComputedStyle(original)
    for (const name of STYLES) part.style.setProperty(name, seen.getPropertyValue(name))
    part.removeAttribute('class')
  }
  // What only answers the pointer has no place on paper.
  for (const part of [...copy.querySelectorAll('[data-cursor]')]) part.remove()
  const { width, height } = picture.getBoundingClientRect()
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(Math.round(width)))
  copy.setAttribute('height', String(Math.round(height)))
  copy.removeAttribute('aria-hidden')
  const name = document.createElementNS('http://www.w3.org/2000/svg', 'title')
  name.textContent = title
  const paper = document.createElementNS('http://www.w3.org/2000/svg', 'rect')
  for (const [key, value] of Object.entries({ width: '100%', height: '100%', fill: ground }))
    paper.setAttribute(key, value)
  copy.prepend(name, paper)
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(copy)}\n`
}

/** How much finer than the screen a picture is saved as PNG. */
const FINER = 2

/** A picture on the page as a PNG, twice as fine as the screen shows it; none where the browser cannot draw it. */
export async function pngOf(picture: SVGSVGElement, title: string, ground: string): Promise<Blob | null> {
  const { width, height } = picture.getBoundingClientRect()
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgText(picture, title, ground))}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(width * FINER)
  canvas.height = Math.round(height * FINER)
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((resolve) => canvas.toBlob(resolve, 'image/png'))
}

/** Rows as CSV by RFC 4180; words that a spreadsheet would take for a formula are kept words. */
export function csvText(rows: readonly (readonly (string | number)[])[]): string {
  const cell = (value: string | number): string => {
    if (typeof value === 'number') return String(value)
    const text = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value
    return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
  }
  return rows.map((row) => `${row.map(cell).join(',')}\r\n`).join('')
}

/** Give a text to the browser as a file. */
export function saveFile(name: string, text: string, type: string): void {
  saveBlob(name, new Blob([text], { type: `${type};charset=utf-8` }))
}

/** Give bytes to the browser as a file. */
export function saveBlob(name: string, content: Blob): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(content)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}

/** A part of a file's name out of words: letters and digits, joined by hyphens. */
export function fileWords(words: string): string {
  return words
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60)
}
