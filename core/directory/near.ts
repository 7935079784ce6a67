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
  /** Of each row, which cells count. */
  private readonly from = new Int32Array(longest + 2)
  private readonly to = new Int32Array(longest + 2)
  /** The least that what was typed costs against a beginning no longer than this, and how long that one is. */
  private readonly best = new Int32Array(longest + 2)
  private readonly bestAt = new Uint8Array(longest + 2)

  /** All of them in one text, to look for what stands anywhere in them. */
  private joined: string | null = null

  /** @param words sorted by their codes, each once */
  constructor(readonly words: readonly string[]) {
    this.shared = Uint8Array.from(words, (word, index) => {
      const before = words[index - 1] ?? ''
      let at = 0
      while (at < word.length && at < before.length && at < longest && word[at] === before[at]) at++
      return at
    })
  }

  /** All words that hold a text inside, or begin with it. */
  holding(text: string): string[] {
    this.joined ??= `\n${this.words.join('\n')}\n`
    const { joined } = this
    const holding: string[] = []
    for (let at = joined.indexOf(text); at >= 0;) {
      const end = joined.indexOf('\n', at)
      holding.push(joined.slice(joined.lastIndexOf('\n', at) + 1, end))
      at = joined.indexOf(text, end)
    }
    return holding
  }

  /**
   * All words of which a beginning costs no more than `most` against what was typed; costs are whole numbers. Of each row only the cells that can still lead
   * to such a cost are worked out (E. Ukkonen, Finding approximate patterns in strings, 1985).
   */
  find(typed: string, most: number, { substitution, omission, swap }: Costs): Near[] {
    const found: Near[] = []
    const width = Math.min(typed.length, longest)
    const { words, shared, rows, from, to, best, bestAt } = this
    const codes = Uint8Array.from({ length: width }, (_, index) => typed.charCodeAt(index) & 127)
    const never = most + 1
    const first = rows[0]!
    first.fill(never)
    first[0] = 0
    from[0] = 0
    to[0] = 0
    for (let j = 1; j <= width; j++) {
      const cost = first[j - 1]! + omission[codes[j - 1]!]!
      if (cost > most) break
      first[j] = cost
      to[0] = j
    }
    best[0] = first[width]!
    bestAt[0] = 0
    /** How deep the rows are right for the present word. */
    let known = 0
    /** Nothing deeper than this can cost less; 0: no such depth. */
    let settledAt = 0
    for (let index = 0; index < words.length; index++) {
      const common = shared[index]!
      if (settledAt > 0 && common >= settledAt) {
        // It goes on from a beginning that is hopeless, or that nothing can be nearer than.
        if (best[settledAt]! <= most) found.push({ at: index, cost: best[settledAt]!, length: bestAt[settledAt]! })
        continue
      }
      settledAt = 0
      const word = words[index]!
      const depth = Math.min(word.length, longest)
      if (common < known) known = common
      let code = known > 0 ? word.charCodeAt(known - 1) & 127 : 0
      for (let i = known + 1; i <= depth; i++) {
        const before = code
        code = word.charCodeAt(i - 1) & 127
        const row = rows[i]!
        const above = rows[i - 1]!
        const missing = omission[code]!
        const line = code * 128
        const start = from[i - 1]!
        const end = Math.min(width, to[i - 1]! + 1)
        let least = never
        let low = width + 1
        let high = -1
        // What lies before and behind the part that counts is out of reach, for this row and the two that look back at it.
        if (start > 0) row[start - 1] = never
        for (let j = start; j <= width; j++) {
          let cost = never
          if (j === 0) cost = above[0]! + missing
          else {
            const typedCode = codes[j - 1]!
            if (j <= end) {
              const omitted = above[j]! + missing
              cost = above[j - 1]! + substitution[line + typedCode]!
              if (omitted < cost) cost = omitted
              if (i > 1 && j > 1 && code === codes[j - 2] && typedCode === before && code !== typedCode) {
                const swapped = rows[i - 2]![j - 2]! + swap
                if (swapped < cost) cost = swapped
              }
            }
            const added = j > start ? row[j - 1]! + omission[typedCode]! : never
            if (added < cost) cost = added
          }
          if (cost > most) {
            row[j] = never
            if (j > end) break
            continue
          }
          row[j] = cost
          if (cost < least) least = cost
          if (low > width) low = j
          high = j
        }
        // Behind the last cell that counts the next two rows look at one cell more.
        if (high >= 0) for (let j = high + 1; j <= Math.min(width, high + 2); j++) row[j] = never
        from[i] = low
        to[i] = high
        const whole = high === width ? row[width]! : never
        const nearer = whole <= best[i - 1]!
        best[i] = nearer ? whole : best[i - 1]!
        bestAt[i] = nearer ? i : bestAt[i - 1]!
        known = i
        if (least > most || least > best[i]!) {
          settledAt = i
          break
        }
      }
      const at = settledAt > 0 ? settledAt : depth
      if (best[at]! <= most) found.push({ at: index, cost: best[at]!, length: bestAt[at]! })
    }
    return found
  }
}
