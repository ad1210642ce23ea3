import { formatNumber } from './format'

const SLACK = 0.001

/** Where a value sits against its window, in a mark and words: `↓ 1.0 °F under`. */
export function placeInWords(
  value: number,
  window: { low: number; high: number },
  unit: string,
  decimals: number,
  inside: string,
): string {
  const { low, high } = window
  if (value < low - SLACK) return `↓ ${formatNumber(low - value, decimals)} ${unit} under`
  if (value > high + SLACK) return `↑ ${formatNumber(value - high, decimals)} ${unit} over`
  return `✓ ${inside}`
}
