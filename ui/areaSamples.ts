/** A part of a picture that the application hands over without loss, as interleaved RGB of 8 bits. Meant for workers. */
export async function areaSamples(url: string): Promise<Uint8Array> {
  const response = await fetch(url)
  if (!response.ok) throw new Error(((await response.json()) as { error: string }).error)
  const bitmap = await createImageBitmap(await response.blob(), { colorSpaceConversion: 'none' })
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!
  context.drawImage(bitmap, 0, 0)
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height)
  const samples = new Uint8Array((data.length / 4) * 3)
  for (let i = 0, s = 0; i < data.length; i += 4, s += 3) samples.set(data.subarray(i, i + 3), s)
  return samples
}
