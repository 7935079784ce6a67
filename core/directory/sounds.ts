import { fold } from './folding'

/**
 * How names sound. A word is read as a row of sounds, one letter each, as an English ear hears them; a name from elsewhere also as its own language reads it.
 * Two words are as far apart as the sounds that an ear mistakes for each other are few.
 *
 * Vowels: a e i o u, Y as in eye, W as in now, X as in boy. Consonants as written, and S as in ship, Z as in measure, C as in chip, J as in jam, T as in thin,
 * N as in sing, x as in loch, j as in yes.
 */

/** What is written here, and the sounds of it. The first that fits counts. */
type Rules = [written: RegExp, sounds: string][]
type Language = Map<string, Rules>

function language(rules: string): Language {
  const byLetter: Language = new Map()
  for (const rule of rules.trim().split(/\s*\n\s*/)) {
    const [written, sounds = ''] = rule.split(' > ') as [string, string?]
    const said = sounds === '-' ? '' : sounds
    const begins = /^\(\?<[!=][^)]*\)|^\^/.exec(written)?.[0].length ?? 0
    const rest = written.slice(begins)
    for (const letter of rest.startsWith('[') ? [...rest.slice(1, rest.indexOf(']'))] : rest.split('|').map(part => part[0]!))
      byLetter.set(letter, [...byLetter.get(letter) ?? [], [new RegExp(rest.includes('|') && !rest.includes('(') ? `(?:${rest})` : written, 'y'), said]])
  }
  return byLetter
}

const english = language(`
  augh > o
  au|aw > o
  ai|ay|ae > e
  aa|ah > a
  a > a
  (?<=m)b$ > -
  bb|b > b
  cch|ch > C
  cc(?=[eiy]) > ks
  c(?=[eiy]) > s
  ck|cc > k
  c > k
  dge|dj > J
  dg > J
  dd|d > d
  eau > o
  ew|eu > u
  ee|ea > i
  eigh > e
  ei|ey > e
  (?<=[^aeiou].*[^aeiou])e$ > -
  (?<=[aeiou].*[^aeiou])e$ > -
  e > e
  ff|f > f
  ^gh > g
  gh(?=t) > -
  gh > x
  ^gn > n
  gg > g
  g(?=[eiy]) > J
  g > g
  h(?=[aeiouyw]) > h
  h > -
  igh > Y
  ie > i
  i > i
  j > J
  ^kn > n
  kk|k > k
  ll|l > l
  ^mc|^mac > mak
  mm|m > m
  ng > N
  nn|n > n
  ough > o
  oo|ou > u
  ow > W
  oi|oy > X
  oa|oe|oh > o
  o > o
  ^ps > s
  ^pf > f
  ph > f
  pp|p > p
  qu > kw
  q > k
  rrh|rh|rr|r > r
  sch > S
  sh > S
  sc(?=[eiy]) > s
  ss|s > s
  tch > C
  th > T
  ti(?=on|a) > S
  tt|t > t
  uy > Y
  u > u
  v > v
  wh > w
  ^wr > r
  w(?=[aeiouy]) > w
  w > -
  ^x > z
  x > ks
  ^y > j
  y(?=[aeou]) > j
  y > i
  zz|z > z
`)

/** English names that are said as nobody would think. */
const unlikely = language(`
  beauch > biC
  cholmond > Cum
  gloucest > glost
  leicest > lest
  worcest > wust
  mainwar > manar
  marjori > marC
  menzies > miNis
`)

const dutch = language(`
  aa > a
  au > W
  cht > xt
  ch > x
  ee > e
  eu > u
  g > x
  ieuw > iu
  ie > i
  ij > Y
  j > j
  oe > u
  ou > W
  oo > o
  schr > sr
  sch$ > s
  sch > sk
  sj > S
  tj > C
  th > t
  uij|ui > W
  uu > u
  v > f
  w > v
  y > Y
`)

const german = language(`
  au > W
  ai > Y
  ä > e
  b$ > p
  chs > ks
  ch > x
  d$ > t
  dt > t
  ei|ey > Y
  eu > X
  e$ > e
  g$ > k
  (?<=[aeiouäöü])h > -
  ie > i
  j > j
  ö > e
  pf > f
  qu > kv
  sch > S
  ^sp > Sp
  ^st > St
  ^s(?=[aeiouäöü]) > z
  ß > s
  tsch > C
  tz > ts
  th > t
  ü > u
  v > f
  w > v
  y > u
  z > ts
`)

const french = language(`
  aill > aj
  (?<=[^e])aux$ > o
  aux|au > o
  ain(?=[^aeiouyéè]|$) > an
  a[nm](?=[^aeiouyéèmn]|$) > on
  â > a
  ch > S
  ç > s
  (?<=.)[dtspxz]+$ > -
  ^des(?=[bcdfgjlmnpqrtv]) > de
  (?<=[aeiouyéèo])s(?=[aeiouyéèê]) > z
  t(?=[gbdfkmnpsvz]) > -
  (?<=.)c$ > k
  eaux|eau > o
  eille|eill > ej
  eux > e
  eu > e
  e[nm](?=[^aeiouyéèmn]|$) > on
  er$|ez$|et$ > e
  es$|e$ > -
  [éèêë] > e
  ge(?=[ao]) > Z
  gn > nj
  gu(?=[eiyéè]) > g
  g(?=[eiyéè]) > Z
  h > -
  ill > ij
  in(?=[^aeiouyéè]|$) > an
  î > i
  j > Z
  ll(?=[eaé]) > j
  oi|oy > wa
  ou|où > u
  ô > o
  œu > e
  qu > k
  th > t
  u > u
  y > i
`)

