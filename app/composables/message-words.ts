import { t } from '~/composables/language'
import { formatNumber } from '~/composables/numbers'
import type { Message } from '~~/shared/messages'

/** Whom a message is from. */
export function whoLeft({ caller, number }: Message): string {
  return caller ?? (number && formatNumber(number)) ?? t('messages.somebody')
}

const digits = (text: string) => text.replace(/\D/g, '').slice(-9)

/** Their number, unless it stands in their name already, in whatever notation. */
export function numberBeside(message: Message): string | null {
  return message.number && digits(message.number) !== digits(whoLeft(message)) ? formatNumber(message.number) : null
}

/** Who has passed it on, and with which word; empty: nobody. */
export function passedOn({ passedOn: word, passedOnBy: name }: Message): string {
  return name === null ? '' : word ? t('messages.passedOnByWith', { name, word }) : t('messages.passedOnBy', { name })
}
