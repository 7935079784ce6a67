/**
 * The tones of a country (ISO 3166-1), as ITU-T E.180 collects them (supplement 2, "Various tones used in national networks"): what callers there know.
 * They follow from the country of the house; what the house has written itself comes first.
 */

/** `ringing`: somebody is rung; `busy`: they talk; `congestion`: no line is free; `unobtainable`: nobody can be reached there. */
export const toneKinds = ['ringing', 'busy', 'congestion', 'unobtainable'] as const
export type ToneKind = typeof toneKinds[number]
export type TonesAsWritten = Record<ToneKind, string>

/** The special information tone: three notes that rise (E.180, 3.7). */
const information = '950: 0.33 on; 1400: 0.33 on; 1800: 0.33 on 1.0 off'

/** One frequency for all of them, as most networks have it: seconds of ringing on and off, of busy, of congestion. */
function single(hertz: number, ringing: readonly [on: number, off: number], busy: number, congestion: number, unobtainable = information): TonesAsWritten {
  const each = (on: number, off: number) => `${hertz}: ${on.toFixed(3)} on ${off.toFixed(3)} off`
  return { ringing: each(...ringing), busy: each(busy, busy), congestion: each(congestion, congestion), unobtainable }
}

/** What E.180 recommends: 425 Hz, a second of ringing in five, half seconds of busy, quarters when no line is free. */
const recommended = single(425, [1, 4], 0.5, 0.25)
const double = '0.4 on 0.2 off 0.4 on 2.0 off'

const northAmerican: TonesAsWritten = {
  ringing: '440+480: 2.0 on 4.0 off', busy: '480+620: 0.5 on 0.5 off', congestion: '480+620: 0.25 on 0.25 off', unobtainable: information,
}

const tones: Record<string, TonesAsWritten> = {
  GB: {
    ringing: `400+450: ${double}`, busy: '400: 0.375 on 0.375 off', congestion: '400: 0.4 on 0.35 off 0.225 on 0.525 off', unobtainable: '400: continuous',
  },
  IE: { ...single(425, [1, 4], 0.5, 0.25), ringing: `400+450: ${double}` },
  AU: { ...single(425, [1, 4], 0.375, 0.375), ringing: `400+450: ${double}`, unobtainable: '425: continuous' },
  NZ: { ...single(400, [1, 4], 0.5, 0.25), ringing: `400+450: ${double}` },
  IN: { ...single(400, [1, 4], 0.75, 0.25), ringing: `400: ${double}` },
  ZA: { ...single(400, [1, 4], 0.5, 0.25), ringing: `400: ${double}`, unobtainable: '400: 2.5 on 0.5 off' },
  US: northAmerican, CA: northAmerican,
  DE: single(425, [1, 4], 0.48, 0.24), AT: single(420, [1, 5], 0.4, 0.2), CH: single(425, [1, 4], 0.5, 0.2), FR: single(440, [1.5, 3.5], 0.5, 0.25),
  BE: single(425, [1, 3], 0.5, 0.167), IT: single(425, [1, 4], 0.5, 0.2), PT: single(425, [1, 5], 0.5, 0.2), NO: single(425, [1, 4], 0.5, 0.2),
  DK: single(425, [1, 4], 0.25, 0.25), FI: single(425, [1, 4], 0.3, 0.2), PL: single(425, [1, 4], 0.5, 0.5), CZ: single(425, [1, 4], 0.33, 0.165),
  ES: { ...single(425, [1.5, 3], 0.2, 0.2), congestion: '425: 0.2 on 0.2 off 0.2 on 0.2 off 0.2 on 0.6 off' },
  SE: { ...single(425, [1, 5], 0.25, 0.25), congestion: '425: 0.25 on 0.75 off' },
  JP: single(400, [1, 2], 0.5, 0.5), BR: single(425, [1, 4], 0.25, 0.25), MX: single(425, [1, 4], 0.25, 0.25),
}

/** The tones that are usual in a country; elsewhere those that E.180 recommends. */
export function tonesOfCountry(country: string): TonesAsWritten {
  return Object.hasOwn(tones, country) ? tones[country]! : recommended
}
