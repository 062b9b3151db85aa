/** The sRGB curve (IEC 61966-2-1): the encoded value of light, both 0 … 1. */
export function encoded(light: number): number {
  return light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055
}

/** The light that an encoded value stands for, both 0 … 1. */
export function decoded(value: number): number {
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
}
