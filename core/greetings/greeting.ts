const noon = 12
const evening = 18

/**
 * What to say on answering a line: right for the time of day.
 * @param hour of the company's own clock, 0 to 23
 * @param words what the line says after it
 */
export function greetingAt(hour: number, words: string): string {
  const opening = hour < noon ? 'Good morning' : hour < evening ? 'Good afternoon' : 'Good evening'
  return `${opening}, ${words}`
}
