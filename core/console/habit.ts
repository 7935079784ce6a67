/** Whom somebody chooses again and again: each choice weighs less with every later one. */
export type Habit = readonly { id: string, weight: number }[]

const fading = 0.97
const most = 40
/** Chosen about three times lately. */
const often = 2.5

/** The habit after another choice: the latest ones, the heaviest first. */
export function afterChoice(habit: Habit, id: string): { id: string, weight: number }[] {
  const before = habit.find(known => known.id === id)?.weight ?? 0
  const others = habit.filter(known => known.id !== id).map(known => ({ id: known.id, weight: known.weight * fading }))
  return [{ id, weight: before * fading + 1 }, ...others].sort((a, b) => b.weight - a.weight).slice(0, most)
}

/** Those who are chosen often. */
export function chosenOften(habit: Habit): ReadonlySet<string> {
  return new Set(habit.filter(({ weight }) => weight >= often).map(({ id }) => id))
}
