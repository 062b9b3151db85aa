/** What can be wrong with a picture file. */
export const PICTURES = {
  'picture.missing': ({ name }: Named) => `${name} is missing. Check the folder and the name.`,
  'picture.empty': ({ name }: Named) => `${name} is empty. Copy it from the card again.`,
  'watch.gone': ({ folder }: { folder: string }) =>
    `The folder ${folder} is gone. What came before is in the run. Bring the folder back, then watch it again.`,
  'raw.mixed': ({ raw, other }: { raw: string; other: string }) =>
    `${raw} is a raw file and ${other} is none. Bring raw files as a run of their own.`,
  'raw.pair': ({ name, raw }: { name: string; raw: string }) => `${name} was left out: ${raw} is the same frame as a raw file.`,
  'raw.notRaw': ({ name }: Named) => `${name} is no raw file: it is used as it is.`,
  'raw.neutralLight': 'This place is so light that its colour is lost. Choose a darker one, or a frame that is exposed less.',
  'raw.neutralDark': 'It is too dark there to tell a colour. Choose a lighter place.',
  'raw.neutralPlace': '--neutral takes two numbers with a comma between, such as 1200,800: px of that frame from the left and from the top.',
  'raw.rendersExist': 'Pictures were made of these frames as they are developed now. Bring the frames again as a run of their own.',
  'import.busy': ({ folder }: { folder: string }) => `${folder} is still being imported into this shoot. Wait, or stop that first.`,
  'import.gone': ({ folder }: { folder: string }) =>
    `${folder} cannot be read any more. What came is kept. Put the card back and import the folder again: it goes on where it stopped.`,
  'import.done': ({ taken, total }: { taken: number; total: number }) => `${taken} of ${total} files imported.`,
  'captures.moved': ({ name, moved_percent }: Named & { moved_percent: number }) =>
    moved_percent > 0
      ? `${name}: ${moved_percent} % of the picture moved between its captures, so that only the first was used.`
      : `${name}: its captures are not complete, so that only the first was used.`,
  'captures.before': ({ count }: { count: number }) =>
    `${count === 1 ? 'A single frame comes' : `${count} single frames come`} before the first set of captures. Put ${count === 1 ? 'it' : 'them'} into another folder.`,
  'captures.rendersExist': 'Pictures were made of these frames with their captures together. Bring the captures again as a run of their own.',
  'raw.none': ({ folder }: { folder: string }) => `There is no raw file in ${folder}. Name the folder that they are in.`,
  'raw.unreadable': ({ name }: Named) =>
    `${name} cannot be read as a raw file: it is damaged, or its camera is not known here. Copy it from the card again, or convert it to DNG or TIFF first.`,
  'picture.damaged': ({ name }: Named) => `${name} is damaged or incomplete. Copy it from the card again.`,
  'picture.unreadable': ({ name }: Named) => `${name} is not a picture we can read. Bring JPEG, PNG or TIFF.`,
  'picture.format': ({ name, format }: Named & { format: string }) => `${name} is a ${format} file. Bring JPEG, PNG or TIFF.`,
  'picture.ending': ({ name }: Named) => `${name} is no picture that can be read here. Bring JPEG, PNG or TIFF files, or raw files.`,
  'picture.tooLarge': ({ name }: Named) => `${name} has more than 250 megapixels. That is too large for a frame.`,
  'picture.depth': ({ name, depth }: Named & { depth: string }) => `${name} stores its pixels as “${depth}”. Export it with 8 or 16 bits a channel.`,
  'picture.pages': ({ name, pages }: Named & { pages: number }) => `${name} holds ${pages} pictures. Export each one to a file of its own.`,
  'picture.colourModel': ({ name, space }: Named & { space: string }) => `${name} uses the colour model “${space}”. Export it as RGB.`,
  'picture.noCmykProfile': ({ name }: Named) => `${name} is CMYK without a colour profile, so its colours are unknown. Export it as RGB.`,
  'picture.wrongProfile': ({ name }: Named) =>
    `${name} carries a colour profile that does not fit its pixels. Export it again with a matching profile.`,
  'picture.greyProfile': ({ name }: Named) => `${name} has a grey profile we cannot read. Export it as RGB.`,
} as const

/** What can keep a frame out of a run. */
export const FRAMES = {
  'frame.name': ({ name }: Named) => `“${name}” cannot be used as a file name. Rename the file.`,
  'frame.twice': ({ name, twin }: Named & { twin: string }) =>
    `${name} is the same picture as ${twin}, which is in this run already. It was left out.`,
  'frame.nameTaken': ({ name }: Named) => `${name} is already in this run. Rename the file or start another run.`,
  'frame.stray': ({ name, size, usual }: { name: string; size: string; usual: string }) =>
    `${name} is ${size} pixels, and the others are ${usual}. It was left out: bring it into a run of its own.`,
  'frame.size': ({ name, size, other, otherSize }: Named & { size: string; other: string; otherSize: string }) =>
    `${name} is ${size} px and ${other} is ${otherSize} px. All frames of a run must have the same size.`,
  'frame.profile': ({ name, profile, other, otherProfile }: Named & { profile: string; other: string; otherProfile: string }) =>
    `${name} uses ${profile} and ${other} uses ${otherProfile}. Export all frames of a run with the same colour profile.`,
  'frame.gone': 'This frame no longer exists. Go back to the shoot.',
  'frame.fileGone': ({ name }: Named) => `The file of ${name} is missing or damaged. Bring the same file again to put it back.`,
  'frame.otherFile': ({ name }: Named) => `This is not the original ${name}. Bring the file that was imported.`,
  'folder.noPictures': ({ folder }: { folder: string }) => `${folder} holds no JPEG, PNG or TIFF files. Give the folder that holds the frames.`,
  'folder.unreadable': ({ folder }: { folder: string }) => `${folder} is not a folder we can read. Give the folder that holds the frames.`,
  'folder.isFile': ({ folder }: { folder: string }) => `${folder} is a file. Give the folder that holds the frames.`,
  'folder.outside': ({ folder, root }: { folder: string; root: string }) => `${folder} is not inside ${root}. Only folders in there can be imported.`,
  'folder.rootMissing': ({ root }: { root: string }) => `The import folder ${root} does not exist. Create it and put the frames there.`,
} as const

interface Named {
  name: string
}
