import { t } from '~/composables/language'
import { formatNumber } from '~/composables/numbers'
import { personOfMessages } from '~~/core/calls/names'
import { lookUp } from '~~/core/company/lookups'
import type { Message } from '~~/shared/messages'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { shownAt } from './house-clock'

/** Whom a message is from. */
export function whoLeft({ caller, number }: Message): string {
  return caller ?? (number && formatNumber(number)) ?? t('messages.somebody')
}

const digits = (text: string) => text.replace(/\D/g, '').slice(-9)

/** Their number, unless it stands in their name already, in whatever notation. */
export function numberBeside(message: Message): string | null {
  return message.number && digits(message.number) !== digits(whoLeft(message)) ? formatNumber(message.number) : null
}

/** Whose mailbox a message is in, by name. */
export function mailboxName({ to }: Pick<Message, 'to'>): string {
  const directory = useDirectory()
  const person = lookUp(useLive().company?.people ?? {}, personOfMessages(to) ?? '')
  return person ? `${person.first} ${person.last}` : directory.line(to)?.name ?? directory.nameOf(to)
}

/** Whether several people read the mailbox: then it is said who has dealt with what. */
export function isShared({ to }: Message): boolean {
  const { company } = useLive()
  return Boolean(company && (lookUp(company.groups, to) ?? lookUp(company.lines, to)))
}

/** Who has dealt with what it is about, and when; that nobody has yet. */
export function dealtWith({ dealtBy, dealtAt }: Message): string {
  return dealtBy === null ? t('messages.notDealtWithYet') : t('messages.dealtWithBy', { name: dealtBy, at: shownAt(dealtAt!).format('D MMM H:mm') })
}

/** Who has passed it on, and with which word; empty: nobody. */
export function passedOn({ passedOn: word, passedOnBy: name }: Message): string {
  return name === null ? '' : word ? t('messages.passedOnByWith', { name, word }) : t('messages.passedOnBy', { name })
}
