type Kind = 'error' | 'success' | 'info'

/** A short message over the screen. What shows it is loaded when there is something to say; where that fails, the browser says it. */
const show = (kind: Kind) => (text: string, seconds?: number) =>
  void import('./show').then(
    ({ message }) => message[kind](text, seconds),
    () => window.alert(text),
  )

export const message = { error: show('error'), success: show('success'), info: show('info') }
