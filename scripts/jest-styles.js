/** In unit tests a class of a CSS module is called what it is called in the file. */
module.exports = new Proxy({}, { get: (_, name) => (name === '__esModule' ? false : name) })
