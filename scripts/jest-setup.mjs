// Failures name the lines of the sources, not of the bundles.
process.setSourceMapsEnabled(true)
