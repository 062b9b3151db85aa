/** What can be wrong with the machine, its settings, or a request. */
export const MACHINE = {
  'disk.full': 'The disk is full. Free some space and try again. Nothing was stored in part.',
  'disk.quota': ({ used_MB, quota_MB }: { used_MB: number; quota_MB: number }) =>
    `No space is left: ${used_MB} of ${quota_MB} MB are used. Delete something or raise the quota, then try again.`,
  'disk.denied': ({ reason }: { reason: string }) =>
    `A file or folder cannot be read or written: ${reason}. Check that it exists and its permissions.`,
  'data.damaged': 'The database is damaged. Stop Nitidus and restore a backup into an empty data folder.',
  'data.outside': ({ name }: { name: string }) => `“${name}” is not a valid file name. Restore the record that uses it from a backup.`,
  'data.busy': 'The database is busy. Try again in a moment.',
  'data.inUse': ({ folder }: { folder: string }) =>
    `Another Nitidus already uses the data folder ${folder}. Stop it first, or choose another folder with NITIDUS_DATA.`,
  'data.newer': ({ folder }: { folder: string }) => `The data in ${folder} was written by a newer version. Update Nitidus.`,
  'memory.tooLittle': 'There is not enough memory for frames of this size. Close other programs, allow more, or make the frames smaller.',
  'memory.setting': ({ said }: { said: string }) => `NITIDUS_MEMORY_MB is “${said}”. Give a number of megabytes, or leave it out.`,
  'server.inside': 'Something went wrong in the application. The details are in its log.',
  'request.address': 'There is nothing at this address. Go back to the list.',
  'request.noJson': 'The request holds no JSON.',
  'request.jsonType': 'Send JSON with the content type application/json.',
  'request.tooLarge': ({ most_kB }: { most_kB: number }) => `The request is too large. The limit here is ${most_kB} kB.`,
  'request.otherSite': 'Another web page tried to use Nitidus. Open Nitidus itself and try again.',
  'request.host': 'Open Nitidus under 127.0.0.1 or localhost.',
} as const

/** What is said of other devices. */
export const PAIRING = {
  'pairing.off': 'Other devices cannot reach Nitidus now. Stop it and start it with: npm start -- --lan',
  'pairing.wrongCode': 'This code is wrong. Read it again on the computer.',
  'pairing.noCode':
    'There is no code to type now: it was used, is older than five minutes, or was mistyped too often. Ask for a new one on the computer.',
  'pairing.needed': 'This device is not paired, or no longer. Open Nitidus on the computer, choose Phone, and pair it again.',
  'pairing.gone': 'This device is no longer paired.',
  'pairing.hereOnly': 'Devices are paired and removed on the computer that Nitidus runs on.',
} as const

/** What the command says of how it is used. */
export const COMMAND = {
  'command.usage': ({ reason }: { reason: string }) => `${reason}. See --help.`,
  'command.unreadable': ({ file }: { file: string }) => `${file} cannot be read. Check the name.`,
  'command.noJson': ({ file }: { file: string }) => `${file} does not hold valid JSON.`,
  'command.outEnding': ({ formats }: { formats: readonly string[] }) =>
    `The name of the result must end in ${formats
      .map((format) => `.${format}`)
      .join(', ')
      .replace(/, ([^,]*)$/, ' or $1')}.`,
  'command.reliefEnding': 'The name of the relief must end in .ply or .obj.',
  'command.pixelSize': '--pixel-mm is the size of a pixel on the subject in mm. Give a number above 0.',
  'command.mover': '--mover must be rail or ring.',
  'command.measureWhat': ({ what }: { what: string }) => `${what} cannot be measured. Say: nitidus measure target FOLDER.`,
  'series.noSuchFrame': ({ folder, name }: { folder: string; name: string }) => `${folder} has no file ${name}. Check the names.`,
  'series.oneFrame': ({ folder }: { folder: string }) => `${folder} holds only one frame. A series needs at least two.`,
  'series.tooLarge': ({ megapixels, most }: { megapixels: number; most: number }) =>
    `Frames of ${megapixels} megapixels are too large to fuse. At most ${most} fit in memory; make them smaller.`,
  'series.sharpBeyond': ({ count }: { count: number }) => `There are only ${count} frames. Choose which of them the picture is to be sharp in.`,
  'series.reference': ({ count }: { count: number }) => `The series has ${count} frames. Choose one of them as the reference.`,
  'series.referenceLost': ({ name }: { name: string }) => `${name} cannot be registered with the others. Choose another reference.`,
  'series.noMoment': ({ name }: { name: string }) => `No part can be shown from ${name}: it is not one of the frames that are fused. Choose another.`,
  'series.notOne': 'The frames cannot be registered with one another. They do not look like one series.',
  'series.nothingShared': 'The frames share no common area. They do not look like one series.',
  'series.lost': ({ name }: { name: string }) => `${name} cannot be registered with the others and was left out.`,
  'series.noPosition': ({ file, name }: { file: string; name: string }) => `${file} holds no position in mm for ${name}.`,
  'series.positionOrder': ({ file }: { file: string }) =>
    `The positions in ${file} do not follow the order of the frames. Give the frames in focus order.`,
} as const
