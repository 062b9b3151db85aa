import type OpenSeadragon from 'openseadragon'

/** Views of one size that show the same place at the same zoom: the one under the pointer leads, the others follow. */
export class ViewLink {
  private readonly viewers = new Set<OpenSeadragon.Viewer>()
  private leader?: OpenSeadragon.Viewer

  /** Takes a view in; answers the way out. */
  join(viewer: OpenSeadragon.Viewer): () => void {
    this.viewers.add(viewer)
    this.leader ??= viewer
    const lead = () => this.lead(viewer)
    const tell = () => {
      if (this.leader !== viewer) return
      for (const other of this.viewers) if (other !== viewer) this.follow(other)
    }
    viewer.addHandler('canvas-enter', lead)
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
