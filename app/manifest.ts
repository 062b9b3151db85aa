import type { MetadataRoute } from 'next'

/** What a phone needs to put the application among its own. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: 'Nitidus',
    short_name: 'Nitidus',
    description: 'Plan, shoot, check, fuse and deliver focus series.',
    start_url: '/',
    display: 'standalone',
    background_color: '#f7f6f3',
    theme_color: '#f7f6f3',
    icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
  }
}
