import { notFound } from 'next/navigation'
import { EXERCISE_NAMES, LEVELS, type ExerciseName, type Level } from '@/core/practice'
import { ExerciseScreen } from '@/ui/practice'
import { Themed } from '@/ui/shell'

interface Props {
  params: Promise<{ name: string }>
  searchParams: Promise<{ level?: string; seed?: string }>
}

export default async function Page({ params, searchParams }: Props) {
  const { name } = await params
  if (!EXERCISE_NAMES.includes(name as ExerciseName)) notFound()
  const asked = await searchParams
  const level = (LEVELS.find((each) => String(each) === asked.level) ?? 1) as Level
  const seed = Math.abs(Math.trunc(Number(asked.seed))) || 1
  return (
    <Themed>
      {/* Another task begins anew. */}
      <ExerciseScreen key={`${name} ${level} ${seed}`} name={name as ExerciseName} level={level} seed={seed} />
    </Themed>
  )
}
