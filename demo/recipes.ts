import { AS_IT_IS, type Recipe } from '@/core/finish'

/** Recipes that the studio delivers by, each kept for one of its pictures: on others their places and scale bars are theirs. */
export const DEMO_RECIPES: { name: string; recipe: Recipe }[] = [
  {
    name: 'Catalogue, 12 cm',
    recipe: {
      ...AS_IT_IS,
      for: { width: 1200, height: 800, pixel_mm: 0.03 },
      steps: [
        { do: 'light', stops: 0.2 },
        { do: 'depthGradient', from: 1, to: 0.55, stops: -0.6 },
        { do: 'size', width_mm: 120, perInch: 250 },
        { do: 'sharpen', radius_px: 0.8, amount: 0.5, threshold: 0.005 },
        { do: 'scaleBar', pixel_mm: 0.03, length_mm: 5 },
        { do: 'caption', text: '{title}\n{magnification}, {depth}, {frames}', tone: 'light' },
      ],
    },
  },
  {
    name: 'Web',
    recipe: {
      ...AS_IT_IS,
      for: { width: 1200, height: 800 },
      profile: 'srgb',
      bits: 8,
      quality: 85,
      steps: [
        { do: 'size', long_px: 900 },
        { do: 'sharpen', radius_px: 0.6, amount: 0.6, threshold: 0.005 },
      ],
    },
  },
]
