import { buildApplication, buildCard, buildCommand, installPackages } from './install.mjs'

/** Installs and builds everything that the command and the application need. */
const { compiled } = await installPackages()
await buildCommand()
await buildCard()
await buildApplication()
await compiled
