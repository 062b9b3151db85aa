import { buildApplication, buildCard, buildCommand } from './install.mjs'

/** Builds the command and the application where their sources have changed. */
await buildCommand()
await buildCard()
await buildApplication()
