import { installJudges } from './install.mjs'

/** Installs what the tests judge our files by; a process of its own, so that other work goes on meanwhile. */
await installJudges()
