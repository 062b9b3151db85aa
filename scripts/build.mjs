import { buildApplication, buildCommand } from './install.mjs'

/** Builds the command and the application where their sources have changed. */
buildCommand()
buildApplication()
