/**
 * Reads a number as people write it in this work: `5.6`, `5,6`, `f/5.6`, `2:1`, `1:2`, `1/13`, `−2`, `∞`. A comma is a decimal one.
 * @returns NaN where the text is no number, or could mean two.
 */
export function parseNumber(text: string): number {
  const plain = text.trim().replace('−', '-')
  if (plain === '∞') return Infinity
  const parts = /^(?:f\s*\/?\s*)?(-?(?:\d+[.,]?\d*|[.,]\d+))(?:\s*[:/]\s*(\d+[.,]?\d*|[.,]\d+))?$/i.exec(plain)
  if (!parts) return NaN
  const [over, under] = parts.slice(1).map((part) => (part === undefined ? 1 : Number(part.replace(',', '.'))))
  return under === 0 ? NaN : over / under
}
