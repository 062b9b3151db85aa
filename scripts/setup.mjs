import { buildApplication, buildCommand, installPackages } from './install.mjs'

/** Installs and builds everything that the command and the application need. */
installPackages()
buildCommand()
buildApplication()
