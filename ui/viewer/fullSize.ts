import type { Viewing } from './useViewer'

/**
 * Goes to 100 %, a place of the picture in the middle where one is given, in its px: each of its pixels falls on one of the screen, so that
 * nothing is resampled on the way to the eye.
 */
export function goToFullSize({ viewer, library }: Viewing, width_px: number, middle?: { x: number; y: number }): void {
  const { viewport } = viewer
  const size = viewport.getContainerSize()
  const centre = middle ? { x: middle.x / width_px, y: middle.y / width_px } : viewport.getCenter(false)
  viewport.zoomTo(width_px / size.x)
  // The picture's corner lies at whole pixels where the middle of the view lies so many from it.
  const whole = (at: number, length: number) => (Math.round(at * width_px - length / 2) + length / 2) / width_px
  viewport.panTo(new library.Point(whole(centre.x, size.x), whole(centre.y, size.y)))
}
