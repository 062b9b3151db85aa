import type OpenSeadragon from 'openseadragon'
import { FUSED, type Placement } from './placement'

/** A picture for the view: a tile pyramid of the server, or a plain image laid over. */
export interface Layer {
  key: string
  /** Address that builds the pyramid, and the folder its tiles are served from. */
  pyramid?: { prepare: string; tiles: string; width_px: number; height_px: number }
  image?: string
  /** Why there is nothing to show. */
  missing?: string
  placement: Placement
  /** Key of a layer that stays visible beneath. */
  over?: string
}

/** Adds a layer to the view, unseen as yet. Rejects with a sentence where there is nothing to show. */
export async function lay(
  viewer: OpenSeadragon.Viewer,
  library: typeof OpenSeadragon,
  { pyramid, image, missing, placement }: Layer,
): Promise<OpenSeadragon.TiledImage> {
  if (missing) throw new Error(missing)
  const first = viewer.world.getItemCount() === 0
  if (pyramid) {
    const prepared = await fetch(pyramid.prepare)
    if (!prepared.ok) throw new Error((await prepared.json()).error)
  }
  const tileSource = pyramid
    ? new library.TileSource({
        width: pyramid.width_px,
        height: pyramid.height_px,
        tileSize: 256,
        tileOverlap: 1,
        maxLevel: Math.ceil(Math.log2(Math.max(pyramid.width_px, pyramid.height_px))),
        getTileUrl: (level: number, x: number, y: number) => `${pyramid.tiles}/${level}/${x}_${y}.jpeg`,
      } as unknown as OpenSeadragon.TileSourceOptions)
    : { type: 'image', url: image }
  return new Promise((resolve, reject) => {
    viewer.addTiledImage({
      tileSource,
      x: placement.x,
      y: placement.y,
      width: placement.width,
      degrees: placement.degrees,
      opacity: 0,
      preload: true,
      success: (event) => {
        const { item } = event as unknown as { item: OpenSeadragon.TiledImage }
        if (first && placement === FUSED) viewer.viewport.goHome(true)
        resolve(item)
      },
      error: () => reject(new Error('This picture cannot be shown. Load the page again.')),
    })
  })
}
