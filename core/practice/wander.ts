import { createPlane, luma, type Picture, type Rectangle } from '../raster'
import { randomStream, type Fault, type SeriesRequest } from '../simulate'
import { percentOf, type Exercise, type Level } from './exercise'
import { calmSeries, cameraOn, evenly, SUBJECTS } from './scenes'
import { say } from './words'

/** A series with faults, and the frames of it that are fused; the same without them is the truth. */
export interface WanderTask {
  request: SeriesRequest
  clean: SeriesRequest
  /** The frame that was forgotten, as an index; its slice is sharp in no other. */
  missing: number
}

/** Where a fused picture differs from one without the faults; one too small to look for does no harm where it is marked. */
export interface WrongPlace extends Rectangle {
  counts: boolean
}

/** Places that were marked, in px of the picture, and those where something is wrong. */
export interface WanderAnswer {
  marked: { x: number; y: number }[]
  places: WrongPlace[]
}

const FRAMES = 8
const SPECKS: Record<Level, number> = { 1: 3, 2: 2, 3: 2 }
const STIRRED_percent: Record<Level, number> = { 1: 2.5, 2: 1.8, 3: 1.2 }

/** A fused picture with its faults: mark them. */
export const wander: Exercise<WanderTask, WanderAnswer> = {
  title: 'Wander and find',
  aim: 'Go over a fused picture at 100 % and mark what is wrong: trails of dust, a part that shows twice, a soft band.',
  pose(seed, level) {
    const random = randomStream(seed)
    const subject = SUBJECTS[Math.floor(random() * SUBJECTS.length)]
    const clean = calmSeries(subject, seed, cameraOn(subject, 4, 'ring'), evenly(0, subject.depth_mm, FRAMES))
    const stirred: Fault = { kind: 'stirred', frame: 2 + Math.floor(random() * 4), frames: 2, shift_percent: STIRRED_percent[level] }
    const faults: Fault[] = [{ kind: 'dust', specks: SPECKS[level] }, ...(level === 1 && random() < 0.5 ? [] : [stirred])]
    // Never the middle one: all others are brought into its place.
    const missing = random() < 0.5 ? 1 + Math.floor(random() * 2) : FRAMES - 3 + Math.floor(random() * 2)
    return { request: { ...clean, faults }, clean, missing }
  },
  mark(_, { marked, places }) {
    const isAt = (place: Rectangle, { x, y }: { x: number; y: number }) =>
      x >= place.x - NEAR_px && y >= place.y - NEAR_px && x < place.x + place.width + NEAR_px && y < place.y + place.height + NEAR_px
    const wanted = places.filter(({ counts }) => counts)
    const found = wanted.filter((place) => marked.some((mark) => isAt(place, mark))).length
    const wrong = marked.filter((mark) => !places.some((place) => isAt(place, mark))).length
    return {
      percent: percentOf((100 * found) / Math.max(1, wanted.length) - WRONG_cost * wrong),
      said: [
        say('practice.wander.found', { found, count: wanted.length }),
        ...(wrong > 0 ? [say('practice.wander.wrong', { wrong })] : []),
        say('practice.wander.look'),
      ],
    }
  },
}

const NEAR_px = 10
const WRONG_cost = 8
const TILE_px = 10
/** Tiles differ that are off by so many times what is usual, and by at least this. */
const TIMES = 5
const LEAST = 0.008
/** Places of fewer tiles are not worth a mark, and of many the largest count. */
const LEAST_TILES = 2
const MOST_PLACES = 6

/** Where a picture differs from one of the same size without faults, the largest places first. */
export function placesOf(picture: Picture, without: Picture): WrongPlace[] {
  const [a, b] = [luma(picture), luma(without)]
  const [across, down] = [Math.floor(a.width / TILE_px), Math.floor(a.height / TILE_px)]
  const off = createPlane(across, down)
  for (let y = 0; y < down * TILE_px; y++)
    for (let x = 0; x < across * TILE_px; x++) {
      const i = y * a.width + x
      off.data[Math.floor(y / TILE_px) * across + Math.floor(x / TILE_px)] += Math.abs(a.data[i] - b.data[i]) / TILE_px ** 2
    }
  const usual = off.data.slice().sort()[off.data.length >> 1]
  const differs = Array.from(off.data, (value) => value > Math.max(LEAST, TIMES * usual))
  return groupsOf(differs, across)
    .sort((one, other) => other.length - one.length)
    .map((tiles, k) => {
      const [columns, rows] = [tiles.map((tile) => tile % across), tiles.map((tile) => Math.floor(tile / across))]
      const [x, y] = [Math.min(...columns), Math.min(...rows)]
      return {
        x: x * TILE_px,
        y: y * TILE_px,
        width: (Math.max(...columns) - x + 1) * TILE_px,
        height: (Math.max(...rows) - y + 1) * TILE_px,
        counts: k < MOST_PLACES && tiles.length >= LEAST_TILES,
      }
    })
}

/** Tiles that touch one another, corners included. */
function groupsOf(differs: boolean[], across: number): number[][] {
  const left = new Set(differs.flatMap((is, tile) => (is ? [tile] : [])))
  const groups: number[][] = []
  for (const first of left) {
    const group = [first]
    left.delete(first)
    for (const tile of group)
      for (const dy of [-1, 0, 1])
        for (const dx of [-1, 0, 1]) {
          const next = tile + dy * across + dx
          if (Math.abs((next % across) - (tile % across)) > 1 || !left.delete(next)) continue
          group.push(next)
        }
    groups.push(group)
  }
  return groups
}
