import { Sheet } from './sheet'

/** A canvas that remembers what was laid on it and how often its size was set. */
function canvas() {
  const laid: { width: number; image: ImageData }[] = []
  let sizes = 0
  let width = 300
  const made = {
    height: 150,
    get width() {
      return width
    },
    set width(value: number) {
      sizes++
      width = value
    },
    getContext: () => ({ putImageData: (image: ImageData) => void laid.push({ width, image }) }),
  }
  return { canvas: made as unknown as HTMLCanvasElement, laid, sizes: () => sizes }
}

const picture = (width: number, height: number) => ({ width, height }) as ImageData

test('a picture that comes before there is a canvas is laid once there is one, and only the newest', () => {
  const sheet = new Sheet()
  const { canvas: there, laid } = canvas()
  sheet.lay(picture(10, 5))
  const newest = picture(20, 10)
  sheet.lay(newest)
  sheet.use(there)
  sheet.use(there)
  expect(laid).toEqual([{ width: 20, image: newest }])
  expect(there.height).toBe(10)
})

test('the canvas takes the size of what is laid, and keeps it while that stays the same', () => {
  const sheet = new Sheet()
  const { canvas: there, laid, sizes } = canvas()
  sheet.use(there)
  for (const width of [20, 20, 40, 40]) sheet.lay(picture(width, width / 2))
  expect(laid.map(({ width }) => width)).toEqual([20, 20, 40, 40])
  expect(sizes()).toBe(2)
})
