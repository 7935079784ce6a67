import { chanceFrom } from '../demo/company/chance'
import type { Call } from '../core/calls/model'
import { dump, rebuild, settled } from './made-again'
import { alone, expect, type Stage } from './stage'

/** What is made from the journal is made again from it, with the same result. */
const test = alone({ exchangeArgs: ['--clock', '2031-05-12T08:00:00Z', '--pace', 'rush'] })

/** A while of the demo, with two operators who do a little of everything. */
async function aWhile(stage: Stage, seed: number, steps: number): Promise<void> {
  const chance = chanceFrom(seed)
  const { cast } = stage
  for (let step = 0; step < steps; step++) {
    cast.advance(chance.between(2, 25) * 1_000)
    const device = chance.pick(['t2100', 't2101'])
    const calls = [...cast.state.calls.values()]
    const own = calls.find(call => call.connections.some(connection => connection.device === device && connection.state === 'connected'))
    const waiting = calls.find(call => call.connections.some(({ state }) => state === 'queued'))
    if (own) await pass(stage, own, device, chance.between(0, 6))
    else if (waiting) await cast.attempt({ service: 'answerCall', device, call: waiting.id })
    else await cast.attempt({ service: 'tick' })
  }
}

async function pass({ cast }: Stage, { id: call }: Call, device: string, how: number): Promise<void> {
  switch (how) {
    case 0:
      return void (await cast.attempt({ service: 'parkCall', device, call, slot: null, for: null }))
    case 1:
      return void (await cast.attempt({ service: 'parkCall', device, call, slot: null, for: 't2150' }))
    case 2:
      return void (await cast.attempt({ service: 'singleStepTransferCall', device, call, to: 'mailbox:t2151' }))
    case 3:
      return void (await cast.attempt({ service: 'singleStepTransferCall', device, call, to: 'group:lostProperty' }))
    case 4:
      return void (await cast.attempt({
        service: 'blockNumber',
        device,
        number: `07700 9005${call.length}${call.charCodeAt(call.length - 1)}`.slice(0, 12),
        reason: 'a nuisance',
      }))
    case 5:
      return void (await cast.attempt({ service: 'consultationCall', device, call, number: 't2152' }))
    default:
      return void (await cast.attempt({ service: 'singleStepTransferCall', device, call, to: 't2160' }))
  }
}

test('a random day: records, parkings, blocks and voicemail come out as they were, whatever had become of them, also while calls go on', async ({ own }) => {
  const seed = Number(process.env.REBUILD_SEED ?? Date.now() & 0x7fffffff)
  console.log(`a day with seed ${seed}`)
  own.cast.present(['t2100', 't2101'])
  await aWhile(own, seed, 120)
  await own.cast.ask({ service: 'blockNumber', device: 't2100', number: '07700 900333', reason: 'before' })
  await own.cast.ask({ service: 'unblockNumber', device: 't2100', number: '07700 900333' })
  // A second run of the exchange, in which the calls of the first are lost, and a person gets another name.
  const { epoch } = own.cast.state
  await settled(own)
  own.stack.exchange!.kill('SIGKILL')
  await own.stack.startExchange()
  await expect.poll(() => own.cast.state.epoch).not.toBe(epoch)
  await expect.poll(() => own.cast.state.company.version).toBeGreaterThan(0)
  await own.sql('update person set last = \'Newname\' where id = \'p2160\'')
  await expect.poll(() => own.cast.state.company.telephones.t2160!.name).toContain('Newname')
  own.cast.present(['t2100', 't2101'])
  await aWhile(own, seed + 1, 80)
  await settled(own)
  await own.sql('update message set read_at = now(), dealt_by = \'Wren\', dealt_at = now(), "to" = \'person:p1\' where id = (select min(id) from message)')

  const before = await dump(own)
  for (const [index, rows] of before.slice(0, 4).entries()) expect(rows.length, ['calls', 'parkings', 'blocks', 'messages'][index]).toBeGreaterThan(0)
  expect(before[0]!.some(row => (row as { outcome: string }).outcome === 'lost')).toBe(true)
  await own.sql('delete from call_record where seq % 3 = 0')
  await own.sql('update call_record set name = \'wrong\', story = \'[]\' where seq % 3 = 1')
  await own.sql('delete from parking where slot <> \'slot:1\'')
  await own.sql('update blocked_number set reason = \'wrong\'')
  await own.sql('update message set text = \'wrong\' where kind = \'voice\'')
  expect((await rebuild(own)).stdout).toMatch(/^Made again from \d+ events of 2 runs of the exchange/)
  expect(await dump(own)).toEqual(before)

  const going = aWhile(own, seed + 2, 60)
  await rebuild(own)
  await going
  await settled(own)
  const after = await dump(own)
  expect(after[0]!.length).toBeGreaterThan(before[0]!.length)
  await rebuild(own)
  expect(await dump(own)).toEqual(after)
})

test('events that the database would not keep have happened for whoever makes the tables again', async ({ own }) => {
  own.cast.present(['t2100'])
  await own.sql('alter table journal add constraint no_parking check (type <> \'parked\')')
  const call = await own.cast.ring('First Caller')
  await own.cast.ask({ service: 'answerCall', device: 't2100', call })
  await own.cast.ask({ service: 'parkCall', device: 't2100', call, slot: null, for: null })
  await own.cast.ask({ service: 'directedPickupCall', device: 't2100', call })
  await own.cast.hangUp(call)
  await settled(own)
  const [records] = await dump(own)
  await rebuild(own)
  expect((await dump(own))[0]).toEqual(records)
  expect(records![0]).toMatchObject({ outcome: 'answered' })
})
