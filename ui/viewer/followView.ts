import type { Viewer } from 'openseadragon'

/** Draws now, and again whenever the view moves or changes its size; answers what ends that. */
export function followView(viewer: Viewer, draw: () => void): () => void {
  draw()
  viewer.addHandler('update-viewport', draw)
  viewer.addHandler('resize', draw)
  return () => {
    viewer.removeHandler('update-viewport', draw)
    viewer.removeHandler('resize', draw)
  }
}
