import type { Grey } from '@/core/finish'

/** A render, or a map `of` it, at most so wide, as bare samples of 16 bits; undefined where there is none. */
export async function proofSamples(renderId: number, of: 'picture' | 'depth' | 'confidence', width: number): Promise<Grey | undefined> {
  const response = await fetch(`/api/renders/${renderId}/proof?of=${of}&width=${width}`)
  if (!response.ok) return undefined
  const number = (name: string) => Number(response.headers.get(name))
  return { width: number('x-width'), height: number('x-height'), data: new Uint16Array(await response.arrayBuffer()) }
}
