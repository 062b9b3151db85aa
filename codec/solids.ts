import { triangleIndices, type Mesh } from '@/core/relief'

/** Kinds of files that hold a relief as triangles without a picture of its own. */
export type SolidEnding = 'ply' | 'obj' | 'stl'

/** Loaded when a relief is written: it is large, and most commands write none. */
const load = async () => ({
  ...(await import('three')),
  ...(await import('three/examples/jsm/exporters/OBJExporter.js')),
  ...(await import('three/examples/jsm/exporters/PLYExporter.js')),
  ...(await import('three/examples/jsm/exporters/STLExporter.js')),
})

type Three = Awaited<ReturnType<typeof load>>

/** How each is written of a solid; `comment` says what the numbers mean, where the format has room for that. */
const WRITERS: Record<SolidEnding, (three: Three, solid: InstanceType<Three['Mesh']>, comment: string) => string | Uint8Array> = {
  // The second line of a PLY file tells its form; comments come after it. Colours of three bytes are properties of our own to the
  // exporter, which would write parts of 1; a call back would need a browser's frames.
  ply: ({ PLYExporter }, solid, comment) =>
    new PLYExporter()
      .parse(
        solid,
        undefined as never,
        { excludeAttributes: ['normal', 'uv', 'color'], customPropertyMapping: { bytes: ['red', 'green', 'blue'] } } as object,
      )!
      .replace(/^(ply\r?\nformat [^\n]*\n)/, `$1comment ${comment}\n`),
  obj: ({ OBJExporter }, solid, comment) => `# ${comment}\n${new OBJExporter().parse(solid)}`,
  stl: ({ STLExporter }, solid) => new Uint8Array(new STLExporter().parse(solid, { binary: true }).buffer),
}

/**
 * A relief as a file of triangles: PLY and OBJ as text, with the colours of the picture at each vertex; STL binary, without colours.
 * Lengths are those of the mesh.
 */
export async function solidFile(ending: SolidEnding, mesh: Mesh, comment: string): Promise<string | Uint8Array> {
  const three = await load()
  const { BufferAttribute, BufferGeometry, ColorManagement, Mesh: Solid } = three
  const geometry = new BufferGeometry()
  geometry.setAttribute('position', new BufferAttribute(mesh.places, 3))
  geometry.setAttribute('color', new BufferAttribute(mesh.colours, 3, true))
  geometry.setAttribute('bytes', new BufferAttribute(mesh.colours, 3))
  geometry.setIndex(new BufferAttribute(triangleIndices(mesh), 1))
  // Colours are written as the picture has them: they are no light to be converted.
  const managed = ColorManagement.enabled
  ColorManagement.enabled = false
  try {
    return WRITERS[ending](three, new Solid(geometry), comment)
  } finally {
    ColorManagement.enabled = managed
  }
}
