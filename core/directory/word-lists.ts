import { NearList } from './near'

/**
 * The words of an index in the order of their letters, those that begin with a digit apart, and how they sound in theirs. New words make lists of their own,
 * and lists of one size become one (the logarithmic method: J. L. Bentley, J. B. Saxe, Decomposable searching problems, Journal of Algorithms 1, 1980): so a
 * change is taken in at once, however many words there are.
 */
export class WordLists<Word> {
  private constructor(
    readonly written: NearList,
    readonly digits: readonly string[],
    readonly sounds: NearList,
    /** Of each sound the words that sound so. */
    readonly ofSound: readonly (readonly Word[])[],
  ) {}

  get size(): number {
    return this.written.words.length + this.digits.length
  }

  /** @param words each with itself, and with how it sounds */
  static of<Word>(words: ReadonlyMap<string, { word: Word, sounds: readonly string[] }>): WordLists<Word> {
    const texts = [...words.keys()].sort(byCodes)
    const ofSound = new Map<string, Word[]>()
    for (const { word, sounds } of words.values()) for (const sound of sounds) ofSound.set(sound, [...ofSound.get(sound) ?? [], word])
    const sounds = [...ofSound.keys()].sort(byCodes)
    const written = new NearList(texts.filter(text => !isDigit(text)))
    return new WordLists(written, texts.filter(isDigit), new NearList(sounds), sounds.map(sound => ofSound.get(sound)!))
  }

  with(other: WordLists<Word>): WordLists<Word> {
    const sounds = union(this.sounds.words, other.sounds.words)
    let [mine, theirs] = [0, 0]
    const ofSound = sounds.map(sound => [
      ...this.sounds.words[mine] === sound ? this.ofSound[mine++]! : [], ...other.sounds.words[theirs] === sound ? other.ofSound[theirs++]! : [],
    ])
    return new WordLists(new NearList(union(this.written.words, other.written.words)), union(this.digits, other.digits), new NearList(sounds), ofSound)
  }
}

export const isDigit = (text: string) => text.charCodeAt(0) >= 48 && text.charCodeAt(0) <= 57
const byCodes = (one: string, other: string) => one < other ? -1 : one > other ? 1 : 0

/** Two lists in order as one, each word once. */
function union(one: readonly string[], other: readonly string[]): string[] {
  const all: string[] = []
  let [at, there] = [0, 0]
  while (at < one.length || there < other.length) {
    const order = at === one.length ? 1 : there === other.length ? -1 : byCodes(one[at]!, other[there]!)
    all.push(order <= 0 ? one[at]! : other[there]!)
    if (order <= 0) at++
    if (order >= 0) there++
  }
  return all
}
