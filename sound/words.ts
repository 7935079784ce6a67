/** What the house says by itself. */

/** @param mailbox how it is called in a sentence: "the voicemail of Ines Marlowe" */
export function mailboxGreeting(mailbox: string | null): string {
  return `This is ${mailbox ?? 'a voicemail'}. Please speak after the tone.`
}
