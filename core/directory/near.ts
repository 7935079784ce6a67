/** Words that begin nearly like another, found among very many: a sorted list is walked as if it were a tree, so that what words share is compared once. */

/** What mistakes cost, by the codes of the letters (below 128). */
export interface Costs {
  /** Of one letter for another: `a * 128 + b`. */
  substitution: Int16Array
  /** Of a letter too many or missing. */
  omission: Int16Array
  /** Of two neighbours in the wrong order. */
  swap: number
}

export interface Near {
  /** Its place in the list. */
  at: number
  /** Of what was typed against the beginning that is nearest to it. */
  cost: number
  /** How many letters that beginning has. */
  length: number
}

const longest = 40

/** Every slip of a finger costs the same (Damerau–Levenshtein distance, with swaps of neighbours only). */
export const bySlip: Costs = {
  substitution: Int16Array.from({ length: 128 * 128 }, (_, index) => index % 129 === 0 ? 0 : 100), omission: new Int16Array(128).fill(100), swap: 100,
}

export class NearList {
  /** How many letters each word shares with the one before it. */
  private readonly shared: Uint8Array
  private readonly rows: Int32Array[] = Array.from({ length: longest + 2 }, () => new Int32Array(longest + 2))

  /** @param words sorted by their codes, each once */
  constructor(readonly words: readonly string[]) {
    this.shared = Uint8Array.from(words, (word, index) => {
      const before = words[index - 1] ?? ''
      let at = 0
      while (at < word.length && at < before.length && at < longest && word[at] === before[at]) at++
      return at
    })
  }

  /** All words of which a beginning costs no more than `most` against what was typed; costs are whole numbers. */
  find(typed: string, most: number, { substitution, omission, swap }: Costs): Near[] {
    const found: Near[] = []
    const wanted = typed.slice(0, longest)
    const width = wanted.length
    const { words, shared, rows } = this
    const codes = Uint8Array.from(wanted, letter => letter.charCodeAt(0) & 127)
    const first = rows[0]!
    first[0] = 0
    for (let j = 1; j <= width; j++) first[j] = first[j - 1]! + omission[codes[j - 1]!]!
    // The best end of what was typed so far, at each depth of the present word, and where it was.
    const best = new Int32Array(longest + 2)
    const bestAt = new Uint8Array(longest + 2)
    best[0] = first[width]!
    bestAt[0] = 0
    /** How deep the rows are right for the present word. */
    let known = 0
    /** Nothing deeper than this can cost less than `most`; 0: no such depth. */
    let hopeless = 0
    for (let index = 0; index < words.length; index++) {
      const word = words[index]!
      const common = shared[index]!
      if (hopeless > 0 && common >= hopeless) {
        // It goes on from a beginning that is hopeless, or fits already.
        if (best[hopeless]! <= most) found.push({ at: index, cost: best[hopeless]!, length: bestAt[hopeless]! })
        continue
      }
      hopeless = 0
      known = Math.min(known, common)
      const depth = Math.min(word.length, longest)
      for (let i = known + 1; i <= depth; i++) {
        const row = rows[i]!
        const above = rows[i - 1]!
        const code = word.charCodeAt(i - 1) & 127
        const missing = omission[code]!
        row[0] = above[0]! + missing
        let least = row[0]
        for (let j = 1; j <= width; j++) {
          const typedCode = codes[j - 1]!
          let cost = above[j - 1]! + substitution[code * 128 + typedCode]!
          const omitted = above[j]! + missing
          if (omitted < cost) cost = omitted
          const added = row[j - 1]! + omission[typedCode]!
          if (added < cost) cost = added
          if (i > 1 && j > 1 && code === codes[j - 2] && typedCode === (word.charCodeAt(i - 2) & 127) && code !== typedCode) {
            const swapped = rows[i - 2]![j - 2]! + swap
            if (swapped < cost) cost = swapped
          }
          row[j] = cost
          if (cost < least) least = cost
        }
        const end = row[width]!
        if (end <= best[i - 1]!) {
          best[i] = end
          bestAt[i] = i
        }
        else {
          best[i] = best[i - 1]!
          bestAt[i] = bestAt[i - 1]!
        }
        known = i
        if (least > most || least > best[i]!) {
          hopeless = i
          break
        }
      }
      const at = hopeless > 0 ? hopeless : depth
      if (best[at]! <= most) found.push({ at: index, cost: best[at]!, length: bestAt[at]! })
    }
    return found
  }
}
