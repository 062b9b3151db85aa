import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  CanvasTexture,
  DirectionalLight,
  Mesh,
  MeshStandardMaterial,
  PerspectiveCamera,
  Raycaster,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { pixelAt, reliefRise, triangleIndices } from '@/core/relief'
import type { ReliefData } from './useSurface'

export type Place = [x: number, y: number]

/** Where the light comes from: round the picture, 0 at the right and turning left; and how high above it. */
export interface Light {
  round_deg: number
  high_deg: number
}

/** Of the canvas, so much is the relief when it is seen from the front. */
const FILLS = 0.94
/** Where it is not known how far away the camera was, it is seen from so many times its longer side. */
const USUAL_away = 4
/** The grey that pictures are judged on. */
const TABLE = 0x565656

/** The relief as it is drawn: a grid of the surface's places, lit, and turned by the hand. One px of the picture is one unit. */
export class Stage {
  private readonly renderer: WebGLRenderer
  private readonly scene = new Scene()
  private readonly camera = new PerspectiveCamera(10, 1, 1, 1e6)
  private readonly controls: OrbitControls
  private readonly mesh: Mesh<BufferGeometry, MeshStandardMaterial>
  private readonly sun = new DirectionalLight(0xffffff, 1)
  private readonly around = new AmbientLight(0xffffff, 1)
  private readonly texture: CanvasTexture
  private readonly size: Place
  private readonly rise: number
  private readonly middle: number
  /** Px from the entrance pupil to the middle of the relief. */
  private readonly away: number
  private asked = 0

