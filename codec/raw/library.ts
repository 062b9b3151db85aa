import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { LibRawSettings } from 'libraw-wasm'

/** What the library tells of a file, of all that it knows. */
export interface RawMetadata {
  width: number
  height: number
  /** Turned to the left or right where the bit of 4 is set. */
  flip: number
  colors: number
  camera_model: string
  lens?: { Lens: string }
  shutter: number
  aperture: number
  focal_len: number
  iso_speed: number
  /** Seconds, by this machine's clock. */
  timestamp: number
  color_data: { cam_mul: number[]; rgb_cam: number[][] }
}

/** One file opened by the library; what it holds is freed by `delete`. */
export interface RawFile {
  open(bytes: Uint8Array, settings: LibRawSettings): void
  metadata(full: boolean): RawMetadata
  imageData(): { width: number; height: number; data: Uint8Array | Uint16Array }
  thumbnailData(): { data: Uint8Array; width: number; height: number; format: string } | undefined
  delete(): void
}

interface Library {
  LibRaw: new () => RawFile
}

let library: Promise<Library> | undefined

/** The raw library, compiled once for each thread. Its own entry is made for browsers: the module beneath it serves here as well. */
export function rawLibrary(): Promise<Library> {
  library ??= (async () => {
    const { default: start } = (await import('libraw-wasm/dist/libraw.js' as string)) as { default: (how: object) => Promise<Library> }
    const binary = fileURLToPath(import.meta.resolve('libraw-wasm/dist/libraw.wasm'))
    // What it has to say of damaged files is said in our words.
    return start({ wasmBinary: readFileSync(binary), printErr: () => undefined })
  })()
  return library
}

/** After a file that it could not read nobody knows what it still holds. */
export function forgetLibrary(): void {
  library = undefined
}
