import type { JobKind } from '@/schemas'
import type { JobKindWork } from '../kind'
import { backup } from './backup'
import { check } from './check'
import { finish } from './finish'
import { fuse } from './fuse'
import { inspect } from './inspect'
import { measure } from './measure'
import { mend } from './mend'
import { needed } from './needed'
import { restore } from './restore'
import { shoot } from './shoot'
import { split } from './split'
import { survey } from './survey'
import { take } from './take'

/** Every kind of job. The compiler finds one that is missing here. */
const KINDS = { shoot, fuse, inspect, needed, mend, finish, take, survey, split, measure, check, backup, restore } satisfies {
  [K in JobKind]: { lane: string }
}

export const JOB_KINDS = KINDS as unknown as Record<JobKind, JobKindWork<never, never>>