  /** @throws where the browser draws nothing in three dimensions. */
  constructor(
    canvas: HTMLCanvasElement,
    private readonly data: ReliefData,
    private readonly onDrawn: () => void,
  ) {
    const { surface } = data
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true })
    this.size = [surface.width * surface.times, surface.height * surface.times]
    this.rise = reliefRise(surface)
    this.middle = (surface.at0 + surface.at65535) / 2
    this.away = awayOf(data, this.middle) ?? USUAL_away * Math.max(...this.size)
    this.renderer.setClearColor(TABLE)
    this.texture = new CanvasTexture(canvasOf(data.picture))
    this.texture.colorSpace = SRGBColorSpace
    this.texture.anisotropy = 4
    this.mesh = new Mesh(this.geometry(), new MeshStandardMaterial({ map: this.texture, roughness: 1, metalness: 0 }))
    this.scene.add(this.mesh, this.sun, this.around)
    this.controls = new OrbitControls(this.camera, canvas)
    this.controls.addEventListener('change', () => this.draw())
    this.front()
  }

  /** Seen from where the camera stood, so that it is the picture. */
  front(): void {
    const { away } = this
    const [width, height] = this.size
    const half = Math.max(height, width / this.camera.aspect) / FILLS / 2
    this.camera.position.set(0, 0, away)
    Object.assign(this.camera, { fov: (2 * Math.atan(half / away) * 180) / Math.PI, near: away / 100, far: away * 20 })
    this.camera.updateProjectionMatrix()
    this.controls.target.set(0, 0, 0)
    this.controls.update()
    this.draw()
  }

  /** Turns to the right and up, in degrees. */
  turn(right_deg: number, up_deg: number): void {
    const at = this.camera.position.clone().sub(this.controls.target)
    const rad = Math.PI / 180
    at.applyAxisAngle(new Vector3(0, 1, 0), right_deg * rad)
    at.applyAxisAngle(new Vector3(0, 1, 0).cross(at).normalize(), -up_deg * rad)
    this.camera.position.copy(this.controls.target).add(at)
    this.controls.update()
    this.draw()
  }

  nearer(times: number): void {
    this.camera.position.sub(this.controls.target).divideScalar(times).add(this.controls.target)
    this.controls.update()
    this.draw()
  }

  resize(width: number, height: number): void {
    const first = this.camera.aspect === 1
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio))
    this.renderer.setSize(width, height, false)
    this.camera.aspect = width / Math.max(1, height)
    this.camera.updateProjectionMatrix()
    if (first) this.front()
    this.draw()
  }

  /** So many times as high as it is. */
  setHeight(times: number): void {
    this.mesh.scale.z = times
    this.draw()
  }

  /** Lit from a side; as it was photographed where no light is given. With no picture on it only the form is seen. */
  setLook(light: Light | undefined, pictured: boolean): void {
    const { material } = this.mesh
    material.map = pictured ? this.texture : null
    material.color.set(pictured ? 0xffffff : 0xb4b4b4)
    material.needsUpdate = true
    const [round, high] = [light?.round_deg ?? 0, light?.high_deg ?? 90].map((degrees) => (degrees * Math.PI) / 180)
    this.sun.position.set(Math.cos(high) * Math.cos(round), Math.cos(high) * Math.sin(round), Math.sin(high))
    this.sun.intensity = light ? 2.6 : 0
    this.around.intensity = light ? 0.9 : Math.PI
    this.draw()
  }

  /** The place of the picture that is seen at a point of the canvas, 0 … 1 from its upper left; undefined beside the relief. */
  placeAt(x: number, y: number): Place | undefined {
    const ray = new Raycaster()
    ray.setFromCamera(new Vector2(2 * x - 1, 1 - 2 * y), this.camera)
    const [hit] = ray.intersectObject(this.mesh)
    return hit?.uv && [hit.uv.x * this.size[0] - 0.5, (1 - hit.uv.y) * this.size[1] - 0.5]
  }

  /** Where a place of the picture is seen, 0 … 1 from the canvas's upper left. */
  seenAt([x, y]: Place): Place {
    const { surface } = this.data
    const column = Math.min(surface.width - 1, Math.max(0, Math.round((x + 0.5) / surface.times - 0.5)))
    const row = Math.min(surface.height - 1, Math.max(0, Math.round((y + 0.5) / surface.times - 0.5)))
    const at = this.pointAt(x, y, surface.depth[row * surface.width + column])
    at.z *= this.mesh.scale.z
    at.project(this.camera)
    return [(at.x + 1) / 2, (1 - at.y) / 2]
  }

  dispose(): void {
    cancelAnimationFrame(this.asked)
    this.controls.dispose()
    this.mesh.geometry.dispose()
    this.mesh.material.dispose()
    this.texture.dispose()
    this.renderer.dispose()
  }

  /** A place of the picture in space: on the line from the pupil through it, so that from there it is seen where it lies in the picture. */
  private pointAt(x: number, y: number, depth: number): Vector3 {
    const high = this.rise * (this.middle - depth)
    const times = (this.away - high) / this.away
    return new Vector3((x + 0.5 - this.size[0] / 2) * times, (this.size[1] / 2 - y - 0.5) * times, high)
  }

  /** Drawn once before the next picture of the screen, however often it was asked for. */
  private draw(): void {
    cancelAnimationFrame(this.asked)
    this.asked = requestAnimationFrame(() => {
      this.renderer.render(this.scene, this.camera)
      this.onDrawn()
    })
  }

  private geometry(): BufferGeometry {
    const { width, height, times, depth } = this.data.surface
    const places = new Float32Array(3 * width * height)
    const on = new Float32Array(2 * width * height)
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        this.pointAt((x + 0.5) * times - 0.5, (y + 0.5) * times - 0.5, depth[i]).toArray(places, 3 * i)
        on.set([(x + 0.5) / width, 1 - (y + 0.5) / height], 2 * i)
      }
    const geometry = new BufferGeometry()
    geometry.setAttribute('position', new BufferAttribute(places, 3))
    geometry.setAttribute('uv', new BufferAttribute(on, 2))
    geometry.setIndex(new BufferAttribute(triangleIndices({ columns: width, rows: height }), 1))
    geometry.computeVertexNormals()
    return geometry
  }
}

/** How far the entrance pupil was from a depth, in px of the picture there; undefined where that is not known. */
function awayOf({ surface: { pixelSize, unit } }: ReliefData, depth: number): number | undefined {
  if (unit !== 'mm' || !pixelSize?.pupil_mm) return undefined
  return (pixelSize.pupil_mm + depth - pixelSize.at_mm) / pixelAt(pixelSize, depth)
}

function canvasOf(picture: ImageData): HTMLCanvasElement {
  const canvas = document.createElement('canvas')
  Object.assign(canvas, { width: picture.width, height: picture.height })
  canvas.getContext('2d')!.putImageData(picture, 0, 0)
  return canvas
}
