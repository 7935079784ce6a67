import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { marked } from './marks'

const shown = (text: string, typed: string) => marked(text, typed).map(piece => piece.marked ? `[${piece.text}]` : piece.text).join('')

describe('the letters that were typed', () => {
  it.each([
    ['Maria Quillfeather', 'qui', 'Maria [Qui]llfeather'],
    ['Åse Hjelmqvist', 'hj ase', '[Åse] [Hj]elmqvist'],
    ['Bjørn Kjærsbøl', 'kjaer', 'Bjørn [Kjær]sbøl'],
    ['Holloway-Stark', 'stark', 'Holloway-[Stark]'],
    ['Tamsin', 'msi', 'Ta[msi]n'],
    ['Tamsin', 'ms', 'Tamsin'],
    ['Quarrendon', 'kwar', 'Quarrendon'],
    ['🦭 Selkie', 'sel', '🦭 [Sel]kie'],
    ['Selkie 🦭🦭 Bay', 'bay', 'Selkie 🦭🦭 [Bay]'],
  ])('%s with %s: %s', (text, typed, expected) => {
    expect(shown(text, typed)).toBe(expected)
  })

  it('whatever is typed, the pieces are the text', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (text, typed) => {
      expect(marked(text, typed).map(piece => piece.text).join('')).toBe(text)
    }))
  })
})
