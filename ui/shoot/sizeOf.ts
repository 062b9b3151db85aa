import { imageSize } from 'image-size'

/** The size of a picture lies within this much of its beginning, beside whatever thumbnail a camera puts before it. */
const HEAD_bytes = 1 << 20

/** Width and height of a picture file without decoding it; null where its beginning does not say. */
export async function sizeOf(file: Blob): Promise<{ width: number; height: number } | null> {
  try {
    const { width, height, orientation = 1 } = imageSize(new Uint8Array(await file.slice(0, HEAD_bytes).arrayBuffer()))
    // Turned by a quarter, as the server counts it, too.
    return orientation >= 5 ? { width: height, height: width } : { width, height }
  } catch {
    return null
  }
}
