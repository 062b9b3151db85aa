import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import { dustSeries, HEIGHT_px, SPECKS, WIDTH_px } from './dustSeries'
import { command } from './scoring'

/**
 * What dust costs in the fused picture: each series once clean and once with four specks, fused by the command, against the simulator's
 * view with everything sharp, in the tiles that the trails touch. `npm run bench:dust-fused -- 12` prints the dB lost, with dust looked for
 * and without.
 */
const [runs = '12', first = '1'] = process.argv.slice(2)
/** Tiles of so many px count where so many of theirs differ by so much when the trail is left in. */
const TILE = { side_px: 32, places: 12, apart: 0.03 }
const folder = path.resolve('dist/bench-dust-fused')

async function samplesOf(file: string): Promise<Float32Array> {
  const { data } = await sharp(file).toColourspace('rgb16').removeAlpha().raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
  return Float32Array.from(new Uint16Array(data.buffer, data.byteOffset, data.length / 2), (value) => value / 65_535)
}

function made(name: string, scene: object): void {
  rmSync(path.join(folder, name), { recursive: true, force: true })
  writeFileSync(path.join(folder, 'scene.json'), JSON.stringify(scene))
  command('simulate', path.join(folder, 'scene.json'), '--out', path.join(folder, name), '--truth')
}

/** A series fused, and how many specks were told of. */
async function fused(name: string, dust: 'auto' | 'off') {
  const [out, report] = [path.join(folder, 'fused.png'), path.join(folder, 'report.json')]
  const still = ['--crop', 'none', '--local-warp', 'never', '--moving', 'blend']
  command('fuse', path.join(folder, name), '--out', out, '--report', report, '--dust', dust, ...still)
  const { dust: specks = [] } = JSON.parse(readFileSync(report, 'utf8')) as { dust?: unknown[] }
  return { samples: await samplesOf(out), specks: specks.length }
}

/** Where the trail lies, tile by tile. */
function trailOf(clean: Float32Array, dusty: Float32Array): Uint8Array {
  const across = Math.ceil(WIDTH_px / TILE.side_px)
  const tileOf = (i: number) => Math.floor(Math.floor(i / WIDTH_px) / TILE.side_px) * across + Math.floor((i % WIDTH_px) / TILE.side_px)
  const counts = new Uint32Array(across * Math.ceil(HEIGHT_px / TILE.side_px))
  const size = WIDTH_px * HEIGHT_px
  for (let i = 0; i < size; i++) {
    const apart = Math.max(...[0, 1, 2].map((c) => Math.abs(clean[3 * i + c] - dusty[3 * i + c])))
    if (apart > TILE.apart) counts[tileOf(i)]++
  }
  return Uint8Array.from({ length: size }, (_, i) => Number(counts[tileOf(i)] > TILE.places))
}

const losses: number[] = []
mkdirSync(folder, { recursive: true })
for (let run = Number(first); run <= Number(runs); run++) {
  made('clean', dustSeries(run, []))
  made('dusty', dustSeries(run, [{ kind: 'dust', specks: SPECKS }]))
  const truth = await samplesOf(path.join(folder, 'clean', 'truth', 'truth_00.png'))
  const clean = (await fused('clean', 'off')).samples
  const left = (await fused('dusty', 'off')).samples
  const { samples: kept, specks } = await fused('dusty', 'auto')
  const trail = trailOf(clean, left)
  const psnr_dB = (picture: Float32Array) => {
    let [sum, count] = [0, 0]
    for (let i = 0; i < picture.length; i++)
      if (trail[Math.floor(i / 3)]) {
        sum += (picture[i] - truth[i]) ** 2
        count++
      }
    return -10 * Math.log10(sum / count)
  }
  const [lost, without] = [psnr_dB(clean) - psnr_dB(kept), psnr_dB(clean) - psnr_dB(left)]
  losses.push(lost)
  const { scene } = dustSeries(run, [])
  console.log(`run ${run} ${scene}: ${specks} of ${SPECKS} found; ${lost.toFixed(2)} dB lost, ${without.toFixed(1)} dB with --dust off`)
}
const mean = losses.reduce((sum, lost) => sum + lost, 0) / losses.length
console.log(`mean ${mean.toFixed(2)} dB; ${losses.filter((lost) => lost <= 0.3).length} of ${losses.length} lose no more than 0.3 dB`)
