import { Migrator } from '@mikro-orm/migrations'
import { MikroORM } from '@mikro-orm/postgresql'
import { OnlyInTime } from './away'
import * as entities from './entities'
import { Begin } from './migrations/20261124_begin'
import { TheWholeHand } from './migrations/20261125_the_whole_hand'
import { Doors } from './migrations/20261126_doors'
import { TheCompany } from './migrations/20261127_the_company'
import { AJournalThatBegins } from './migrations/20261128_a_journal_that_begins'
import { OpeningHoursTables } from './migrations/20261129_opening_hours'
import { PreferencesTable } from './migrations/20261130_preferences'
import { LogTextIndex } from './migrations/20261201_log_text'
import { QueuePromise } from './migrations/20261202_queue_promise'
import { KeyPages } from './migrations/20261203_key_pages'
import { Paging } from './migrations/20261204_paging'
import { QueueMembers } from './migrations/20261205_queue_members'
import { Contacts } from './migrations/20261210_contacts'
import { OwnNotes } from './migrations/20261212_notes'
import { AddressBook } from './migrations/20261213_address_book'
import { CompanyChanges } from './migrations/20261214_company_changes'
import { AddressBooks } from './migrations/20261215_address_books'
import { Greetings } from './migrations/20261216_greetings'
import { HouseRules } from './migrations/20261217_house_rules'
import { ChargesCorrected } from './migrations/20261218_charges'
import { Figures } from './migrations/20261219_figures'
import { CallBacks } from './migrations/20261220_call_backs'
import { HistoryUnderWay } from './migrations/20261221_history_under_way'
import { AHouseOfOnesOwn } from './migrations/20261222_a_house_of_ones_own'
import { HouseDirectory } from './migrations/20261223_house_directory'
import { IdentityProvider } from './migrations/20261224_identity_provider'
import { LateCallBacks } from './migrations/20261225_late_call_backs'
import { CallsTo } from './migrations/20261226_calls_to'
import { Gaps } from './migrations/20261227_gaps'
import { CalendarValidators } from './migrations/20261228_calendar_validators'
import { CardsCut } from './migrations/20261229_cards_cut'
import { TonesOfTheHouse } from './migrations/20261230_tones_of_the_house'
import { ListeningRight } from './migrations/20270102_listening'
import { Mailboxes } from './migrations/20270104_mailboxes'
import { OwnSounds } from './migrations/20270105_own_sounds'
import { DealtWithMessages } from './migrations/20270108_dealt_with_messages'
import { TelephoneAccounts } from './migrations/20270109_telephone_accounts'
import { CutInCodes } from './migrations/20270107_cut_in_codes'
import { PassedOn } from './migrations/20270106_passed_on'
import { Recordings } from './migrations/20270103_recordings'
import { SoundOfMessages } from './migrations/20270101_sound_of_messages'
import { Whereabouts } from './migrations/20261211_whereabouts'
import { PagingRights } from './migrations/20261209_paging_rights'
import { FullQueues } from './migrations/20261208_full_queues'
import { WhoPeopleAre } from './migrations/20261207_people'
import { RingingQueues } from './migrations/20261206_ringing_queues'

export type { EntityManager } from '@mikro-orm/postgresql'

/** A database that does not answer is given up on after this long (milliseconds): calls wait for nothing, people for little. */
export const limits = { connecting: 2_000, query: 8_000 } as const

/**
 * A connection to PostgreSQL. Nothing is asked yet.
 * @param query how long a statement may take, in milliseconds; 0 for as long as it takes
 */
