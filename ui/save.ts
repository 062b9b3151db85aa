/** Hands text to the browser as a file to keep. */
export function saveText(name: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type: 'text/plain' }))
  const link = Object.assign(document.createElement('a'), { href: address, download: name })
  link.click()
  URL.revokeObjectURL(address)
}
