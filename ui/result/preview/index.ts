export { PreviewPanel } from './PreviewPanel'
export { usePreview, type Preview } from './usePreview'
export { triedText } from './tried'
