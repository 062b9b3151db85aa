/** What can be wrong with shoots, runs, renders, kit and jobs. */
export const RECORDS = {
  'shoot.noPlan': 'Nothing is planned for this shoot yet. Plan it first.',
  'shoot.gone': 'This shoot no longer exists. Go back to the list.',
  'shoot.unreadable': ({ what }: { what: string }) =>
    `What is stored of this shoot (${what}) cannot be read. Restore it from a backup, or plan it again.`,
  'shoot.planBroken': ({ reason }: { reason: string }) => `${reason} Change the plan and try again.`,
  'run.gone': 'This run no longer exists. Go back to the shoot.',
  'run.nothingBefore': 'There is no run before this one in its shoot. Its frames stay where they are.',
  'run.joinRenders': 'Pictures were made of one of these runs. Bring the frames again as a run of their own.',
  'run.tooFew': ({ count }: { count: number }) =>
    `This run has ${count === 0 ? 'no frames' : 'only one frame'} to fuse. A series needs at least two.`,
  'run.reference': ({ count }: { count: number }) => `${count} frames are fused. Choose one of them as the reference.`,
  'run.busy': 'A job is still working on this run. Wait until it ends, or cancel it.',
  'render.gone': 'This render no longer exists. Go back to the shoot.',
  'render.outside': 'This place lies outside of the picture. Click inside it.',
  'render.notKept': 'This file was not kept when the render was made. Fuse the run again.',
  'render.damaged': 'The files of this render are missing or damaged. Fuse the run again.',
  'job.gone': 'This job no longer exists. Go back to the shoot.',
  'job.notEnded': 'This job is still running. Cancel it first, or wait.',
  'job.nothingYet': 'This job has nothing to show yet.',
  'job.interrupted': 'The application stopped while this was running. Run it again.',
  'job.engineMissing': ({ reason }: { reason: string }) => `The engine could not be started (${reason}). Run the set-up command.`,
  'job.killed': 'The engine was stopped from outside or ran out of memory. The frames are untouched; run it again.',
  'job.silent': 'The engine stopped without saying why. Run it again.',
  'job.version': ({ version }: { version: string }) => `This job was written by a newer version (${version}). Update Nitidus, then run it.`,
  'kit.nameTaken': ({ name }: { name: string }) => `The kit already has “${name}”. Choose another name.`,
  'kit.gone': ({ name }: { name: string }) => `“${name}” is no longer in the kit. Load the page again.`,
  'kit.which': 'Say which item to remove.',
  'kit.noKit': 'This file is not a kit. Choose one that was exported here.',
  'kit.shelf': ({ shelves }: { shelves: string }) => `The kit has only these shelves: ${shelves}.`,
  'kit.item': ({ shelf, place, reason }: { shelf: string; place: number; reason: string }) => `${shelf}, item ${place}: ${reason}`,
  'kit.apertureOrder': 'The widest f-number is larger than the smallest opening. Swap the two.',
  'kit.scaleMarks': 'List the distances in metres, apart by spaces, such as 0.25 0.5 1 3 ∞.',
  'kit.extensionOrder': 'The shortest extension is longer than the longest. Swap the two.',
  'carried.none': 'No code of a log was found. Photograph each code whole and sharp, or choose the log’s file.',
  'carried.several': 'These codes belong to several logs. Bring one log at a time.',
  'carried.missing': ({ missing, count }: { missing: number[]; count: number }) =>
    `Code ${missing.join(', ')} of ${count} ${missing.length === 1 ? 'is' : 'are'} missing. Photograph ${missing.length === 1 ? 'it' : 'them'} as well, then choose all together.`,
  'carried.other': ({ title }: { title: string }) => `This log is of another shoot, ${title}. Bring it there.`,
  'carried.unreadable': 'This file holds no log. Choose one that a card file saved, or pictures of its codes.',
  'bin.gone': 'This is no longer in the bin. Load the page again.',
} as const

/** What can be wrong with a backup. */
export const ARCHIVES = {
  'archive.unreadable': ({ name }: { name: string }) => `${name} is not a backup we can read. Choose a file that Nitidus wrote.`,
  'archive.damaged': ({ name, file }: { name: string; file: string }) =>
    `${name} is damaged (${file} does not match its checksum). Nothing was changed. Use another copy.`,
  'archive.newer': ({ name }: { name: string }) => `${name} was written by a newer version. Update Nitidus, then restore it.`,
  'archive.outside': ({ name, file }: { name: string; file: string }) =>
    `${name} holds a file that does not belong in a backup (${file}). Nothing was changed.`,
  'archive.missing': ({ name }: { name: string }) => `${name} is missing. Check the name.`,
  'archive.noData': ({ folder }: { folder: string }) => `${folder} is not a Nitidus data folder. Check the path.`,
} as const
