import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import type { Kit } from '@/core/kit'
import { storedSheetPlan } from '@/core/sheet'
import type { UnitSystem } from '@/core/units'
import { refusal } from '@/core/words'
import type { ShootDetail } from '@/schemas'

/** Scripts and styles of the card, made by scripts/build-card.mjs. */
const MADE = path.resolve('dist/card')

/**
 * The live run card of a shoot as one HTML file that needs neither the application nor a connection. `uid` is the shoot's, by which its log finds
 * home. @throws Refusal where the plan no longer works.
 */
export async function cardFile({ title, subject, sheet, planRequest }: ShootDetail, uid: string, kit: Kit, units: UnitSystem): Promise<string> {
  const stored = storedSheetPlan({ sheet, planRequest }, kit)
  if ('error' in stored) throw refusal('shoot.planBroken', { reason: stored.error }, stored.field)
  const [script, ...styles] = await Promise.all(['main.js', 'globals.css', 'main.css'].map((file) => readFile(path.join(MADE, file), 'utf8')))
  const written = { card: randomUUID(), shoot: uid, title, subject, units, sheet, planRequest, kit }
  return [
    '<!doctype html>',
    '<html lang="en">',
    '<head>',
    '<meta charset="utf-8" />',
    '<meta name="viewport" content="width=device-width, initial-scale=1" />',
    `<title>${asText(title)}</title>`,
    `<style>${styles.join('\n')}</style>`,
    '</head>',
    '<body>',
    '<div id="root"></div>',
    `<script type="application/json" id="card">${inScript(JSON.stringify(written))}</script>`,
    `<script>${inScript(script)}</script>`,
    '</body>',
    '</html>',
  ].join('\n')
}

const asText = (text: string) => text.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`)

/** Nothing in a script may look like its end: in strings and in JSON the sign may be written otherwise, and code has none before these. */
const inScript = (text: string) => text.replace(/<(?=\/script|!--)/gi, '\\u003c')
