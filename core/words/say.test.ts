import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { isRefusal, refusal, Refusal, say, sayer } from '.'

/** Every sentence of the catalogues that is always the same, by its code. */
const FIXED = readdirSync('core/words')
  .filter((name) => /^[a-z]+\.ts$/.test(name) && !['say.ts', 'index.ts'].includes(name))
  .flatMap((name) => {
    const entries = readFileSync(path.join('core/words', name), 'utf8').matchAll(/^ {2}'([\w.]+)':\s*\n?\s*(['"])(.*)\2,$/gm)
    return [...entries].map(([, code, , text]) => ({ name, code, text }))
  })

test('there are many of them', () => expect(FIXED.length).toBeGreaterThan(100))

test.each(FIXED)('$code is one to four plain sentences', ({ text }) => {
  // A clause that is joined to others begins small and has no stop; a sentence may end with a command to copy.
  expect(text).toMatch(/^(?:[A-Z0-9“‘]|--)[^]*(?:[.?]|: npm start.*)$|^[a-z][^]*[^.?]$/)
  // Endings such as .tif follow a space.
  expect(text).not.toMatch(/\s\s|\s[,;:?]|\s\.(?![a-z])|!/)
  expect(text.length).toBeLessThanOrEqual(280)
  expect(text.split(/[.?](?:\s|$)/).filter(Boolean).length).toBeLessThanOrEqual(4)
})

test('a code says what it is about and what is wrong, and stands in one catalogue only', () => {
  for (const { code } of FIXED) expect(code).toMatch(/^[a-z][A-Za-z]*(\.[a-z][A-Za-z]*)+$/)
  expect(new Set(FIXED.map(({ code }) => code)).size).toBe(FIXED.length)
})

test('sentences are said with their facts', () => {
  expect(say('frame.gone')).toEqual({ code: 'frame.gone', text: expect.stringMatching(/\.$/) })
  expect(say('picture.empty', { name: 'a.jpg' }).text).toContain('a.jpg')
  expect(say('frame.twice', { name: 'b.jpg', twin: 'a.jpg' }).text).toMatch(/b\.jpg .* a\.jpg/)
})

test('a catalogue of a screen’s own is said the same way', () => {
  const speak = sayer({ 'night.on': 'Red light is on.', 'night.left': ({ count }: { count: number }) => `${count} frames are left.` })
  expect(speak('night.on')).toEqual({ code: 'night.on', text: 'Red light is on.' })
  expect(speak('night.left', { count: 3 })).toEqual({ code: 'night.left', text: '3 frames are left.' })
})

test('a refusal is an error with a code, and the field that has to be changed', () => {
  const error = refusal('finish.shortLine', undefined, 'steps[2]')
  expect(error).toBeInstanceOf(Error)
  expect([error.code, error.field, error.name]).toEqual(['finish.shortLine', 'steps[2]', 'Refusal'])
  expect(error.message).toBe(say('finish.shortLine').text)
  expect(refusal('frame.gone').field).toBe('')
})

test('is known as one by its name, from whichever copy of the module it comes', () => {
  expect(isRefusal(new Refusal({ code: 'x', text: 'y' }))).toBe(true)
  expect(isRefusal(Object.assign(new Error('y'), { name: 'Refusal', code: 'x' }))).toBe(true)
  for (const other of [new Error('y'), { name: 'Refusal' }, 'Refusal', null, undefined]) expect(isRefusal(other)).toBe(false)
})
