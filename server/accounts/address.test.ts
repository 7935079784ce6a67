import { describe, expect, it } from 'vitest'
import { addressBehind } from './address'

describe('where a request comes from', () => {
  const connection = '10.0.0.1'

  it.each([
    [false, '6.6.6.6', connection], [0, '6.6.6.6', connection],
    [true, '198.51.100.7', '198.51.100.7'], [1, 'their word, 198.51.100.7', '198.51.100.7'],
    [2, 'their word, 198.51.100.7, 10.0.0.9', '198.51.100.7'], [2, '198.51.100.7', '198.51.100.7'],
    [1, undefined, connection], [1, ' , ', connection],
  ] as const)('%s proxies, "%s": %s', (proxies, forwarded, wanted) => {
    expect(addressBehind(proxies, connection, forwarded)).toBe(wanted)
  })
})
