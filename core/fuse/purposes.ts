/**
 * What each style is for, the usual one first. Apart from the styles themselves, so that a screen that only names them does not
 * load the engine. A new style is a folder beside this file, a line here and one in `index.ts`.
 */
export const STYLE_PURPOSES = {
  auto: 'Fine detail where there is some, even surfaces elsewhere; the usual choice.',
  lace: 'Keeps the finest crossing detail: hair, bristles, lattices.',
  terrain: 'One depth at each place: smooth surfaces without crossing parts.',
  mellow: 'Soft transitions and the least noise: smooth tones, little light.',
} as const

export type StyleName = keyof typeof STYLE_PURPOSES
export const STYLE_NAMES = Object.keys(STYLE_PURPOSES) as StyleName[]
export const USUAL_STYLE: StyleName = 'auto'
