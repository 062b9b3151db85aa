import { refusedRequest, securityHeaders } from './guard'

/** A request by its headers, to one of our routes unless said otherwise. */
const asked = (method: string, headers: Record<string, string>, path = '/api/shoots') =>
  refusedRequest({ method, path, header: (name) => ({ host: '127.0.0.1:3210', ...headers })[name] ?? null })?.code

test('this machine’s own names are answered, every other is not: a page could have made it point here', () => {
  for (const host of ['127.0.0.1:3210', 'localhost:3210', 'LOCALHOST', '[::1]:3210', '127.0.0.1']) expect(asked('GET', { host })).toBeUndefined()
  for (const host of ['evil.example', 'evil.example:3210', '127.0.0.1.evil.example', 'localhost.evil.example:3210', '10.0.0.7:3210', ''])
    for (const path of ['/', '/api/shoots', '/kit']) expect(asked('GET', { host }, path)).toBe('request.host')
})

test('what changes anything comes from our own pages, or from no page at all', () => {
  for (const method of ['POST', 'PUT', 'DELETE', 'PATCH']) {
    expect(asked(method, { origin: 'http://127.0.0.1:3210', 'sec-fetch-site': 'same-origin' })).toBeUndefined()
    expect(asked(method, {})).toBeUndefined()
    for (const origin of ['http://evil.example', 'null', 'http://127.0.0.1:8080', 'http://localhost:3210', 'https://127.0.0.1.evil.example'])
      expect(asked(method, { origin })).toBe('request.otherSite')
    for (const site of ['cross-site', 'same-site']) expect(asked(method, { 'sec-fetch-site': site })).toBe('request.otherSite')
  }
})

test('data are not handed to pages from elsewhere, but a link to a page may be followed', () => {
  expect(asked('GET', { 'sec-fetch-site': 'cross-site' })).toBe('request.otherSite')
  expect(asked('GET', { 'sec-fetch-site': 'cross-site' }, '/shoots/3/plan')).toBeUndefined()
  expect(asked('GET', { 'sec-fetch-site': 'none' })).toBeUndefined()
})

test('every answer keeps scripts from elsewhere out, types as they are said, and us out of other pages', () => {
  const headers = securityHeaders('abc')
  expect(headers['content-security-policy']).toContain("script-src 'self' 'nonce-abc' 'wasm-unsafe-eval';")
  expect(headers['content-security-policy']).toContain("frame-ancestors 'none'")
  expect(headers['content-security-policy']).not.toContain("script-src 'self' 'unsafe-inline'")
  expect(headers).toMatchObject({ 'x-content-type-options': 'nosniff', 'x-frame-options': 'DENY', 'cross-origin-resource-policy': 'same-origin' })
})
