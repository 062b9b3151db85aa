/** What HTTP calls a refusal, by the end of its code or by the whole; all others are 400. */
const BY_CODE: Record<string, number> = {
  'request.address': 404,
  'request.otherSite': 403,
  'request.host': 403,
  'request.jsonType': 415,
  'request.tooLarge': 413,
  'frame.fileGone': 404,
  'frame.nameTaken': 409,
  'frame.twice': 409,
  'render.notKept': 404,
  'render.damaged': 404,
  'job.nothingYet': 404,
  'job.notEnded': 409,
  'run.busy': 409,
  'shoot.noPlan': 409,
  'kit.nameTaken': 409,
  'recipe.name': 409,
  'device.tooMany': 409,
  'archive.missing': 404,
  'data.busy': 503,
  'data.inUse': 503,
  'data.damaged': 503,
  'data.newer': 503,
  'disk.full': 507,
  'disk.quota': 507,
  'disk.denied': 507,
  'server.inside': 500,
}

export function statusOf(code: string): number {
  return BY_CODE[code] ?? (code.endsWith('.gone') ? 404 : 400)
}
