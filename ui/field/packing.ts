import { joinedParts, partsOf, type CarriedLog } from '@/core/field'

/** A log as codes to be photographed, packed so that a day's work takes a few. */
export async function packed(log: CarriedLog): Promise<string[]> {
  const bytes = await through(new TextEncoder().encode(JSON.stringify(log)), new CompressionStream('deflate-raw'))
  const name = Array.from(crypto.getRandomValues(new Uint8Array(4)), (byte) => byte.toString(16).padStart(2, '0')).join('')
  return partsOf(btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join('')), name)
}

/** The text of a log from the codes that were read. @throws Refusal where they do not make one. */
export async function unpacked(codes: string[]): Promise<string> {
  const bytes = Uint8Array.from(atob(joinedParts(codes)), (letter) => letter.charCodeAt(0))
  return new TextDecoder().decode(await through(bytes, new DecompressionStream('deflate-raw')))
}

async function through(bytes: Uint8Array<ArrayBuffer>, stream: CompressionStream | DecompressionStream): Promise<Uint8Array> {
  return new Uint8Array(await new Response(new Blob([bytes]).stream().pipeThrough(stream)).arrayBuffer())
}
