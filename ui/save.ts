/** Hands text to the browser as a file to keep. */
export function saveText(name: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type: 'text/plain' }))
  clickLink(address, name)
  URL.revokeObjectURL(address)
}

/** Has the browser fetch a file of the application to keep, under the name that the application gives it. */
export function fetchFile(address: string): void {
  clickLink(address, '')
}

function clickLink(href: string, download: string): void {
  Object.assign(document.createElement('a'), { href, download }).click()
}
