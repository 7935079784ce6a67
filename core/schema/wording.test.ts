import './wording'
import { array, boolean, number, object, string } from 'yup'
import { describe, expect, it } from 'vitest'
import { refusalOf } from '../../words/in-english'

describe('what a schema says', () => {
  const schema = object({
    name: string().strict().max(3).required(), many: number().strict().integer().min(2).required().label('how many'), kind: string().oneOf(['a', 'b']),
    on: boolean().strict(), all: array(string()).strict().max(1),
  }).noUnknown().required()
  const good = { name: 'Ada', many: 2 }
  const said = (value: unknown) => refusalOf(() => schema.validateSync(value, { stripUnknown: false }))

  it.each([
    [good, null],
    [{ ...good, name: undefined }, 'name is missing: please fill it in.'],
    [{ ...good, name: 'Hester' }, 'name must be at most 3 characters.'],
    [{ ...good, many: 1 }, 'how many must be at least 2.'],
    [{ ...good, many: 2.5 }, 'how many must be a whole number.'],
    [{ ...good, many: 'x' }, 'how many must be a number.'],
    [{ ...good, on: 'yes' }, 'on must be true or false.'],
    [{ ...good, all: ['a', 'b'] }, 'all must be at most 1 entry.'],
    [{ ...good, kind: 'c' }, 'kind must be one of: a, b.'],
    [{ ...good, more: 1 }, 'What was sent holds fields that are not known: more.'],
    [5, 'What was sent must be an object.'], [null, 'What was sent is missing: please fill it in.'],
  ])('%j: %s', (value, wanted) => {
    expect(said(value)).toBe(wanted)
  })
})
