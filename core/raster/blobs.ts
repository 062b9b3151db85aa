/** Places that hang together. */
export interface Blob {
  /** Their middle. */
  x: number
  y: number
  area: number
  /** Of a disc of that area, or half its longest side where it is longer than that. */
  radius_px: number
  left: number
  top: number
  right: number
  bottom: number
}

/** The marked places of a plane that touch one another, diagonally too. */
export function blobsOf(marked: Uint8Array, width: number, height: number): Blob[] {
  const left = marked.slice()
  const blobs: Blob[] = []
  for (let start = 0; start < left.length; start++) if (left[start]) blobs.push(blobFrom(left, width, height, start))
  return blobs
}

/** Takes the blob that a place belongs to out of `left`. */
function blobFrom(left: Uint8Array, width: number, height: number, start: number): Blob {
  const stack = [start]
  left[start] = 0
  let [sumX, sumY, area] = [0, 0, 0]
  const box = { left: width, top: height, right: 0, bottom: 0 }
  while (stack.length > 0) {
    const at = stack.pop()!
    const [x, y] = [at % width, Math.floor(at / width)]
    sumX += x
    sumY += y
    area++
    box.left = Math.min(box.left, x)
    box.right = Math.max(box.right, x)
    box.top = Math.min(box.top, y)
    box.bottom = Math.max(box.bottom, y)
    for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
      for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        const near = v * width + u
        if (!left[near]) continue
        left[near] = 0
        stack.push(near)
      }
  }
  const longest = Math.max(box.right - box.left, box.bottom - box.top) + 1
  return { x: sumX / area, y: sumY / area, area, radius_px: Math.max(Math.sqrt(area / Math.PI), longest / 2), ...box }
}
