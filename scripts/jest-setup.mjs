import Module from 'node:module'
import { register as registerRequire } from 'tsx/cjs/api'
import { register as registerImport } from 'tsx/esm/api'

// Only this process compiles TypeScript. Its child processes and threads run without a loader, as shipped.
registerRequire()
registerImport()
// A class of a CSS module has the name that it has in the file.
Module._extensions['.css'] = (module) => {
  module.exports = new Proxy({}, { get: (_, name) => (name === '__esModule' ? false : name) })
}
