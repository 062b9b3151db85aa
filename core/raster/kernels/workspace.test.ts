import { ReusedSpace, TwinKernels, WasmKernels, Workspace } from '.'

describe.each([
  ['compiled', () => new WasmKernels()],
  ['plain', () => new TwinKernels()],
])('a workspace of the %s kernels', (_, make) => {
  test('hands out places that do not overlap, rows padded to eight', () => {
    const space = new Workspace(make(), 50)
    const [a, b] = [space.plane(50, 7), space.plane(13, 9, 2)]
    expect([a.stride, b.stride]).toEqual([56, 16])
    expect(a.at).toBeGreaterThanOrEqual(space.kernels.begin)
    expect(b.at).toBeGreaterThanOrEqual(a.at + a.stride * a.height * 4)
    expect(b.at % 16).toBe(0)
  })

  test('copies without the padding', () => {
    const space = new Workspace(make(), 5)
    const slab = space.plane(5, 3)
    space.view(slab).forEach((__, i, all) => (all[i] = i))
    expect([...space.copy(slab)]).toEqual([0, 1, 2, 3, 4, 8, 9, 10, 11, 12, 16, 17, 18, 19, 20])
  })

  test('grows the memory, what is there staying', () => {
    const space = new Workspace(make(), 100)
    const slab = space.plane(100, 10)
    space.view(slab)[17] = 4.5
    const large = space.plane(3000, 900)
    space.view(large)[0] = 1
    expect(space.view(slab)[17]).toBe(4.5)
  })

  test('hands places out again that nobody needs any more, and new ones after them', () => {
    const space = new Workspace(make(), 64)
    const [first, second, kept] = [space.plane(64, 8), space.plane(64, 8), space.plane(64, 8)]
    space.view(kept).fill(7)
    const room = new ReusedSpace(space, first.at, kept.at)
    const [a, b, c] = [room.loose(60, 8), room.loose(60, 8), room.loose(60, 8)]
    expect([a, b].map(({ data }) => data.byteOffset >= first.at && data.byteOffset + data.byteLength <= kept.at)).toEqual([true, true])
    expect(b.data.byteOffset).toBeGreaterThanOrEqual(a.data.byteOffset + a.data.byteLength)
    expect(c.data.byteOffset).toBeGreaterThan(kept.at)
    for (const { data } of [a, b, c]) data.fill(1)
    expect(space.view(kept).every((value) => value === 7)).toBe(true)
    expect(second.at).toBeGreaterThan(first.at)
  })
})
