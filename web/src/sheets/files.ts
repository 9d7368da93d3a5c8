/** Tables as files: opened as text or workbook, and saved as the server makes them. */
import type { Design, SheetSource } from '@/api/client'
import { fileWords, saveBlob } from '@/charts/saving'

const MOST_BYTES = 600_000

/** A file on its way in; refused with the reason where it is too large. */
export async function sourceOf(file: File): Promise<{ source: SheetSource } | { trouble: string }> {
  if (file.size > MOST_BYTES)
    return {
      trouble: `${file.name} holds ${file.size.toLocaleString('en-US')} bytes; at most 600,000 are read.`,
    }
  const bytes = new Uint8Array(await file.arrayBuffer())
  // Workbooks are zip archives, or compound files that will be refused with their reason; all else is text.
  const isWorkbook =
    /\.xls[xm]?$/i.test(file.name) || (bytes[0] === 0x50 && bytes[1] === 0x4b) || bytes[0] === 0xd0
  if (!isWorkbook) return { source: { text: new TextDecoder().decode(bytes) } }
  return {
    source: { workbook_base64: btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join('')) },
  }
}

/** Save what the server makes of a design as a file; the reason where it could not be made. */
export async function saveTable(design: Design, path: string, name: string): Promise<string> {
  try {
    const answer = await fetch(path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(design),
    })
    if (!answer.ok) throw new Error()
    saveBlob(`${fileWords(design.name)}-${name}`, await answer.blob())
    return ''
  } catch {
    return 'The file could not be made: Hearth Keep is not answering, or a field cannot be used.'
  }
}
