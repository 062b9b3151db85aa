/** The canvas that a proof is laid on, at once as it comes; one that comes before there is a canvas waits. */
export class Sheet {
  private canvas: HTMLCanvasElement | null = null
  private waiting?: ImageData

  /** The canvas to lay on from now on. */
  readonly use = (canvas: HTMLCanvasElement | null): void => {
    this.canvas = canvas
    if (canvas && this.waiting) this.lay(this.waiting)
  }

  lay(image: ImageData): void {
    this.waiting = this.canvas ? undefined : image
    if (!this.canvas) return
    const { width, height } = image
    // Setting a size clears the canvas and takes its memory anew, also where it is the same.
    if (this.canvas.width !== width || this.canvas.height !== height) Object.assign(this.canvas, { width, height })
    this.canvas.getContext('2d')!.putImageData(image, 0, 0)
  }
}
