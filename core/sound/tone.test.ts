import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { countries } from '../numbers/countries'
import { toneKinds, tonesOfCountry } from './country-tones'
import { heightOf, readTone, toneSamples } from './tone'

const rate = 8_000

describe('a tone as it is written', () => {
  it('is a turn of frequencies and pauses, in hertz and milliseconds', () => {
    expect(readTone('400+450: 0.4 on 0.2 off 0.4 on 2.0 off')).toEqual([
      { frequencies: [400, 450], milliseconds: 400 }, { frequencies: [], milliseconds: 200 },
      { frequencies: [400, 450], milliseconds: 400 }, { frequencies: [], milliseconds: 2_000 },
    ])
    expect(readTone(' 950:0,33 ON; 1400 : 0.33on 1 off ')).toEqual([
      { frequencies: [950], milliseconds: 330 }, { frequencies: [1_400], milliseconds: 330 }, { frequencies: [], milliseconds: 1_000 },
    ])
    expect(readTone('425: continuous')).toEqual([{ frequencies: [425], milliseconds: 1_000 }])
    expect(readTone('200+3400+1000+2000: 30 on')).not.toBeNull()
    expect(readTone(`425: ${'0.1 on 0.1 off '.repeat(8)}`)).toHaveLength(16)
    expect(readTone('400 + 4\t50 :\n1  on')).toEqual([{ frequencies: [400, 450], milliseconds: 1_000 }])
  })

  it.each([
    '', '425', '425:', ':0.5 on', '425: 0.5', '425: on', '425: 0.5 off', '425: 0 on', '425: 0.0001 on', '425: 31 on', '199: 1 on', '3401: 1 on',
    '425: 0.5 on,', '425+: 1 on',
    '425: continuous; 400: 1 on', 'a 425: 1 on', '400+450+9999: 1 on', '400+100: 1 on', '425: 1 on 31 off', '425: 1 on 0 off',
    '300+400+500+600+700: 1 on', '425: -1 on', '425: 1e3 on', `425: ${'0.1 on 0.1 off '.repeat(9)}`, '425: 1 on;',
  ])('is refused as %j', written => expect(readTone(written)).toBeNull())

  it('never throws, whatever is written', () => {
    fc.assert(fc.property(fc.stringMatching(/^[0-9+:;., onfcitus]{0,80}$/), (written) => {
      const tone = readTone(written)
      if (tone) expect(tone.every(({ milliseconds, frequencies }) => milliseconds > 0 && milliseconds <= 30_000 && frequencies.every(hertz => hertz >= 200
        && hertz <= 3_400))).toBe(true)
    }))
  })

  it('of every country can be read, and of a country that is not known too', () => {
    for (const { value: country } of [...countries, { value: 'constructor' }])
      for (const kind of toneKinds) expect(readTone(tonesOfCountry(country)[kind]), `${country} ${kind}`).not.toBeNull()
    const cadences = (country: string) => toneKinds.slice(0, 3).map((kind) => {
      const tone = readTone(tonesOfCountry(country)[kind])!
      return `${tone[0]!.frequencies.join('+')} ${tone.map(({ milliseconds }) => milliseconds).join(' ')}`
    }).join(', ')
    const told: Record<string, string> = {
      XX: '425 1000 4000, 425 500 500, 425 250 250', NL: '425 1000 4000, 425 500 500, 425 250 250',
      IE: '400+450 400 200 400 2000, 425 500 500, 425 250 250', AU: '400+450 400 200 400 2000, 425 375 375, 425 375 375',
      NZ: '400+450 400 200 400 2000, 400 500 500, 400 250 250', IN: '400 400 200 400 2000, 400 750 750, 400 250 250',
      ZA: '400 400 200 400 2000, 400 500 500, 400 250 250', US: '440+480 2000 4000, 480+620 500 500, 480+620 250 250',
      DE: '425 1000 4000, 425 480 480, 425 240 240', AT: '420 1000 5000, 420 400 400, 420 200 200', CH: '425 1000 4000, 425 500 500, 425 200 200',
      FR: '440 1500 3500, 440 500 500, 440 250 250', BE: '425 1000 3000, 425 500 500, 425 167 167', IT: '425 1000 4000, 425 500 500, 425 200 200',
      PT: '425 1000 5000, 425 500 500, 425 200 200', NO: '425 1000 4000, 425 500 500, 425 200 200', DK: '425 1000 4000, 425 250 250, 425 250 250',
      FI: '425 1000 4000, 425 300 300, 425 200 200', PL: '425 1000 4000, 425 500 500, 425 500 500', CZ: '425 1000 4000, 425 330 330, 425 165 165',
      ES: '425 1500 3000, 425 200 200, 425 200 200 200 200 200 600', SE: '425 1000 5000, 425 250 250, 425 250 750',
      JP: '400 1000 2000, 400 500 500, 400 500 500', BR: '425 1000 4000, 425 250 250, 425 250 250', MX: '425 1000 4000, 425 250 250, 425 250 250',
    }
    expect(Object.fromEntries(Object.keys(told).map(country => [country, cadences(country)]))).toEqual(told)
    expect(tonesOfCountry('GB').ringing).toBe('400+450: 0.4 on 0.2 off 0.4 on 2.0 off')
    expect(readTone(tonesOfCountry('NL').busy)).toEqual([{ frequencies: [425], milliseconds: 500 }, { frequencies: [], milliseconds: 500 }])
  })
})

describe('its samples', () => {
  it('hold each frequency at its share of the level while it is on, and nothing while it is off', () => {
    const samples = toneSamples(readTone('400+450: 0.4 on 0.2 off')!, rate, 0.5)
    expect(samples.length).toBe(0.6 * rate)
    const on = samples.subarray(0, 0.4 * rate)
    expect(heightOf(400, on, rate)).toBeCloseTo(0.25, 1)
    expect(heightOf(450, on, rate)).toBeCloseTo(0.25, 1)
    expect(heightOf(700, on, rate)).toBeLessThan(0.01)
    expect(samples.subarray(0.4 * rate).every(sample => sample === 0)).toBe(true)
    expect(Math.max(...samples)).toBeLessThanOrEqual(0.5)
  })

  it('begin and end without a click, and go on from their end when there is no pause', () => {
    const pulsed = toneSamples(readTone('425: 0.25 on 0.25 off')!, rate, 1)
    const steps = [...pulsed].slice(1).map((sample, at) => Math.abs(sample - pulsed[at]!))
    expect(Math.max(...steps)).toBeLessThan(2 * Math.PI * 425 / rate)
    expect(Math.abs(pulsed[1]!)).toBeLessThan(0.02)
    const steady = toneSamples(readTone('425: continuous')!, rate, 1)
    expect(steady[0]).toBeCloseTo(Math.sin(2 * Math.PI * 425 * steady.length / rate), 6)
    expect(steady[1]).toBeCloseTo(Math.sin(2 * Math.PI * 425 / rate), 6)
  })
})
