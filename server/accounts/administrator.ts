import { randomBytes } from 'node:crypto'
import { createInterface } from 'node:readline'
import { parseArgs } from 'node:util'
import { rulesAtFirst } from '~~/shared/house-rules'
import { readSecretFiles } from '~~/shared/secret-files'
import { connectDatabase } from '../database/orm'
import { Account } from '../database/entities'
import { isGoodPassword, passwordRule, Passwords } from './passwords'
import { foldSignIn } from './sign-in-limits'

/** The command behind `npm run administrator`: makes the first account of a house that has none, or gives an administrator who is locked out a new password. */
const { positionals, values } = parseArgs({ allowPositionals: true, options: { name: { type: 'string' }, ask: { type: 'boolean', default: false } } })
const signIn = foldSignIn(positionals[0] ?? '')
const [unread] = readSecretFiles(process.env, ['NUXT_DATABASE_URL'])
if (unread) fail(unread)
const url = process.env.NUXT_DATABASE_URL
if (!url || !/^[\p{L}\p{N}._@-]{2,60}$/u.test(signIn))
  fail(
    'Say for whom: npm run administrator -- NAME [--ask]. NAME has 2 to 60 letters, digits or . _ @ -, '
    + 'and NUXT_DATABASE_URL holds the database as the server uses it.',
  )

const made = values.ask ? null : randomBytes(12).toString('base64url')
const password = made ?? await ask('Password: ')
const passwords = new Passwords()
const orm = await connectDatabase(url!)
try {
  const [rules] = await orm.em.fork().execute<{ kept: { passwordLength?: number } }[]>('select kept from house_rules')
  const { passwordLength } = { ...rulesAtFirst, ...rules?.kept }
  if (!isGoodPassword(password, signIn, passwordLength)) fail(passwordRule(passwordLength))
  const passwordHash = await passwords.hash(password)
  const known = await orm.em.fork().transactional(async (tx) => {
    // Two who give the command at one moment come one after the other.
    await tx.execute('select pg_advisory_xact_lock(hashtext(\'first administrator\'))')
    const account = await tx.findOne(Account, { signIn })
    if (account && account.role !== 'administrator') fail(`${signIn} is an account of somebody who is no administrator. Nothing was changed.`)
    if (account) Object.assign(account, { passwordHash, disabled: false })
    else tx.create(Account, { signIn, name: values.name ?? signIn, role: 'administrator', passwordHash, person: null, disabled: false })
    await tx.flush()
    await tx.execute('select pg_notify(\'accounts\', ?)', [signIn])
    return account !== null
  })
  console.log(known ? `${signIn} has a new password.` : `${signIn} is an administrator now.`)
  if (made) console.log(`Password, shown this once: ${made}`)
}
finally {
  passwords.close()
  await orm.close(true)
}

/** Reads a line without showing it. */
function ask(question: string): Promise<string> {
  process.stdout.write(question)
  const lines = createInterface({ input: process.stdin, terminal: false })
  return new Promise((resolve) => {
    lines.once('line', (line) => {
      lines.close()
      process.stdout.write('\n')
      resolve(line)
    })
    lines.once('close', () => resolve(''))
  })
}

function fail(sentence: string): never {
  console.error(sentence)
  process.exit(2)
}
