import { connect } from 'node:net'
import { expect, test, type Stage } from './stage'

/** Says lines to the exchange as a stranger would and gathers what it answers until it has said as much as expected. */
async function converse(stage: Stage, lines: (string | Buffer)[], answers: number): Promise<Record<string, unknown>[]> {
  const socket = connect(stage.stack.exchangePort, '127.0.0.1')
  const heard: Record<string, unknown>[] = []
  let rest = ''
  await new Promise<void>((resolve, reject) => {
    socket.on('error', reject)
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

test('the exchange answers malformed and oversized messages with an error and goes on', async ({ stage }) => {
  const hello = JSON.stringify({ type: 'hello', version: 1, token: stage.stack.token })
  const heard = await converse(stage, [
    'not json', '[]', '{}', 'null', '{"type":"dance"}', '{"type":"hello"}', '{"type":"hello","version":1,"token":"wrong"}',
    '{"type":"request","id":"1","request":{"service":"tick"}}', Buffer.alloc(200_000, 120), Buffer.from([0xFF, 0xFE, 0x00]),
  ], 10)
  expect(heard.map(message => message.type)).toEqual(Array.from({ length: 10 }, () => 'error'))
  for (const { message } of heard) expect(String(message).length).toBeGreaterThan(5)

  const answers = await converse(stage, [
    hello,
    '{"type":"request","id":"bad","request":{"service":"makeCall","device":"2100"}}',
    '{"type":"request","id":"bad","request":{"service":"toString"}}',
    '{"type":"request","id":"stranger","request":{"service":"makeCall","device":"__proto__","number":"2100"}}',
    '{"type":"advance","by":1000}',
  ], 5)
  expect(answers.map(message => message.type)).toEqual(['welcome', 'error', 'error', 'reply', 'error'])
  expect(answers[3]).toMatchObject({ refusal: { code: 'unknownDevice' } })
  expect((await stage.cast.ask({ service: 'tick' })).refusal).toBeUndefined()
})

test('a repeated request id gets the first reply and changes nothing', async ({ stage }) => {
  const request = JSON.stringify({ type: 'request', id: 'once-only', request: { service: 'offerCall', trunk: 'west', party: { number: null, name: 'Once' }, number: '+441632960000' } })
  const heard = await converse(stage, [JSON.stringify({ type: 'hello', version: 1, token: stage.stack.token }), request, request], 5)
  const replies = heard.filter(message => message.type === 'reply')
  expect(replies[1]).toEqual(replies[0])
  await expect.poll(() => Object.values(stage.cast.state.calls).filter(call => call.party?.name === 'Once').length).toBe(1)
  await stage.cast.clearTheStage()
})
