import type OpenSeadragon from 'openseadragon'

/** What a hand does to a view. Entering it alone is not enough: keys and fingers move a view that no pointer ever entered. */
const TOUCHED = ['canvas-enter', 'canvas-press', 'canvas-scroll', 'canvas-pinch', 'canvas-key', 'canvas-key-press'] as const

/** Views of one size that show the same place at the same zoom: the one last touched leads, the others follow. */
export class ViewLink {
  private readonly viewers = new Set<OpenSeadragon.Viewer>()
  private leader?: OpenSeadragon.Viewer

  /** Takes a view in; answers the way out. */
  join(viewer: OpenSeadragon.Viewer): () => void {
    this.viewers.add(viewer)
    this.leader ??= viewer
    const lead = () => this.lead(viewer)
    const tell = () => {
      // One that follows comes back when it moves by itself: laid out anew it fits what it shows to its new size.
      if (this.leader !== viewer) return this.follow(viewer)
      for (const other of this.viewers) if (other !== viewer) this.follow(other)
    }
    for (const touched of TOUCHED) viewer.addHandler(touched, lead)
    viewer.addHandler('viewport-change', tell)
    return () => {
      this.viewers.delete(viewer)
      if (this.leader === viewer) this.leader = [...this.viewers][0]
    }
  }

  lead(viewer: OpenSeadragon.Viewer): void {
    this.leader = viewer
  }

  /** Goes to where the leading view is. */
  follow(viewer: OpenSeadragon.Viewer): void {
    if (this.leader && this.leader !== viewer) viewer.viewport.fitBounds(this.leader.viewport.getBounds(true), true)
  }
}
