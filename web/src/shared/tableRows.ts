/** The rows of a table on the page as they are read there: text and numbers, what stands in fields among them. */

/** 1,234.5 or −20, whatever stands around them. */
const NUMBER = /^[-−+±]?\d{1,3}(,\d{3})*(\.\d+)?$|^[-−+]?\d+(\.\d+)?$/

/** A cell's words: a number as a number, so that it can be worked with. */
export function cellOf(text: string): string | number {
  const words = text
    .replace(/[\u00a0\u202f]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
  return NUMBER.test(words) && !/^[+±]/.test(words)
    ? Number(words.replaceAll(',', '').replace('−', '-'))
    : words
}

function textOf(cell: HTMLElement): string {
  const field = cell.querySelector<HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement>(
    'input, textarea, select',
  )
  if (!field) return cell.innerText
  if (field instanceof HTMLInputElement && field.type === 'checkbox') return field.checked ? 'yes' : 'no'
  if (field instanceof HTMLSelectElement) return field.selectedOptions[0]?.text ?? ''
  // A list of choices shows what is chosen beside an empty field.
  return field.value || cell.querySelector<HTMLElement>('.v-select__selection')?.innerText || ''
}

export function shownRows(table: HTMLTableElement): (string | number)[][] {
  return [...table.rows]
    .map((row) =>
      [...row.cells].flatMap((cell) => [
        cellOf(textOf(cell)),
        // A cell across several columns keeps those after it in their place.
        ...Array.from({ length: cell.colSpan - 1 }, () => ''),
      ]),
    )
    .filter((row) => row.some((cell) => cell !== ''))
}
