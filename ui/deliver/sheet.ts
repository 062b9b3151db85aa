/** The canvas that a proof is laid on, at once as it comes; one that comes before there is a canvas waits. */
export class Sheet {
  private canvas: HTMLCanvasElement | null = null
  private waiting?: ImageBitmap

  /** The canvas to lay on from now on. */
  readonly use = (canvas: HTMLCanvasElement | null): void => {
    this.canvas = canvas
    if (canvas && this.waiting) this.lay(this.waiting)
  }

  /** Shows a picture and lets go of it: a drag makes twenty a second, and their memory would be given back late. */
  lay(bitmap: ImageBitmap): void {
    if (this.waiting !== bitmap) this.waiting?.close()
    this.waiting = this.canvas ? undefined : bitmap
    if (!this.canvas) return
    const { width, height } = bitmap
    // Setting a size clears the canvas and takes its memory anew, also where it is the same.
    if (this.canvas.width !== width || this.canvas.height !== height) Object.assign(this.canvas, { width, height })
    this.canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
    bitmap.close()
  }
}
