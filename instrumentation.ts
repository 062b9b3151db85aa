/** Runs once when the server starts: opens the data folder, marks interrupted jobs and takes up waiting ones. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return
  const { context, endOnSignals } = await import('@/server')
  endOnSignals()
  try {
    await context()
  } catch (error) {
    // The pages say the same; what is wrong may be mended while the application runs. A folder that is in use may not.
    console.error((error as Error).message)
    if ((error as { code?: string }).code === 'data.inUse') process.exit(1)
  }
}
