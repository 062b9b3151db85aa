import { Document, NodeIO } from '@gltf-transform/core'
import sharp from 'sharp'
import { readForScreen, readGrey, solidFile, writeWhole, type ScreenPicture, type SolidEnding } from '@/codec'
import { meshOf, pixelAt, reliefRise, surfaceOf, triangleIndices, type Mesh } from '@/core/relief'
import { refusal } from '@/core/words'
import type { TakeJob } from '@/schemas'
import type { Taker } from './taker'

/** The picture that is laid over a relief is so wide at the most. */
const PICTURE_px = 2048

interface Relief {
  mesh: Mesh
  picture: ScreenPicture
  /** What a unit of its sides is, in m; undefined where that is not known. */
  unit_m?: number
  /** What the numbers mean. */
  comment: string
}

/** The relief as a file that other programs turn, print or measure; in mm where that is known, else in pixels. */
export const takeRelief: Taker = async (job) => {
  const ending = job.out.split('.').at(-1)!.toLowerCase()
  const relief = await reliefOf(job)
  await writeWhole(job.out, ending === 'glb' ? await glbOf(relief) : await solidFile(ending as SolidEnding, relief.mesh, relief.comment))
}

/** @throws Refusal where no depth is known. */
async function reliefOf({ picture, depth, confidence, surface: facts }: TakeJob): Promise<Relief> {
  if (depth === undefined || !facts) throw refusal('take.noDepth')
  const small = await readForScreen(picture, PICTURE_px)
  const map = await readGrey(depth, small.width)
  const surface = surfaceOf(map, confidence === undefined ? undefined : await readGrey(confidence, small.width), facts, facts.width_px)
  const { pixelSize, unit, times } = surface
  const true_mm = unit === 'mm' && pixelSize !== undefined
  const mesh = meshOf(
    { ...map, data: surface.depth, times: small.width / map.width },
    small,
    { x: 0, y: 0, ...small },
    {
      rise: true_mm ? 1 : reliefRise(surface),
      pixel: (deep) => times * (true_mm ? pixelAt(pixelSize, deep) : 1),
    },
  )
  return {
    mesh,
    picture: small,
    unit_m: true_mm ? 1e-3 : undefined,
    comment: `Nitidus relief, ${true_mm ? 'x, y and z in mm' : 'x and y in pixels, z not to scale'}`,
  }
}

/** Where the size is not known, a relief is shown so many m wide: what viewers have in view at first. */
const SHOWN_m = 0.2

/** With the picture as its texture. Source: glTF 2.0 (lengths in m, texture places from the top left). */
async function glbOf({ mesh, picture, unit_m, comment }: Relief): Promise<Uint8Array> {
  const { columns, rows, places } = mesh
  const document = new Document()
  document.getRoot().getAsset().generator = 'Nitidus'
  const times = unit_m ?? SHOWN_m / Math.max(picture.width, picture.height)
  const shown = Uint8Array.from(
    await sharp(picture.samples, { raw: { width: picture.width, height: picture.height, channels: 3 } })
      .jpeg({ quality: 92 })
      .toBuffer(),
  )
  const texture = document.createTexture('picture').setImage(shown).setMimeType('image/jpeg')
  const material = document.createMaterial('picture').setBaseColorTexture(texture).setRoughnessFactor(1).setMetallicFactor(0).setDoubleSided(true)
  const buffer = document.createBuffer()
  const step = Math.max(1, Math.ceil(Math.max(picture.width, picture.height) / Math.max(columns, rows)))
  const on = Float32Array.from({ length: 2 * columns * rows }, (_, k) => {
    const vertex = k >> 1
    return k & 1 ? (Math.floor(vertex / columns) * step + 0.5) / picture.height : ((vertex % columns) * step + 0.5) / picture.width
  })
  const primitive = document
    .createPrimitive()
    .setMaterial(material)
    .setIndices(document.createAccessor().setType('SCALAR').setArray(triangleIndices(mesh)).setBuffer(buffer))
    .setAttribute(
      'POSITION',
      document
        .createAccessor()
        .setType('VEC3')
        .setArray(places.map((value) => value * times))
        .setBuffer(buffer),
    )
    .setAttribute('TEXCOORD_0', document.createAccessor().setType('VEC2').setArray(on).setBuffer(buffer))
  const node = document.createNode('relief').setMesh(document.createMesh('relief').addPrimitive(primitive)).setExtras({ comment })
  document.createScene('relief').addChild(node)
  return new NodeIO().writeBinary(document)
}
