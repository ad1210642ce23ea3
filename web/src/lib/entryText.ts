/** A number where the text is one (a decimal comma counts), else the text, for the core to refuse. */
export function readEntry(text: string): number | string {
  const plain = text
    .trim()
    .replace('−', '-')
    .replace(/(\d),(?=\d{3}(\D|$))/g, '$1')
  const number = Number(plain.replace(',', '.'))
  return plain !== '' && Number.isFinite(number) ? number : text
}
