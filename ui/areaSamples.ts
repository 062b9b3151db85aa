/** A part of a picture as the application hands it over to compute with: interleaved RGB of 8 or 16 bits. Meant for workers. */
export async function areaSamples(url: string): Promise<Uint8Array | Uint16Array> {
  const response = await fetch(`${url}&as=samples`)
  if (!response.ok) throw new Error(((await response.json()) as { error: string }).error)
  const bytes = await response.arrayBuffer()
  return response.headers.get('x-sample-bits') === '16' ? new Uint16Array(bytes) : new Uint8Array(bytes)
}
