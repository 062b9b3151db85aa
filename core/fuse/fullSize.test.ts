import { fullSize } from '.'

describe('a map at the full size', () => {
  const half = { width: 3, height: 2, data: Float32Array.of(0, 1, 2, 3, 4, 70000) }

  test.each([
    [{ x: 0, y: 0, width: 6, height: 4 }, [0, 0, 1, 1, 2, 2, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 70000, 70000, 3, 3, 4, 4, 70000, 70000]],
    [{ x: 1, y: 1, width: 4, height: 2 }, [0, 1, 1, 2, 3, 4, 4, 70000]],
    [{ x: 2, y: 3, width: 3, height: 1 }, [4, 4, 70000]],
  ])('has each place twice, whatever part is asked for: %j', (part, expected) => {
    const { width, height, data } = fullSize(half, part, 16, [0, 65535])
    expect([width, height]).toEqual([part.width, part.height])
    expect([...data]).toEqual(expected.map((value) => Math.min(65535, value)))
  })

  test('is rounded and held to its range', () => {
    const values = [-3, 0.4, 0.6, 254.6, 900, 5]
    const { data } = fullSize({ ...half, data: Float32Array.from(values) }, { x: 0, y: 0, width: 6, height: 4 }, 8, [0, 255])
    expect([...data.subarray(0, 6), data[12], data[14], data[16]]).toEqual([0, 0, 0, 0, 1, 1, 255, 255, 5])
  })

  test('tells where its range begins and ends', () => {
    const values = { ...half, data: Float32Array.of(-2, 0, 3, 8, 9, -4) }
    const { data } = fullSize(values, { x: 0, y: 0, width: 6, height: 4 }, 8, [-2, 8])
    expect([0, 2, 4, 12, 14, 16].map((place) => data[place])).toEqual([0, 51, 128, 255, 255, 0])
  })
})
