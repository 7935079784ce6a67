import { connect } from 'node:net'
import { linkVersion } from '../shared/link'
import { expect, test, type Stage } from './stage'

/** Says lines to the exchange as a stranger would and gathers what it answers until it has said as much as expected. */
async function converse(stage: Stage, lines: (string | Buffer)[], answers: number): Promise<Record<string, unknown>[]> {
  const socket = connect(stage.stack.exchangePort, '127.0.0.1')
  const heard: Record<string, unknown>[] = []
  let rest = ''
  await new Promise<void>((resolve) => {
    // Whoever goes on sending to one who has hung up may lose the answer.
    socket.on('error', () => {})
    socket.once('close', () => resolve())
    socket.on('data', (chunk) => {
      rest += chunk.toString('utf8')
      const complete = rest.split('\n')
      rest = complete.pop()!
      heard.push(...complete.map(line => JSON.parse(line) as Record<string, unknown>))
      if (heard.length >= answers) resolve()
    })
    for (const line of lines) {
      socket.write(line)
      socket.write('\n')
    }
  })
  socket.destroy()
  return heard
}

const hello = (stage: Stage) => JSON.stringify({ type: 'hello', version: linkVersion, token: stage.stack.token })

test('the exchange answers malformed and oversized messages with an error and goes on', async ({ stage }) => {
  const strange = [
    'not json',
    '[]',
    '{}',
    'null',
    '{"type":"dance"}',
    '{"type":"hello"}',
    '{"type":"hello","version":3,"token":"wrong"}',
    '{"type":"request","id":"1","request":{"service":"tick"}}',
  ]
  // A stranger has one line.
  expect((await converse(stage, [Buffer.alloc(200_000, 120)], 2)).length).toBeLessThanOrEqual(1)
  for (const line of [...strange, Buffer.from([0xFF, 0xFE, 0x00])]) {
    const [answer] = await converse(stage, [line], 1)
    expect(answer).toMatchObject({ type: 'error' })
    expect(String(answer!.message).length).toBeGreaterThan(5)
  }
  const answers = await converse(stage, [
    hello(stage),
    'not json', '[]', '{"type":"dance"}', Buffer.alloc(200_000, 120), Buffer.from([0xFF, 0xFE, 0x00]),
    '{"type":"request","id":"bad","request":{"service":"makeCall","device":"t2100"}}',
    '{"type":"request","id":"bad","request":{"service":"toString"}}',
    '{"type":"request","id":"stranger","request":{"service":"makeCall","device":"__proto__","number":"t2100"}}',
    '{"type":"advance","by":1000}',
  ], 10)
  expect(answers.map(message => message.type)).toEqual(['welcome', 'error', 'error', 'error', 'error', 'error', 'error', 'error', 'reply', 'error'])
  expect(answers[8]).toMatchObject({ refusal: { code: 'unknownDevice' } })
  await stage.cast.ask({ service: 'tick' })
})

test('a request that comes too late is not carried out, and what became of any can be asked', async ({ stage }) => {
  const request = (id: string, before: number) =>
    JSON.stringify({
      type: 'request',
      id,
      before,
      request: { service: 'offerCall', trunk: 'west', party: { number: null, name: 'Late' }, number: '+441632960000' },
    })
  const inquire = (id: string) => JSON.stringify({ type: 'inquire', id })
  const heard = await converse(stage, [hello(stage), request('late', 1_000), inquire('late'), inquire('never asked')], 4)
  expect(heard[1]).toMatchObject({ type: 'reply', refusal: { code: 'tooLate' } })
  expect(heard[2]).toMatchObject({ type: 'outcome', id: 'late', reply: { refusal: { code: 'tooLate' } } })
  expect(heard[3]).toMatchObject({ type: 'outcome', id: 'never asked', reply: null })
})

test('a repeated request id gets the first reply and changes nothing', async ({ stage }) => {
  const request = JSON.stringify({
    type: 'request',
    id: 'once-only',
    request: { service: 'offerCall', trunk: 'west', party: { number: null, name: 'Once' }, number: '+441632960000' },
  })
  const heard = await converse(stage, [hello(stage), request, request], 5)
  const replies = heard.filter(message => message.type === 'reply')
  expect(replies[1]).toEqual(replies[0])
  await expect.poll(() => [...stage.cast.state.calls.values()].filter(call => call.party?.name === 'Once').length).toBe(1)
  await stage.cast.clearTheStage()
})
