/** Runs once when the server starts: opens the data folder, marks interrupted jobs and takes up waiting ones. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return
  const { begin } = await import('@/server')
  await begin()
}
