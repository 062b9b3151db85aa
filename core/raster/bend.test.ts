import { bendAt, bendWithin, bentAtBorder_px, most_px, type Bend } from '.'

/** A net of 4 × 3 nodes, 10 px apart, that moves nothing but what is asked for. */
function bent(moved: Record<number, [number, number]>): Bend {
  const bend = {
    left_px: 0,
    top_px: 0,
    spacingX_px: 10,
    spacingY_px: 10,
    columns: 4,
    rows: 3,
    x_px: new Float32Array(12),
    y_px: new Float32Array(12),
  }
  for (const [node, [x, y]] of Object.entries(moved)) [bend.x_px[Number(node)], bend.y_px[Number(node)]] = [x, y]
  return bend
}

test('at its nodes a bend says what they say, between them evenly more or less', () => {
  const bend = bent({ 5: [2, -1] })
  expect(bendAt(bend, 10, 10)).toEqual([2, -1])
  expect(bendAt(bend, 15, 10)).toEqual([1, -0.5])
  expect(bendAt(bend, 15, 15)).toEqual([0.5, -0.25])
  expect(bendAt(bend, 20, 10)).toEqual([0, 0])
})

test('beyond the net it is that of the border', () => {
  const bend = bent({ 0: [3, 1], 11: [-2, 4] })
  expect(bendAt(bend, -50, -5)).toEqual([3, 1])
  expect(bendAt(bend, 900, 900)).toEqual([-2, 4])
})

test('a part of the picture is bent as the whole is there', () => {
  const bend = bent({ 5: [2, -1], 6: [1, 1] })
  const part = bendWithin(bend, { x: 7, y: 4 })
  for (const [x, y] of [
    [3, 6],
    [8, 2],
    [0, 0],
  ])
    expect(bendAt(part, x, y)).toEqual(bendAt(bend, x + 7, y + 4))
})

test('the farthest it moves anything, and at the border only', () => {
  expect(most_px(bent({ 5: [3, -4], 2: [1, 0] }))).toBe(5)
  expect(bentAtBorder_px(bent({ 5: [3, -4], 2: [1, 0.5] }))).toBe(1)
  expect(bentAtBorder_px(bent({ 5: [3, -4] }))).toBe(0)
})
