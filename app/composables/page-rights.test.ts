import { expect, it } from 'vitest'
import { merrowby } from '~~/demo/company/merrowby'
import { beginAtADesk, enters } from '~~/tests/desk'
import { useSession } from '~/stores/session'
import { mayOpen } from './page-rights'

beginAtADesk(() => merrowby(40))

it('a page is offered to who may open it, and to nobody else', () => {
  const offered = () => ['/', '/call-backs', '/parkings', '/figures', '/charges', '/accounts', '/company'].map(mayOpen)
  expect(offered()).toEqual([true, true, true, false, false, false, false])
  enters('supervisor')
  expect(offered()).toEqual([true, true, true, true, true, false, false])
  enters('administrator')
  expect(offered()).toEqual([true, true, true, true, true, true, true])
  enters('staff')
  expect(offered()).toEqual([true, false, false, false, false, false, false])
  useSession().me = null
  expect(offered()).toEqual([true, false, false, false, false, false, false])
})
