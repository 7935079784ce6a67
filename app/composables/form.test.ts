import { FetchError } from 'ofetch'
import { describe, expect, it } from 'vitest'
import { newMessage } from '~~/shared/messages'
import { NotTaken } from './failure'
import { useForm } from './form'

describe('a form', () => {
  const fields = { to: 'For', text: 'What about' }

  it('tells at each field what is wrong with it, by the name that stands over it', async () => {
    const { send, errors, failure, sending } = useForm()
    const done = await send(fields, async () => {
      newMessage.validateSync({ to: '', caller: null, number: null, text: '', urgent: false, callBack: true }, { abortEarly: false })
    })
    expect(done).toBe(false)
    expect(errors.value).toEqual({ to: 'For is missing: please fill it in.', text: 'What about is missing: please fill it in.' })
    expect(failure.value).toBeNull()
    expect(sending.value).toBe(false)
  })

  it('names a field that can\'t tell it itself by what stands over it', async () => {
    const { send, failure } = useForm({ to: 'Whom', text: 'What about' })
    await send({}, async () => void newMessage.validateSync({ to: '', caller: null, number: null, text: 'x', urgent: false, callBack: true }))
    expect(failure.value).toBe('Whom is missing: please fill it in.')
  })

  it('tells what the server says at the field it names, and below the form what belongs to none', async () => {
    const { send, errors, failure } = useForm()
    const sentence = 'Choose somebody from the directory.'
    const refused = (field: string) => Object.assign(new FetchError('x'), { data: { message: 'y', data: { field, sentence } } })
    await send(fields, () => Promise.reject(refused('to')))
    expect([errors.value, failure.value]).toEqual([{ to: 'Choose somebody from the directory.' }, null])
    await send(fields, () => Promise.reject(refused('elsewhere')))
    expect([errors.value, failure.value]).toEqual([{}, 'Choose somebody from the directory.'])
    await send(fields, () => Promise.reject(new TypeError('no network')))
    expect(failure.value).toContain('can\'t be reached')
    await send(fields, () => Promise.reject(new NotTaken('The file is empty.')))
    expect(failure.value).toBe('The file is empty.')
    expect(await send(fields, () => Promise.resolve())).toBe(true)
    expect([errors.value, failure.value]).toEqual([{}, null])
  })
})