export function connectDatabase(url: string, { query } = { query: limits.query as number }): Promise<MikroORM> {
  return MikroORM.init({
    clientUrl: url,
    entities: Object.values(entities),
    extensions: [Migrator],
    subscribers: [new OnlyInTime()],
    migrations: {
      migrationsList: [
        { name: '20261124_begin', class: Begin }, { name: '20261125_the_whole_hand', class: TheWholeHand }, { name: '20261126_doors', class: Doors },
        { name: '20261127_the_company', class: TheCompany }, { name: '20261128_a_journal_that_begins', class: AJournalThatBegins },
        { name: '20261129_opening_hours', class: OpeningHoursTables }, { name: '20261130_preferences', class: PreferencesTable },
        { name: '20261201_log_text', class: LogTextIndex }, { name: '20261202_queue_promise', class: QueuePromise },
        { name: '20261203_key_pages', class: KeyPages }, { name: '20261204_paging', class: Paging },
        { name: '20261205_queue_members', class: QueueMembers },
        { name: '20261206_ringing_queues', class: RingingQueues },
        { name: '20261207_people', class: WhoPeopleAre },
        { name: '20261208_full_queues', class: FullQueues },
        { name: '20261209_paging_rights', class: PagingRights },
        { name: '20261210_contacts', class: Contacts },
        { name: '20261211_whereabouts', class: Whereabouts },
        { name: '20261212_notes', class: OwnNotes },
        { name: '20261213_address_book', class: AddressBook },
        { name: '20261214_company_changes', class: CompanyChanges },
        { name: '20261215_address_books', class: AddressBooks },
        { name: '20261216_greetings', class: Greetings },
        { name: '20261217_house_rules', class: HouseRules },
        { name: '20261218_charges', class: ChargesCorrected },
        { name: '20261219_figures', class: Figures },
        { name: '20261220_call_backs', class: CallBacks },
        { name: '20261221_history_under_way', class: HistoryUnderWay },
        { name: '20261222_a_house_of_ones_own', class: AHouseOfOnesOwn },
        { name: '20261223_house_directory', class: HouseDirectory },
        { name: '20261224_identity_provider', class: IdentityProvider },
        { name: '20261225_late_call_backs', class: LateCallBacks },
        { name: '20261226_calls_to', class: CallsTo },
        { name: '20261227_gaps', class: Gaps },
        { name: '20261228_calendar_validators', class: CalendarValidators },
        { name: '20261229_cards_cut', class: CardsCut },
        { name: '20261230_tones_of_the_house', class: TonesOfTheHouse },
        { name: '20270101_sound_of_messages', class: SoundOfMessages },
        { name: '20270102_listening', class: ListeningRight },
        { name: '20270103_recordings', class: Recordings },
        { name: '20270104_mailboxes', class: Mailboxes },
        { name: '20270105_own_sounds', class: OwnSounds },
        { name: '20270106_passed_on', class: PassedOn },
        { name: '20270107_cut_in_codes', class: CutInCodes },
        { name: '20270108_dealt_with_messages', class: DealtWithMessages },
        { name: '20270109_telephone_accounts', class: TelephoneAccounts },
      ],
      snapshot: false,
      silent: true,
    },
    pool: { min: 0, max: 8, acquireTimeoutMillis: limits.connecting, afterCreate: letGoAfterTimeout },
    driverOptions: { connection: { connectionTimeoutMillis: limits.connecting, query_timeout: query, statement_timeout: query, keepAlive: true } },
    forceUtcTimezone: true,
    // The database is made by whoever keeps PostgreSQL.
    ensureDatabase: false,
  })
}

interface RawConnection { query: (...asked: unknown[]) => unknown, emit: (event: 'error', error: Error) => void }

/**
 * A connection on which somebody no longer waited for an answer is used by nobody else: what was asked there may still begin, and what came after it would
 * stand in a transaction that nobody ends.
 */
function letGoAfterTimeout(connection: RawConnection, done: (error: unknown, connection: RawConnection) => void): void {
  const query = connection.query.bind(connection)
  connection.query = (...asked) => {
    const heard = asked.at(-1)
    if (typeof heard !== 'function') return query(...asked)
    return query(...asked.slice(0, -1), (error: Error | null, ...answer: unknown[]) => {
      // The pool's own listener takes it out.
      if (error?.message === 'Query read timeout') connection.emit('error', error)
      heard(error, ...answer)
    })
  }
  done(null, connection)
}

/**
 * The server's connection. The schema belongs to another role, and is brought up to date by a command (`npm run migrate`).
 * @throws when the database does not answer, or its schema is older than this program
 */
export async function openDatabase(url: string): Promise<MikroORM> {
  const orm = await connectDatabase(url)
  try {
    const done = await orm.em.fork().execute<{ name: string }[]>('select name from mikro_orm_migrations')
    const wanted = orm.config.get('migrations').migrationsList!.map(migration => 'name' in migration ? migration.name : '')
    if (wanted.some(name => !done.some(migration => migration.name === name))) throw new Error('its schema is older than this program: run "npm run migrate"')
    return orm
  }
  catch (error) {
    await orm.close(true)
    throw error
  }
}