const polish = language(`
  ą > on
  ch > h
  cz > C
  ci(?=[aeouóąę]) > C
  ci > Ci
  ć > C
  ck > tsk
  c > ts
  dz > J
  dż|dź > J
  ę > en
  i(?=[aeouóąę]) > j
  j > j
  ł > w
  ń > n
  ow$ > of
  ow > ov
  ó > u
  (?<=[kptc])rz > S
  rz > Z
  szcz > SC
  sz > S
  si(?=[aeouóąę]) > S
  si > Si
  śc|ść > SC
  ś > S
  w$ > f
  w > v
  y > i
  zi(?=[aeouóąę]) > Z
  zi > Zi
  [żź] > Z
`)

const nordic = language(`
  aa > o
  au > W
  å > o
  ä > e
  æ > e
  (?<=[nl])d$ > -
  ^dj > j
  ð > d
  ei|ey > Y
  gj > j
  ^g(?=[eiyöøä]) > j
  (?<=r)g$ > j
  hj > j
  hv > v
  h(?=n|l|r) > -
  j > j
  kj > C
  ^k(?=[eiyöøä]) > C
  ^lj > j
  øy > Y
  ø > e
  ö > e
  qv > kv
  sj > S
  skj > S
  stj > S
  sti(?=e) > S
  sk(?=[eiyöøä]) > S
  tj > C
  th > t
  þ > T
  w > v
  y > u
  z > s
`)

/** Which names may be read as another language does, by what is written in them. */
const elsewhere: [Language, RegExp][] = [
  [dutch, /ij|oe|uu|ui|eu|sch|aa|ee|oo|ch|tj|sj|g/],
  [german, /[äöüß]|sch|tz|pf|z|ei|eu|w|v|ch|qu|^j|^s[tp]|au/],
  [french, /[éèêàâçëîïôûœ]|eau|au|oux|eux|oi|oy|ill|gn|ch|ou|qu|j|[^s]th|h|en|an|[tdsxp]$/],
  [polish, /[łżźśćńąęó]|sz|cz|rz|w|ski|ska|cki|cka|icz|j|dz|ci/],
  [nordic, /[åøæäöðþ]|kj|hj|gj|sj|tj|j|aa|hv|rg$|sson|qvist|^[gk][eiy]|sti|y/],
]

function read(word: string, own: Language): string {
  // Letter for letter without marks, where a language has no rule of its own.
  const plain = [...word].map(letter => fold(letter)[0] ?? letter).join('')
  let sounds = ''
  for (let at = 0; at < word.length;) {
    const rule = ruleAt(own, word, at) ?? ruleAt(english, plain, at)
    sounds += rule?.sounds ?? ''
    at += rule?.length ?? 1
  }
  // The same sound twice is heard once.
  return sounds.replace(/(.)\1+/g, '$1')
}

function ruleAt(from: Language, word: string, at: number): { sounds: string, length: number } | null {
  for (const [written, sounds] of from.get(word[at]!) ?? []) {
    written.lastIndex = at
    const [there] = written.exec(word) ?? []
    if (there !== undefined && there.length > 0) return { sounds, length: there.length }
  }
  return null
}

/** As an English ear writes down what it hears. */
export function soundOf(word: string): string {
  return read(fold(word), unlikely)
}

/** Every way in which a name may be said, the English one first; each once. */
export function readingsOf(name: string): string[] {
  const word = name.normalize('NFC').toLowerCase()
  const readings = [soundOf(word)]
  for (const [own, hint] of elsewhere) if (hint.test(word)) readings.push(read(word, own))
  return [...new Set(readings)].filter(reading => reading.length > 1)
}

/** Costs in hundredths of a plain mistake. */
const plainMistake = 100
const vowels = 'aeiouYWX'

function substitutions(): Int16Array {
  const costs = new Int16Array(128 * 128).fill(plainMistake)
  const set = (a: string, b: string, cost: number) => {
    costs[a.charCodeAt(0) * 128 + b.charCodeAt(0)] = cost
    costs[b.charCodeAt(0) * 128 + a.charCodeAt(0)] = cost
  }
  for (let code = 0; code < 128; code++) costs[code * 128 + code] = 0
  for (const one of vowels) {
    for (const other of vowels) if (one !== other) set(one, other, 30)
    for (const consonant of 'pbtdkgfvTszSZCJmnNlrhx') set(one, consonant, 150)
  }
  const near: [string, number][] = [
    ['ao ei ou ae ue uo', 18],
    ['Wo Wa Wu Ya Ye Yi Xo XY au ji wu', 24],
    ['pb td kg fv sz SZ CJ mn nN vw xh xk', 30],
    ['Tt Tf Ts dT CS Ct JZ Jg Jj jZ Ss xg xS hk Zz kC', 40],
    ['pf bv pv bf lr gx kt Jd Cs mN Sk sT tk hx Jz sC zJ vb', 60],
  ]
  for (const [pairs, cost] of near) for (const pair of pairs.split(' ')) set(pair[0]!, pair[1]!, cost)
  return costs
}

function omissions(): Int16Array {
  const costs = new Int16Array(128).fill(80)
  for (const vowel of vowels) costs[vowel.charCodeAt(0)] = 38
  const set = (sounds: string, cost: number) => {
    for (const sound of sounds) costs[sound.charCodeAt(0)] = cost
  }
  set('hx', 28)
  set('jw', 32)
  set('r', 38)
  set('dtlg', 60)
  return costs
}

/** For `near`: how sounds are mistaken for each other, and which are missed or heard where there is none. */
export const bySound = { substitution: substitutions(), omission: omissions(), swap: 100 }
